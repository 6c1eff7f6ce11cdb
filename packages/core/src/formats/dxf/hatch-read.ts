import { bulgeSegment, ellipseOutline } from '../../base/geometry/arcs';
import type { Matrix } from '../../base/geometry/matrix';
import { type Outline, type Segment, endOf } from '../../base/geometry/outline';
import { type LineFamily, normalFamily } from '../../content/drawing/line-families';
import type { BoxGradient } from '../../evaluate/gradients/gradient-box';
import { GRADIENT_NAMES } from './hatch-write';
import { type Point, near } from '../../base/geometry/point';
import type { DxfRecord } from './records';
import { outlineOfSpline } from './spline';

/** Groups of a record, taken one after the other. */
class Tape {
  private readonly codes: number[] = [];
  private readonly values: (() => number)[] = [];
  private at = 0;

  constructor(record: DxfRecord) {
    record.each((code, number) => {
      this.codes.push(code);
      this.values.push(number);
    });
  }

  /** Goes on to the next group of a code. @returns false where there is none */
  seek(code: number): boolean {
    const found = this.codes.indexOf(code, this.at);
    if (found < 0) return false;
    this.at = found;
    return true;
  }

  /** The value of the next group, where it has this code. */
  take(code: number, otherwise = 0): number {
    if (this.codes[this.at] !== code) return otherwise;
    return this.values[this.at++]!();
  }

  point(code: number): Point {
    return [this.take(code), this.take(code + 10)];
  }
}

const POLYLINE = 2;
/** Corners or knots that one loop may have. */
const MOST = 200_000;
const TOGETHER = 1e-6;

/** What is filled by a hatch, as the file states it. */
interface Hatch {
  readonly loops: readonly Outline[];
  /** Two colours across the box of the loops, in the axes of the hatch; null where it is of one. */
  readonly gradient: BoxGradient | null;
  /** Families of lines that fill it, in the axes of the hatch; null where it is filled all over. */
  readonly lines: readonly LineFamily[] | null;
  /** What of it is not understood. */
  readonly notes: readonly string[];
}

/** Reads the loops of a HATCH (DXF reference, HATCH; boundary path data). */
export function readHatch(record: DxfRecord): Hatch {
  const notes: string[] = [];
  const lines = record.number(70, 1) === 1 ? null : readLines(record, notes);
  const gradient = readGradient(record, notes);
  const tape = new Tape(record);
  const loops: Outline[] = [];
  if (!tape.seek(91)) return { loops, gradient, lines, notes: [...notes, 'hatch without an edge'] };
  const count = Math.min(tape.take(91), MOST);
  for (let i = 0; i < count && tape.seek(92); i++) {
    const flags = tape.take(92);
    const loop = flags & POLYLINE ? corners(tape) : edges(tape, notes);
    if (loop) loops.push(loop);
  }
  if (!loops.length && !notes.length) notes.push('hatch without an edge');
  if (count > 1 && tape.seek(75) && tape.take(75) !== 0) notes.push('hatch that fills its islands otherwise');
  return { loops, gradient, lines, notes };
}

/** Families of lines that one hatch may have, and dashes of a line. */
const [MOST_LINES, MOST_DASHES] = [64, 64];

/** The lines of a hatch by pattern (DXF reference, HATCH; pattern data). */
function readLines(record: DxfRecord, notes: string[]): LineFamily[] {
  const name = record.text(2)?.trim() ?? '';
  const unread = (why: string) => void notes.push(`hatch by pattern ${name}${why}`);
  const tape = new Tape(record);
  const found: LineFamily[] = [];
  if (!tape.seek(78)) unread(', of which no line is stated');
  const count = tape.take(78);
  if (count > MOST_LINES) unread(` of ${count} lines`);
  for (let i = 0; i < Math.min(count, MOST_LINES) && tape.seek(53); i++) {
    const turn = radians(tape.take(53));
    const base: Point = [tape.take(43), tape.take(44)];
    const step: Point = [tape.take(45), tape.take(46)];
    const items = Array.from({ length: Math.min(tape.take(79), MOST_DASHES) }, () => tape.take(49));
    const dashes = dashesOfItems(items);
    if (dashes === null) unread(' with dots');
    else {
      const along: Point = [Math.cos(turn), Math.sin(turn)];
      const start: Point = [base[0] + along[0] * dashes.start, base[1] + along[1] * dashes.start];
      const family = normalFamily({ base: start, along, step, dashes: dashes.lengths });
      if (family) found.push(family);
      else unread(', whose lines lie on each other');
    }
  }
  return found;
}

/** Dashes and gaps by turns, and how far from the base the first dash is; null where there are dots. */
function dashesOfItems(items: readonly number[]): { start: number; lengths: number[] } | null {
  if (items.some((item) => item === 0)) return null;
  // From the first dash after a gap on, with what stands before it at the end.
  const first = items.findIndex((item, i) => item > 0 && (items[i - 1] ?? items.at(-1)!) < 0);
  if (first < 0) return { start: 0, lengths: [] };
  const start = items.slice(0, first).reduce((sum, item) => sum + Math.abs(item), 0);
  const lengths: number[] = [];
  for (const item of [...items.slice(first), ...items.slice(0, first)]) {
    const dash = item > 0;
    if (dash === (lengths.length % 2 === 0)) lengths.push(Math.abs(item));
    else lengths[lengths.length - 1]! += Math.abs(item);
  }
  return { start, lengths };
}

/** How the ways in which two colours run are read: what begins with INV has its colours the other way round. */
const GRADIENTS: Readonly<Record<string, BoxGradient['kind']>> = Object.fromEntries(
  Object.entries(GRADIENT_NAMES).map(([kind, name]) => [name, kind as BoxGradient['kind']]),
);

