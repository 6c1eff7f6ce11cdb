import type { Point } from '../../../base/geometry/point';
import { ACCENT_SHAPES, LETTER_SHAPES } from './shapes';

/** A letter for the needle: its centre lines in hundredths of the size, and how far the next one stands from it. */
interface NeedleLetter {
  readonly advance: number;
  readonly strokes: readonly (readonly Point[])[];
}

/** Points between two of a smooth stroke. */
const BETWEEN = 6;
/** How much higher capitals carry their marks, and how wide a gap between words is. */
const [HIGHER, GAP] = [22, 34];

const pointsOf = (words: string): Point[] => words.split(' ').map((word) => word.split(',').map(Number) as unknown as Point);

/** A curve through points (Catmull and Rom, "A class of local interpolating splines", 1974); one that ends where it begins is closed. */
function smooth(points: readonly Point[]): Point[] {
  const last = points.length - 1;
  const [first, end] = [points[0]!, points[last]!];
  const closed = first[0] === end[0] && first[1] === end[1];
  const at = (i: number): Point => {
    if (i >= 0 && i <= last) return points[i]!;
    if (closed) return points[i < 0 ? last + i : i - last]!;
    return i < 0 ? first : end;
  };
  const out: Point[] = [first];
  for (let i = 0; i < last; i++) {
    const [a, b, c, d] = [at(i - 1), at(i), at(i + 1), at(i + 2)];
    for (let k = 1; k <= BETWEEN; k++) {
      const t = k / BETWEEN;
      const along = (axis: 0 | 1): number =>
        0.5 *
        (2 * b[axis] +
          (c[axis] - a[axis]) * t +
          (2 * a[axis] - 5 * b[axis] + 4 * c[axis] - d[axis]) * t * t +
          (3 * b[axis] - a[axis] - 3 * c[axis] + d[axis]) * t * t * t);
      out.push([along(0), along(1)]);
    }
  }
  return out;
}

const strokesOf = (words: string): Point[][] =>
  words.split('|').map((stroke) => (stroke.startsWith('~') ? smooth(pointsOf(stroke.slice(1))) : pointsOf(stroke)));

const known = new Map<string, NeedleLetter | null>();

/** A letter for the needle; marks over letters are put onto them. Null for what there is none of. */
function letterOf(character: string): NeedleLetter | null {
  let found = known.get(character);
  if (found === undefined) known.set(character, (found = made(character)));
  return found;
}

function made(character: string): NeedleLetter | null {
  if (/^\s$/.test(character)) return { advance: GAP, strokes: [] };
  const [base = '', ...marks] = character.normalize('NFD');
  const shape = LETTER_SHAPES[base];
  if (!shape || marks.some((mark) => !ACCENT_SHAPES[mark])) return null;
  const [advance, ...strokes] = shape.split('|');
  const above = marks.some((mark) => mark !== '\u0327');
  // A dot gives way to the mark that stands in its place.
  const own = strokesOf((above && base === 'i' ? strokes.slice(0, 1) : strokes).join('|'));
  const middle = Number(advance) / 2;
  const high = base === base.toLowerCase() ? 0 : HIGHER;
  const put = marks.flatMap((mark) =>
    strokesOf(ACCENT_SHAPES[mark]!).map((stroke) =>
      stroke.map(([x, y]): Point => [x + middle, mark === '\u0327' ? y : y + high]),
    ),
  );
  return { advance: Number(advance), strokes: [...own, ...put] };
}

/** A line of text in letters for the needle. */
interface NeedleLine {
  /** Centre lines letter by letter, in sizes of the text, from the left end of its base line. */
  readonly strokes: readonly (readonly Point[])[];
  /** How far it runs, in sizes. */
  readonly width: number;
  /** Characters that there are no such letters for. */
  readonly missing: readonly string[];
}

/** A line of text, letter by letter from the left. @param spacing added behind each letter, in sizes */
export function needleLine(text: string, spacing = 0): NeedleLine {
  const strokes: Point[][] = [];
  const missing: string[] = [];
  let at = 0;
  for (const character of text.normalize('NFC')) {
    const letter = letterOf(character);
    if (!letter) {
      missing.push(character);
      continue;
    }
    for (const stroke of letter.strokes) strokes.push(stroke.map(([x, y]): Point => [at + x / 100, y / 100]));
    at += letter.advance / 100 + spacing;
  }
  return { strokes, width: at, missing };
}
