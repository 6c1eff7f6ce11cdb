import { ByteWriter } from '../../base/bytes/byte-writer';
import type { Machining } from '../../contracts/machining';
import { markNotes, plainNote } from './notes';

/** G words of motions, by their place in `MOTIONS` (ISO 6983-1, table 3). */
const WORDS = ['G0', 'G1', 'G2', 'G3'] as const;
const AXES = ['X', 'Y', 'Z'] as const;

/** How a program is spelled. */
interface Spelling {
  readonly inch: boolean;
  readonly numbered: boolean;
  readonly title: string;
}

/** Numbers with a decimal point, as the standard has them for lengths. */
const length = (value: number, decimals: number): string => {
  const text = withoutZeros(value.toFixed(decimals));
  return text === '-0.' ? '0.' : text;
};

function withoutZeros(text: string): string {
  let end = text.length;
  while (text.charCodeAt(end - 1) === 48) end--;
  return text.slice(0, end);
}

/** A program: what is said once stays so until something else is said. */
export function writeProgram(moves: Machining, mark: string, { inch, numbered, title }: Spelling): Uint8Array {
  const out = new ByteWriter();
  let number = 0;
  const line = (words: string): void => {
    if (!words) return;
    out.text(numbered && !words.startsWith('(') && words !== '%' ? `N${(number += 10)} ${words}\n` : `${words}\n`);
  };
  const [unit, decimals] = inch ? [25.4, 5] : [1, 4];
  line('%');
  if (title) line(plainNote(title));
  for (const note of markNotes(mark)) line(note);
  line(`${inch ? 'G20' : 'G21'} G17 G90 G40 G54 G94`);
  let [tool, spindle, motion, feed, source] = [-1, 0, -1, NaN, -2];
  const at: (number | undefined)[] = [undefined, undefined, undefined];
  for (let i = 0; i < moves.count; i++) {
    if (moves.tool[i] !== tool) {
      tool = moves.tool[i]!;
      if (spindle) line('M5');
      spindle = 0;
      const { number: turret, name } = moves.tools[tool]!;
      line(plainNote(`tool ${turret}: ${name}`));
      line(`T${turret} M6`);
      // After a change nobody relies on what was said before it.
      motion = -1;
    }
    if (moves.spindle[i] !== spindle) {
      spindle = moves.spindle[i]!;
      line(spindle ? `S${spindle} M3` : 'M5');
    }
    if (moves.source[i] !== source) {
      source = moves.source[i]!;
      const name = moves.names[source];
      if (name) line(plainNote(name));
    }
    const words: string[] = [];
    if (moves.motion[i] !== motion) {
      motion = moves.motion[i]!;
      words.push(WORDS[motion]!);
    }
    const isArc = motion > 1;
    const before = [moves.ends[3 * i - 3], moves.ends[3 * i - 2]];
    AXES.forEach((axis, k) => {
      const value = moves.ends[3 * i + k]!;
      if (Number.isNaN(value)) return;
      if (at[k] === value && !(isArc && k < 2)) return;
      at[k] = value;
      words.push(`${axis}${length(value / unit, decimals)}`);
    });
    if (isArc)
      for (const [k, axis] of ['I', 'J'].entries())
        words.push(`${axis}${length((moves.centres[2 * i + k]! - before[k]!) / unit, decimals)}`);
    if (motion > 0 && moves.feed[i] !== feed) {
      feed = moves.feed[i]!;
      words.push(`F${length(feed / unit, inch ? 4 : 2)}`);
    }
    line(words.join(' '));
  }
  if (spindle) line('M5');
  line('M2');
  line('%');
  return out.bytes();
}
