import { type Matrix, apply } from '../../base/geometry/matrix';
import type { Point } from '../../base/geometry/point';
import type { PlacedPattern } from '../../document/paint';
import type { ResolvedEntry, ResolvedPart } from '../../evaluate/resolve';
import { type DisplayStyle, isSeeThrough } from '../../contracts/display-list';
import { DrawingBuilder } from './drawing';
import type { Drawing } from '../../contracts/drawing';
import { isPlain } from '../../document/paint';

/** Straight lines without end that lie beside each other at equal distances, whole or dashed: what formats of hatches can say. */
export interface LineFamily {
  /** Where a dash begins, or any point of a whole line. */
  readonly base: Point;
  /** The way of the lines; of length 1. */
  readonly along: Point;
  /** From one line to the next, to the left of their way. */
  readonly step: Point;
  /** Dashes and gaps by turns, beginning with a dash; none for whole lines. */
  readonly dashes: readonly number[];
}

const dot = ([ax, ay]: Point, [bx, by]: Point): number => ax * bx + ay * by;
const cross = ([ax, ay]: Point, [bx, by]: Point): number => ax * by - ay * bx;
const length = (p: Point): number => Math.hypot(p[0], p[1]);
const sum = (a: Point, b: Point, times = 1): Point => [a[0] + times * b[0], a[1] + times * b[1]];

/** How far off a line may be from where it is taken to be, mm. */
const OFF = 0.002;
/** Lines closer to each other than this are no hatch, mm. */
const CLOSEST = 0.01;

/** The same lines stated one way; null where they lie on each other. */
export function normalFamily({ base, along, step, dashes }: LineFamily): LineFamily | null {
  const unit: Point = [along[0] / length(along), along[1] / length(along)];
  const apart = cross(unit, step);
  if (!(Math.abs(apart) >= CLOSEST)) return null;
  const left: Point = [-unit[1] * Math.abs(apart), unit[0] * Math.abs(apart)];
  if (!dashes.length) return { base, along: unit, step: left, dashes };
  const period = dashes.reduce((all, one) => all + one, 0);
  // A whole period along a line is the same line.
  const shift = dot(unit, step) * Math.sign(apart);
  return { base, along: unit, step: sum(left, unit, shift - period * Math.floor((shift + OFF) / period)), dashes };
}

/** A family as it lies after a map of its plane. */
export function mapped({ base, along, step, dashes }: LineFamily, matrix: Matrix): LineFamily | null {
  const turned = ([x, y]: Point): Point => [matrix[0] * x + matrix[2] * y, matrix[1] * x + matrix[3] * y];
  const way = turned(along);
  return normalFamily({
    base: apply(matrix, base),
    along: way,
    step: turned(step),
    dashes: dashes.map((one) => one * length(way)),
  });
}

/** The cell that repeated makes a family: its size, where it lies, and the dashes along its middle. */
export function cellOfFamily({ base, along, step, dashes }: LineFamily): Pick<PlacedPattern, 'width' | 'height' | 'at'> & {
  readonly pieces: readonly (readonly [from: number, to: number])[];
} {
  const height = cross(along, step);
  const width = dashes.length ? dashes.reduce((all, one) => all + one, 0) : height;
  const [dx, dy] = [step[0] / height, step[1] / height];
  const pieces: [number, number][] = [];
  let at = 0;
  dashes.forEach((one, i) => {
    if (i % 2 === 0) pieces.push([at, at + one]);
    at += one;
  });
  return {
    width,
    height,
    at: [along[0], along[1], dx, dy, base[0] - step[0] / 2, base[1] - step[1] / 2],
    pieces: pieces.length ? pieces : [[0, width]],
  };
}

/** A family as a paint, and the drawing of its cell. */
export function familyPaint(family: LineFamily, look: DisplayStyle): { paint: Omit<PlacedPattern, 'cell'>; cell: Drawing } {
  const { width, height, at, pieces } = cellOfFamily(family);
  const builder = new DrawingBuilder();
  for (const [from, to] of pieces) {
    builder.paths.move(from, height / 2);
    builder.paths.line(to, height / 2);
    builder.paths.end(false);
    builder.path(builder.layer(''), builder.look(look));
  }
  return { paint: { kind: 'pattern', width, height, at }, cell: builder.finish(null, null) };
}

/** The family that a paint of `familyPaint` is. */
export function familyOfPaint({ width, height, at }: PlacedPattern, { count, firstOutline, paths }: Drawing): LineFamily {
  const ends: [number, number][] = [];
  for (let o = 0; o < firstOutline[count]!; o++) {
    const c = paths.firstCoord[o]!;
    ends.push([paths.coords[c]!, paths.coords[c + 2]!]);
  }
  const whole = ends.length === 1 && ends[0]![1] - ends[0]![0] >= width * (1 - 1e-9);
  const dashes = whole ? [] : ends.flatMap(([from, to], i) => [to - from, (ends[i + 1]?.[0] ?? width) - to]);
  const step: Point = [at[2] * height, at[3] * height];
  return { base: [at[4] + step[0] / 2, at[5] + step[1] / 2], along: [at[0], at[1]], step, dashes };
}

/** A family in the plane of a pattern's cell, and an entry of the cell that looks as its lines do. */
interface FoundFamily {
  readonly family: LineFamily;
  readonly entry: ResolvedEntry;
}

/** Straight lines that a cell may hold. */
const MOST = 200;
/** How many cells across and up a line may run before it repeats. */
const FARTHEST = 12;

const gcd = (a: number, b: number): number => (b ? gcd(b, a % b) : a);

