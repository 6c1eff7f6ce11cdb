import { DELIMITERS, type Delimiter } from './declare';

/** A text of cells without what stands before its heading. */
interface WithoutPreamble {
  readonly text: string;
  /** What the text itself says stands between cells. */
  readonly delimiter: Delimiter | undefined;
  /** Lines that are left out: they tell of the table and are none of it. */
  readonly comments: readonly string[];
}

/** Lines that are left out before a heading at most. */
const MOST = 200;

/** Takes off a line that only says the delimiter (sep=;), and lines that begin with # before the heading. */
export function withoutPreamble(whole: string): WithoutPreamble {
  let text = whole.replace(/^\ufeff/, '');
  let delimiter: Delimiter | undefined;
  const stated = /^"?sep=(.)"?\r?\n/i.exec(text);
  if (stated) {
    text = text.slice(stated[0].length);
    delimiter = (Object.keys(DELIMITERS) as Delimiter[]).find((name) => DELIMITERS[name] === stated[1]);
  }
  const comments: string[] = [];
  for (let line = firstLine(text); line && comments.length < MOST; line = firstLine(text)) {
    if (!/^\s*(#|$)/.test(line.replace(/[\r\n]+$/, '')) || line === text) break;
    if (line.trim()) comments.push(line.trim());
    text = text.slice(line.length);
  }
  return comments.length ? { text, delimiter, comments } : { text: stated ? text : whole, delimiter, comments };
}
const firstLine = (text: string): string => /^[^\r\n]*(?:\r\n|\n|\r|$)/.exec(text)?.[0] ?? '';
