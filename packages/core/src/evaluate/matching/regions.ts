import { ClipType, Clipper, EndType, FillRule, JoinType, type Paths64 } from 'clipper2-ts';
import { type Box, joinBoxes } from '../../base/geometry/measure';
import { UNITS, pathOf } from './ink';
import type { Piece } from './pieces';

/** Most outlines of a side whose areas are computed. */
const MOST_FILLS = 2000;

/** What is filled and has no line: where its outline begins, closes or is cut is nothing that shows. */
export const isFillAlone = ({ style: { fill, stroke } }: Pick<Piece, 'style'>): boolean => fill !== null && stroke === null;

const touches = (a: Box, b: Box, within: number): boolean =>
  a.minX - within <= b.maxX && b.minX - within <= a.maxX && a.minY - within <= b.maxY && b.minY - within <= a.maxY;

/** Everything that some entries fill, each by its own rule. */
function filledBy(pieces: readonly Piece[]): Paths64 {
  const byEntry = new Map<number, Piece[]>();
  for (const piece of pieces) {
    const list = byEntry.get(piece.entry);
    if (list) list.push(piece);
    else byEntry.set(piece.entry, [piece]);
  }
  const areas: Paths64 = [];
  for (const list of byEntry.values()) {
    const paths: Paths64 = list.map(({ points }) => pathOf(points));
    areas.push(...Clipper.union(paths, list[0]!.style.fillRule === 'evenodd' ? FillRule.EvenOdd : FillRule.NonZero));
  }
  return Clipper.union(areas, FillRule.NonZero);
}

const isOpaque = ({ style }: Piece): boolean => style.opacity === 1 && (style.fillOpacity ?? 1) === 1;

/** Whether what some entries fill lies on each other, by more than a rim. */
function liesOnItself(pieces: readonly Piece[], tolerance: number): boolean {
  const entries = [...new Set(pieces.map(({ entry }) => entry))];
  const areas = entries.map((entry) => filledBy(pieces.filter((piece) => piece.entry === entry)));
  let before: Paths64 = [];
  for (const area of areas) {
    const both = Clipper.booleanOp(ClipType.Intersection, before, area, FillRule.NonZero);
    if (both.length && grown(both, (-tolerance / 4) * UNITS).length) return true;
    before = Clipper.union([...before, ...area], FillRule.NonZero);
  }
  return false;
}

/** What is left of an area when another one, grown by the tolerance, is taken away. */
const beyond = (one: Paths64, other: Paths64, far: number): Paths64 =>
  Clipper.booleanOp(ClipType.Difference, one, grown(other, far), FillRule.NonZero);

/** Whether two areas are the same but for a rim that is thinner than the tolerance, and what can't be seen. */
function sameArea(as: readonly Piece[], bs: readonly Piece[], tolerance: number): boolean {
  const [a, b] = [filledBy(as), filledBy(bs)];
  const far = tolerance * UNITS;
  const left = (one: Paths64, other: Paths64): number => Math.abs(Clipper.areaPaths(beyond(one, other, far)));
  return Math.max(left(a, b), left(b, a)) <= far * far;
}

/** A place that only one of two areas fills. */
interface OtherRegion {
  readonly box: Box;
  readonly inFirst: boolean;
}

/** Where two areas are not the same, but for a rim that is thinner than the tolerance, and what can't be seen. */
export function otherRegions(as: readonly Piece[], bs: readonly Piece[], tolerance: number): OtherRegion[] {
  const [a, b] = [filledBy(as), filledBy(bs)];
  const far = tolerance * UNITS;
  const regions = (inFirst: boolean): OtherRegion[] => {
    const left = inFirst ? beyond(a, b, far) : beyond(b, a, far);
    if (Math.abs(Clipper.areaPaths(left)) <= far * far) return [];
    return left.map((path) => {
      const [xs, ys] = [path.map(({ x }) => x / UNITS), path.map(({ y }) => y / UNITS)];
      const min = (list: number[]) => list.reduce((least, one) => Math.min(least, one), Infinity);
      const max = (list: number[]) => list.reduce((most, one) => Math.max(most, one), -Infinity);
      return { inFirst, box: { minX: min(xs), minY: min(ys), maxX: max(xs), maxY: max(ys) } };
    });
  };
  return [...regions(true), ...regions(false)];
}

const grown = (paths: Paths64, by: number): Paths64 => Clipper.inflatePaths(paths, by, JoinType.Miter, EndType.Polygon);

/**
 * Of fills whose outlines have no equal, those that fill the same area all the same: in two halves, with a hole by a bridge,
 * with outlines that overlap. Compared look by look, where they touch.
 * @param as all pieces of the master's entries that are in question, @param bs those of the copy
 * @returns the entries of either side that are explained by it
 */
export function filledTheSame(
  as: readonly Piece[],
  bs: readonly Piece[],
  tolerance: number,
): { readonly a: ReadonlySet<number>; readonly b: ReadonlySet<number> } {
  const [a, b] = [new Set<number>(), new Set<number>()];
  const plain = (pieces: readonly Piece[]) => pieces.filter(isFillAlone);
  const [mine, theirs] = [plain(as), plain(bs)];
  // So many that are left over are changed, not cut otherwise.
  if (Math.max(mine.length, theirs.length) > MOST_FILLS) return { a, b };
  for (const look of new Set(mine.map((piece) => piece.look))) {
    const sides = [mine, theirs].map((side) => side.filter((piece) => piece.look === look)) as [Piece[], Piece[]];
    for (const group of touching(sides, tolerance)) {
      if (!group[0].length || !group[1].length || !sameArea(group[0], group[1], tolerance)) continue;
      // Where see-through fills overlap they show more.
      if (!group[0].every(isOpaque) && group.some((side) => liesOnItself(side, tolerance))) continue;
      for (const { entry } of group[0]) a.add(entry);
      for (const { entry } of group[1]) b.add(entry);
    }
  }
  return { a, b };
}

/** Entries of two sides in groups wherever their boxes touch. */
function touching([as, bs]: readonly [readonly Piece[], readonly Piece[]], tolerance: number): [Piece[], Piece[]][] {
  type Group = { box: Box; a: Piece[]; b: Piece[] };
  const entries = (pieces: readonly Piece[], side: 'a' | 'b'): Group[] => {
    const found = new Map<number, Group>();
    for (const piece of pieces) {
      const one = found.get(piece.entry) ?? { box: piece.box, a: [], b: [] };
      one[side].push(piece);
      found.set(piece.entry, { ...one, box: joinBoxes([one.box, piece.box]) });
    }
    return [...found.values()];
  };
  let groups: Group[] = [];
  for (const one of [...entries(as, 'a'), ...entries(bs, 'b')].sort((p, q) => p.box.minX - q.box.minX)) {
    const near = groups.filter(({ box }) => touches(box, one.box, tolerance));
    groups = groups.filter((group) => !near.includes(group));
    const all = [...near, one];
    groups.push({
      box: joinBoxes(all.map(({ box }) => box)),
      a: all.flatMap(({ a }) => a),
      b: all.flatMap(({ b }) => b),
    });
  }
  return groups.map(({ a, b }) => [a, b]);
}