/** What shades a hatch; null, and a note where it is not known, for one colour. */
function readGradient(record: DxfRecord, notes: string[]): BoxGradient | null {
  if (record.number(450, 0) !== 1) return null;
  const [, inverse, name] = /^(INV)?(.*)$/.exec(record.text(470)?.trim().toUpperCase() ?? '')!;
  const kind = GRADIENTS[name!];
  const colours = record.all(421).map((value) => `#${(value & 0xffffff).toString(16).padStart(6, '0')}`);
  // One colour with a tint, and a middle that is shifted, shade otherwise than two colours do.
  const plain = record.number(452, 0) === 0 && record.number(461, 0) === 0 && colours.length === 2;
  if (!kind || !plain) {
    notes.push(`hatch by gradient ${name}, taken as one colour`);
    return null;
  }
  const [first, last] = colours as [string, string];
  return { kind, angle: record.number(460, 0), colours: inverse ? [last, first] : [first, last] };
}

function corners(tape: Tape): Outline | null {
  tape.take(72);
  tape.take(73);
  const count = Math.min(tape.take(93), MOST);
  const points: { at: Point; bulge: number }[] = [];
  for (let i = 0; i < count; i++) points.push({ at: tape.point(10), bulge: tape.take(42) });
  if (points.length < 2) return null;
  const segments = points.map(({ at, bulge }, i): Segment => {
    const to = points[(i + 1) % points.length]!.at;
    return bulge ? bulgeSegment(at, to, bulge) : { kind: 'line', to };
  });
  // The straight closing line is left to `closed`.
  if (segments.at(-1)!.kind === 'line') segments.pop();
  return { start: points[0]!.at, segments, closed: true };
}

type Edge = (tape: Tape) => Outline | string;
const radians = (degrees: number): number => (degrees * Math.PI) / 180;

function ellipse(frame: Matrix, tape: Tape): Outline {
  const [from, to] = [radians(tape.take(50)), radians(tape.take(51))];
  const onwards = tape.take(73, 1) === 1;
  let sweep = to - from;
  if (sweep <= 0) sweep += 2 * Math.PI;
  // Angles of one that runs clockwise are stated as seen from behind.
  return onwards
    ? ellipseOutline(frame, from, Math.min(sweep, 2 * Math.PI))
    : ellipseOutline(frame, -from, -Math.min(sweep, 2 * Math.PI));
}

/** How each kind of edge is read (group 72). */
const EDGES: Readonly<Record<number, Edge>> = {
  1: (tape) => ({ start: tape.point(10), segments: [{ kind: 'line', to: tape.point(11) }], closed: false }),
  2: (tape) => {
    const [x, y] = tape.point(10);
    const radius = tape.take(40);
    return ellipse([radius, 0, 0, radius, x, y], tape);
  },
  3: (tape) => {
    const [x, y] = tape.point(10);
    const [mx, my] = tape.point(11);
    const ratio = tape.take(40, 1);
    return ellipse([mx, my, -my * ratio, mx * ratio, x, y], tape);
  },
  4: (tape) => {
    const degree = tape.take(94, 3);
    const rational = tape.take(73);
    tape.take(74);
    const [knotCount, pointCount] = [Math.min(tape.take(95), MOST), Math.min(tape.take(96), MOST)];
    const knots = Array.from({ length: knotCount }, () => tape.take(40));
    const points: Point[] = [];
    const weights: number[] = [];
    for (let i = 0; i < pointCount; i++) {
      points.push(tape.point(10));
      if (rational) weights.push(tape.take(42, 1));
    }
    return (
      outlineOfSpline({ degree, knots, points, weights }, false)?.outline ?? 'hatch whose edge is a spline that does not fit'
    );
  },
};

const reversed = ({ start, segments }: Outline): Outline => {
  const ends = [start, ...segments.map(({ to }) => to)];
  const back = segments.map((segment, i): Segment => {
    const to = ends[i]!;
    if (segment.kind === 'line') return { kind: 'line', to };
    if (segment.kind === 'arc') return { ...segment, to, clockwise: !segment.clockwise };
    return { kind: 'cubic', c1: segment.c2, c2: segment.c1, to };
  });
  return { start: ends.at(-1)!, segments: back.reverse(), closed: false };
};

function edges(tape: Tape, notes: string[]): Outline | null {
  const count = Math.min(tape.take(93), MOST);
  const found: Outline[] = [];
  for (let i = 0; i < count; i++) {
    const edge = EDGES[tape.take(72)]?.(tape) ?? 'hatch whose edge is of an unknown kind';
    if (typeof edge !== 'string') found.push(edge);
    else {
      notes.push(edge);
      return null;
    }
  }
  const [first, ...rest] = found;
  if (!first) return null;
  if (!rest.length) return { ...first, closed: true };
  const next = rest[0]!;
  // Edges follow each other, whichever way each is stated.
  const turn =
    [next.start, endOf(next)].some((point) => near(point, first.start, TOGETHER)) && !near(endOf(first), next.start, TOGETHER);
  const begin = turn ? reversed(first) : first;
  const segments = [...begin.segments];
  let at = endOf(begin);
  for (const edge of rest) {
    const way = near(edge.start, at, TOGETHER) || !near(endOf(edge), at, TOGETHER) ? edge : reversed(edge);
    if (!near(way.start, at, TOGETHER)) segments.push({ kind: 'line', to: way.start });
    segments.push(...way.segments);
    at = endOf(way);
  }
  if (segments.at(-1)!.kind === 'line' && near(at, begin.start, TOGETHER)) segments.pop();
  return { start: begin.start, segments, closed: true };
}
