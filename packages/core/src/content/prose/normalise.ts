import { EMPHASES, type Emphasis } from '../../document/texts/schema';
import type { ProseSpan } from './prose';

const lookOf = ({ marks, link }: ProseSpan): string => `${marks.join(' ')}|${link}`;
const sorted = (marks: readonly Emphasis[]): readonly Emphasis[] =>
  marks.length > 1 ? EMPHASES.filter((mark) => marks.includes(mark)) : marks;

/** A blank between two stretches has what both of them have. */
function between(before: ProseSpan | undefined, after: ProseSpan | undefined): Pick<ProseSpan, 'marks' | 'link'> {
  if (!before || !after || before.note || after.note) return { marks: [], link: '' };
  return {
    marks: before.marks.filter((mark) => after.marks.includes(mark)),
    link: before.link === after.link ? before.link : '',
  };
}

/** Stretches as words, blanks and notes, each apart. */
function* pieces(spans: readonly ProseSpan[]): Generator<ProseSpan> {
  for (const span of spans) {
    if (span.note) yield { text: '', marks: [], link: '', note: normaliseSpans(span.note) };
    else
      for (const text of span.text.split(/([ \t\r\f\v]*\n[ \t\r\f\v]*|[ \t\r\f\v]+)/))
        if (text) yield { ...span, marks: sorted(span.marks), text };
  }
}

/**
 * Words as they are written in one way only: blanks collapsed, none at the ends of lines, stretches that look alike joined, and the look of
 * blanks that of what is about them. What differs in nothing else says the same.
 */
export function normaliseSpans(spans: readonly ProseSpan[]): readonly ProseSpan[] {
  const [only] = spans;
  if (spans.length === 1 && only && !only.note && !/\s/.test(only.text) && only.text)
    return [{ ...only, marks: sorted(only.marks) }];
  const list: ProseSpan[] = [];
  for (const piece of pieces(spans)) {
    const last = list.at(-1);
    const isBlank = !piece.note && !/\S/.test(piece.text.replace(/\u00a0/g, 'x'));
    if (!isBlank) list.push(piece);
    else if (last && !last.note && (last.text === ' ' || last.text === '\n')) {
      // Of blanks in a row one is left; an end of a line swallows those about it.
      if (piece.text.includes('\n')) {
        if (last.text === ' ') list.pop();
        for (const _ of piece.text.matchAll(/\n/g)) list.push({ ...piece, text: '\n' });
      }
    } else if (piece.text.includes('\n')) for (const _ of piece.text.matchAll(/\n/g)) list.push({ ...piece, text: '\n' });
    else list.push({ ...piece, text: ' ' });
  }
  const isGap = (span: ProseSpan | undefined) => span !== undefined && !span.note && (span.text === ' ' || span.text === '\n');
  while (isGap(list.at(-1))) list.pop();
  let first = 0;
  while (isGap(list[first])) first++;
  const out: ProseSpan[] = [];
  let last: ProseSpan | undefined;
  for (let i = first; i < list.length; i++) {
    let piece = list[i]!;
    if (isGap(piece)) {
      let next = i + 1;
      while (isGap(list[next])) next++;
      piece = { ...piece, ...between(last, list[next]) };
    }
    if (last && !last.note && !piece.note && lookOf(last) === lookOf(piece)) {
      last = { ...last, text: last.text + piece.text };
      out[out.length - 1] = last;
    } else out.push((last = piece));
  }
  return out;
}
