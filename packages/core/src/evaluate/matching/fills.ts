import Flatbush from 'flatbush';
import { directedDeviationToAll } from '../../base/geometry/deviation';
import type { Box } from '../../base/geometry/measure';
import type { Pair } from './pair';
import type { Piece } from './pieces';
import { otherRegions } from './regions';

/** Segments of an outline beside which the fill is looked at. */
const SAMPLES = 3;

/** The area that the outlines of one entry fill together. */
class FilledArea {
  private readonly distance: (points: readonly number[]) => number;
  /** Of areas with many outlines: which of them a ray can cross. */
  private readonly index: Flatbush | undefined;

  constructor(private readonly pieces: readonly Piece[]) {
    this.distance = directedDeviationToAll(pieces.map(({ points }) => points));
    if (pieces.length <= 16) return;
    this.index = new Flatbush(pieces.length);
    for (const { box } of pieces) this.index.add(box.minX, box.minY, box.maxX, box.maxY);
    this.index.finish();
  }

  /** How far a point is from the nearest outline, mm. */
  clearance(x: number, y: number): number {
    return this.distance([x, y]);
  }

  /** Whether a point is filled (SVG 1.1, 11.3: open outlines are filled as if they were closed). */
  has(x: number, y: number): boolean {
    let winding = 0;
    let crossings = 0;
    const around = this.index?.search(x, y, x, y).map((i) => this.pieces[i]!) ?? this.pieces;
    for (const { points, box } of around) {
      if (x < box.minX || x > box.maxX || y < box.minY || y > box.maxY) continue;
      for (let i = 0; i < points.length; i += 2) {
        const j = (i + 2) % points.length;
        const [y1, y2] = [points[i + 1]!, points[j + 1]!];
        if (y1 > y === y2 > y) continue;
        if (x >= points[i]! + ((y - y1) / (y2 - y1)) * (points[j]! - points[i]!)) continue;
        crossings++;
        winding += y2 > y1 ? 1 : -1;
      }
    }
    return this.pieces[0]!.style.fillRule === 'evenodd' ? crossings % 2 === 1 : winding !== 0;
  }
}

/** Places on either side of an outline, beside the middles of its longest segments. */
function besides({ points }: Piece, by: number): [number, number][] {
  const segments = Array.from({ length: points.length / 2 - 1 }, (_, i) => {
    const [x1, y1, x2, y2] = [points[2 * i]!, points[2 * i + 1]!, points[2 * i + 2]!, points[2 * i + 3]!];
    return { x: (x1 + x2) / 2, y: (y1 + y2) / 2, dx: x2 - x1, dy: y2 - y1, length: Math.hypot(x2 - x1, y2 - y1) };
  });
  return segments
    .sort((a, b) => b.length - a.length)
    .slice(0, SAMPLES)
    .filter(({ length }) => length > 0)
    .flatMap(({ x, y, dx, dy, length }): [number, number][] =>
      [by, -by].map((far) => [x - (dy / length) * far, y + (dx / length) * far]),
    );
}

function areas(pieces: readonly Piece[]): (entry: number) => FilledArea {
  const byEntry = new Map<number, Piece[]>();
  for (const piece of pieces) {
    if (!piece.style.fill) continue;
    const list = byEntry.get(piece.entry);
    if (list) list.push(piece);
    else byEntry.set(piece.entry, [piece]);
  }
  const made = new Map<number, FilledArea>();
  return (entry) => {
    let found = made.get(entry);
    if (!found) made.set(entry, (found = new FilledArea(byEntry.get(entry) ?? [])));
    return found;
  };
}

/** A pair whose outlines are the same but part filled from hollow otherwise. */
export interface FilledOtherwise extends Pair {
  /** Whether the master fills where the copy does not, or the other way round. */
  readonly filledInMaster: boolean;
}

/**
 * Entries whose outlines are, one by one, the outlines of just one entry of the other side.
 * @returns their pairs
 */
function wholeEntries(pairs: readonly Pair[], as: readonly Piece[], bs: readonly Piece[]): Map<number, Pair[]> {
  const counted = (pieces: readonly Piece[]) => {
    const counts = new Map<number, number>();
    for (const { entry } of pieces) counts.set(entry, (counts.get(entry) ?? 0) + 1);
    return counts;
  };
  const [all, others] = [counted(as), counted(bs)];
  const met = new Map<number, Pair[]>();
  for (const pair of pairs) {
    const list = met.get(pair.a.entry);
    if (list) list.push(pair);
    else met.set(pair.a.entry, [pair]);
  }
  for (const [entry, list] of met) {
    const partner = list[0]!.b.entry;
    if (list.some(({ b }) => b.entry !== partner) || list.length !== all.get(entry) || list.length !== others.get(partner))
      met.delete(entry);
  }
  return met;
}

