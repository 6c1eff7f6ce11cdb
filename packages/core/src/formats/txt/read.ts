import { normaliseBlocks } from '../../content/prose/lists';
import { type ProseBlock, plainSpan, plainWords } from '../../content/prose/prose';

/** Lines up to which a text looks as if somebody had broken it. */
const BROKEN = 100;
/** What an item of a list begins with. */
const ITEM = /^\s*(?:[-*+•–]|\(?(?:\d{1,3}|[a-z])[.)])\s/;

/** The lines of a text that were broken by their width, joined: a line ends by itself where the next word would have had room. */
function joinedLines(paragraph: string, width: number): string[] {
  const out: string[] = [];
  let before = '';
  for (const line of paragraph.split('\n')) {
    const [word = ''] = line.trim().split(/\s/, 1);
    const hadRoom = before.length + 1 + word.length <= width - ROOM;
    if (out.length && !ITEM.test(line) && !hadRoom) out[out.length - 1] += ` ${line.trim()}`;
    else out.push(line);
    before = line;
  }
  return out;
}
/** Signs by which lines of one text are broken sooner or later. */
const ROOM = 12;

/** Whether the lines of a text are parts of paragraphs, which empty lines part. */
function isBroken(paragraphs: readonly string[]): boolean {
  const several = paragraphs.filter((one) => one.includes('\n'));
  if (paragraphs.length < 2 || !several.length) return false;
  const lines = several.flatMap((one) => one.split('\n'));
  return lines.every((line) => line.length <= BROKEN) && several.some((one) => one.split('\n')[0]!.length > 30);
}

/** @param broken whether lines are parts of paragraphs; found where nothing is said */
export function readTxt(text: string, broken?: boolean): ProseBlock[] {
  const plain = text.replace(/^\uFEFF/, '').replace(/\r\n?|\u2028|\u2029|\f/g, '\n');
  const paragraphs = plain
    .split(/\n[ \t]*(?:\n[ \t]*)+/)
    .map((one) => one.replace(/^\n+|\n+$/g, ''))
    // A blank that does not break is a sign like others, as everywhere in texts (normalise.ts).
    .filter((one) => /[\S\u00a0]/.test(one));
  const width = plain.split('\n').reduce((most, line) => Math.max(most, line.length), 0);
  const all =
    broken === undefined && isBroken(paragraphs)
      ? paragraphs.flatMap((one) => joinedLines(one, width))
      : broken
        ? paragraphs.map((one) => one.replace(/\n/g, ' '))
        : plain.split('\n');
  return normaliseBlocks(all.map((one) => plainWords([plainSpan(one)])));
}
