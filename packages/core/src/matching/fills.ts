import Flatbush from 'flatbush';
import { directedDeviationToAll } from '../geometry/deviation';
import { winding } from './order';
import type { Pair } from './pair';
import type { Piece } from './pieces';

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

function areas(pieces: readonly Piece[]): (entry: number) => { area: FilledArea; outlines: number } {
  const byEntry = new Map<number, Piece[]>();
  for (const piece of pieces) {
    if (!piece.style.fill) continue;
    const list = byEntry.get(piece.entry);
    if (list) list.push(piece);
    else byEntry.set(piece.entry, [piece]);
  }
  const made = new Map<number, { area: FilledArea; outlines: number }>();
  return (entry) => {
    let found = made.get(entry);
    if (!found) {
      const own = byEntry.get(entry) ?? [];
      made.set(entry, (found = { area: new FilledArea(own), outlines: own.length }));
    }
    return found;
  };
}

/** A pair whose outlines are the same but part filled from hollow otherwise. */
export interface FilledOtherwise extends Pair {
  /** Whether the master fills where the copy does not, or the other way round. */
  readonly filledInMaster: boolean;
}

/**
 * Entries whose outlines are, one by one, the outlines of just one entry of the other side, filled by the same rule and, where
 * that matters, running the same way: they fill the same area, whatever their order.
 */
function entriesAlike(pairs: readonly Pair[], as: readonly Piece[], bs: readonly Piece[]): Set<number> {
  const counted = (pieces: readonly Piece[]) => {
    const counts = new Map<number, number>();
    for (const { entry } of pieces) counts.set(entry, (counts.get(entry) ?? 0) + 1);
    return counts;
  };
  const [all, others] = [counted(as), counted(bs)];
  const met = new Map<number, { partner: number; pairs: number; alike: boolean }>();
  for (const { a, b } of pairs) {
    const one = met.get(a.entry) ?? { partner: b.entry, pairs: 0, alike: true };
    one.pairs++;
    one.alike &&=
      one.partner === b.entry && a.style.fillRule === b.style.fillRule && (a.style.fillRule === 'evenodd' || runsAlike(a, b));
    met.set(a.entry, one);
  }
  return new Set(
    [...met].flatMap(([entry, { partner, pairs: count, alike }]) =>
      alike && count === all.get(entry) && count === others.get(partner) ? [entry] : [],
    ),
  );
}

const runsAlike = (a: Piece, b: Piece): boolean => a.closed && b.closed && winding(a.points) > 0 === winding(b.points) > 0;

/**
 * Of equal filled outlines, those that mean another area on the other side: a hole that was filled because its outline was
 * split off or turned round, or a fill rule that matters. Looks at the fill beside each outline, well away from all of them.
 */
export function filledOtherwise(
  pairs: readonly Pair[],
  as: readonly Piece[],
  bs: readonly Piece[],
  tolerance: number,
): FilledOtherwise[] {
  const [areaA, areaB] = [areas(as), areas(bs)];
  const alike = entriesAlike(pairs, as, bs);
  return pairs.flatMap(({ a, b }) => {
    if (!a.style.fill || !b.style.fill || alike.has(a.entry)) return [];
    const [one, other] = [areaA(a.entry), areaB(b.entry)];
    if (one.outlines === 1 && other.outlines === 1 && a.style.fillRule === b.style.fillRule) return [];
    for (const [x, y] of besides(a, 4 * tolerance)) {
      const clear = Math.min(one.area.clearance(x, y), other.area.clearance(x, y));
      const filledInMaster = one.area.has(x, y);
      if (clear > 2 * tolerance && filledInMaster !== other.area.has(x, y)) return [{ a, b, filledInMaster }];
    }
    return [];
  });
}