/**
 * How one outline runs along another that has its points, wherever it starts.
 * @returns 1 the same way, -1 the other way, 0 where their points are not the same
 */
function runsAlong({ points: a, closed }: Piece, { points: b, closed: other }: Piece, tolerance: number): 1 | -1 | 0 {
  if (a.length !== b.length || closed !== other) return 0;
  const count = a.length / 2 - (closed ? 1 : 0);
  const near = (i: number, j: number) => Math.hypot(a[2 * i]! - b[2 * j]!, a[2 * i + 1]! - b[2 * j + 1]!) <= tolerance;
  const along = (start: number, way: 1 | -1): boolean => {
    for (let i = 0; i < count; i++) if (!near(i, (start + way * i + count) % count)) return false;
    return true;
  };
  if (!closed) return along(0, 1) ? 1 : along(count - 1, -1) ? -1 : 0;
  for (let start = 0; start < count; start++)
    if (near(0, start)) {
      if (along(start, 1)) return 1;
      if (along(start, -1)) return -1;
    }
  return 0;
}

/** Whether pairs of outlines fill the same whatever they are: point by point, by one rule, all of them the same way or the other. */
function filledAlike(pairs: readonly Pair[], tolerance: number): boolean {
  let way = 0;
  return pairs.every(({ a, b }) => {
    if (a.style.fillRule !== b.style.fillRule) return false;
    const along = runsAlong(a, b, tolerance);
    way ||= along;
    return along !== 0 && (along === way || a.style.fillRule === 'evenodd');
  });
}

/** Points of entries whose areas are computed. */
const MOST_POINTS = 2_000_000;

/** Of the pairs of whole entries that fill another area, the outline nearest around what is another. */
function otherArea(pairs: readonly Pair[], tolerance: number): FilledOtherwise[] {
  const sides = [pairs.map(({ a }) => a), pairs.map(({ b }) => b)] as const;
  const found = otherRegions(sides[0], sides[1], tolerance);
  const outermost = [...pairs].sort((p, q) => sizeOf(p.a.box) - sizeOf(q.a.box));
  const told = new Map<Pair, FilledOtherwise>();
  for (const { box, inFirst } of found) {
    const [x, y] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2];
    const around = outermost.find(({ a }) => x >= a.box.minX && x <= a.box.maxX && y >= a.box.minY && y <= a.box.maxY);
    const pair = around ?? outermost.at(-1)!;
    if (!told.has(pair)) told.set(pair, { ...pair, filledInMaster: inFirst });
  }
  return [...told.values()];
}
const sizeOf = ({ minX, minY, maxX, maxY }: Box): number => (maxX - minX) * (maxY - minY);

/**
 * Of equal filled outlines, those that mean another area on the other side: a hole that was filled because its outline was
 * split off or turned round, or a fill rule that matters. Areas are computed wherever entries are not the same point by point;
 * of entries that came apart, the fill is looked at beside each outline, well away from all of them.
 */
export function filledOtherwise(
  pairs: readonly Pair[],
  as: readonly Piece[],
  bs: readonly Piece[],
  tolerance: number,
): FilledOtherwise[] {
  const [areaA, areaB] = [areas(as), areas(bs)];
  const filled = pairs.filter(({ a, b }) => a.style.fill && b.style.fill);
  const decided = new Map<number, readonly FilledOtherwise[]>();
  let left = MOST_POINTS;
  for (const [entry, list] of wholeEntries(filled, as, bs)) {
    if (filledAlike(list, tolerance)) decided.set(entry, []);
    else if ((left -= list.reduce((sum, { a, b }) => sum + a.points.length + b.points.length, 0) / 2) > 0)
      decided.set(entry, otherArea(list, tolerance));
  }
  const beside = filled.flatMap(({ a, b }): FilledOtherwise[] => {
    if (decided.has(a.entry)) return [];
    const [one, other] = [areaA(a.entry), areaB(b.entry)];
    for (const [x, y] of besides(a, 4 * tolerance)) {
      const clear = Math.min(one.clearance(x, y), other.clearance(x, y));
      const filledInMaster = one.has(x, y);
      if (clear > 2 * tolerance && filledInMaster !== other.has(x, y)) return [{ a, b, filledInMaster }];
    }
    return [];
  });
  return [...beside, ...[...decided.values()].flat()];
}