/** Ways in which whole numbers of cells lead, the nearest first, each with one that leads to the lines beside. */
const WAYS: readonly { readonly way: Point; readonly beside: Point }[] = (() => {
  const found: { way: Point; beside: Point }[] = [];
  for (let i = 0; i <= FARTHEST; i++)
    for (let j = -FARTHEST; j <= FARTHEST; j++) {
      if (gcd(i, Math.abs(j)) !== 1 || (i === 0 && j !== 1)) continue;
      for (let x = -FARTHEST; x <= FARTHEST; x++) {
        // i·y − j·x = 1: together they lead everywhere.
        const y = i === 0 ? 0 : (1 + j * x) / i;
        if ((i === 0 && x !== -1) || !Number.isInteger(y)) continue;
        found.push({ way: [i, j], beside: [x, y] });
        break;
      }
    }
  return found.sort((a, b) => length(a.way) - length(b.way));
})();

/** The part of a line that lies in a cell (Liang and Barsky); null where none does. */
function within([px, py]: Point, [qx, qy]: Point, width: number, height: number): readonly [Point, Point] | null {
  let [from, to] = [0, 1];
  const [dx, dy] = [qx - px, qy - py];
  for (const [by, room] of [
    [-dx, px],
    [dx, width - px],
    [-dy, py],
    [dy, height - py],
  ] as const) {
    if (Math.abs(by) < 1e-12) {
      if (room < -OFF) return null;
      continue;
    }
    const at = room / by;
    if (by < 0) from = Math.max(from, at);
    else to = Math.min(to, at);
  }
  if (to - from < 1e-9) return null;
  return [
    [px + from * dx, py + from * dy],
    [px + to * dx, py + to * dy],
  ];
}

const modulo = (value: number, by: number): number => {
  const rest = value - by * Math.floor(value / by);
  // What is next to the whole is at the start of the next.
  return by - rest < OFF ? rest - by : rest;
};

/** Dashes and gaps of stretches along a line that repeats; the start of the first; null for a whole line. */
function dashesOf(stretches: readonly (readonly [number, number])[], period: number): { start: number; dashes: number[] } | null {
  const sorted = [...stretches].sort((a, b) => a[0] - b[0]);
  const joined: [number, number][] = [];
  for (const [from, to] of sorted) {
    const last = joined.at(-1);
    if (last && from <= last[1] + OFF) last[1] = Math.max(last[1], to);
    else joined.push([from, to]);
  }
  // What runs over the end goes on at the start.
  while (joined.length > 1 && joined.at(-1)![1] >= joined[0]![0] + period - OFF) {
    const [, to] = joined.shift()!;
    joined.at(-1)![1] = Math.max(joined.at(-1)![1], to + period);
  }
  if (joined.length === 1 && joined[0]![1] - joined[0]![0] >= period - OFF) return null;
  const start = joined[0]![0];
  return { start, dashes: joined.flatMap(([from, to], i) => [to - from, (joined[i + 1]?.[0] ?? start + period) - to]) };
}

/** The families of lines that a pattern's cell makes when it is repeated; null where it holds anything else. */
export function familiesOf({ entries, spans }: ResolvedPart, width: number, height: number): FoundFamily[] | null {
  if (spans.length || !entries.length) return null;
  interface Gathered {
    readonly way: Point;
    readonly beside: Point;
    readonly off: number;
    readonly entry: ResolvedEntry;
    readonly stretches: [number, number][];
  }
  const gathered: Gathered[] = [];
  let count = 0;
  for (const entry of entries) {
    const { style } = entry;
    const plain = isPlain(style.stroke) && style.stroke !== null && style.fill === null && !style.line && !isSeeThrough(style);
    if (entry.kind !== 'path' || !plain) return null;
    for (const { start, segments, closed } of entry.outlines) {
      const points: Point[] = [start, ...segments.map(({ to }) => to), ...(closed ? [start] : [])];
      if (segments.some(({ kind }) => kind !== 'line') || (count += segments.length) > MOST) return null;
      for (let i = 1; i < points.length; i++) {
        const inside = within(points[i - 1]!, points[i]!, width, height);
        if (!inside) continue;
        const [p, q] = inside;
        const line = sum(q, p, -1);
        const way = WAYS.find(({ way: [a, b] }) => {
          const to: Point = [a * width, b * height];
          return Math.abs(cross(line, to)) / length(to) < OFF;
        });
        if (!way) return null;
        const [to, beside]: [Point, Point] = [
          [way.way[0] * width, way.way[1] * height],
          [way.beside[0] * width, way.beside[1] * height],
        ];
        const period = length(to);
        const unit: Point = [to[0] / period, to[1] / period];
        const apart = cross(unit, beside);
        const forward = dot(line, unit) >= 0 ? p : q;
        const far = cross(unit, forward);
        const off = modulo(far, apart);
        const moved = sum(forward, beside, -Math.round((far - off) / apart));
        const begin = modulo(dot(unit, moved), period);
        const same = gathered.find(
          (one) =>
            one.way[0] === to[0] &&
            one.way[1] === to[1] &&
            Math.abs(one.off - off) < OFF &&
            one.entry.style.stroke === style.stroke &&
            one.entry.style.strokeWidth === style.strokeWidth,
        );
        const stretch: [number, number] = [begin, begin + length(line)];
        if (same) same.stretches.push(stretch);
        else gathered.push({ way: to, beside, off, entry, stretches: [stretch] });
      }
    }
  }
  return gathered.map(({ way, beside, off, entry, stretches }) => {
    const period = length(way);
    const along: Point = [way[0] / period, way[1] / period];
    const found = dashesOf(stretches, period);
    const base = sum([-along[1] * off, along[0] * off], along, found?.start ?? 0);
    return { entry, family: { base, along, step: beside, dashes: found?.dashes ?? [] } };
  });
}
