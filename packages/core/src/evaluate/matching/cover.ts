import { directedDeviationToAll } from '../../base/geometry/deviation';
import type { Box } from '../../base/geometry/measure';
import type { Piece } from './pieces';
import { drawnAsOften } from './visits';

const touches = (a: Box, b: Box, within: number): boolean =>
  a.minX - within <= b.maxX && b.minX - within <= a.maxX && a.minY - within <= b.maxY && b.minY - within <= a.maxY;

/**
 * Finds outlines that say the same although they are cut differently: each side lies wholly on the other, and every stretch is
 * drawn as often. Works on what pairing left over, group by group of touching pieces.
 * @returns what is still left over on either side
 */
export function dropCovered(as: readonly Piece[], bs: readonly Piece[], tolerance: number): { onlyA: Piece[]; onlyB: Piece[] } {
  const gone = new Set<Piece>();
  for (const look of new Set(as.map((piece) => piece.look))) {
    const a = as.filter((piece) => piece.look === look);
    const b = bs.filter((piece) => piece.look === look);
    if (!a.length || !b.length) continue;
    const onB = lying(a, b, tolerance);
    const onA = lying(b, a, tolerance);
    for (const group of groups([...onB, ...onA], tolerance)) {
      const sides = [group.filter((piece) => onB.has(piece)), group.filter((piece) => onA.has(piece))] as const;
      if (!sides[0].length || !sides[1].length) continue;
      if (drawnAsOften(...sides, tolerance)) for (const piece of group) gone.add(piece);
    }
  }
  return { onlyA: as.filter((piece) => !gone.has(piece)), onlyB: bs.filter((piece) => !gone.has(piece)) };
}

/** The pieces of one side that lie on the other side within the tolerance. */
function lying(pieces: readonly Piece[], on: readonly Piece[], tolerance: number): Set<Piece> {
  const target = directedDeviationToAll(on.map(({ points }) => points));
  return new Set(pieces.filter(({ points }) => target(points, tolerance) <= tolerance));
}

/** Pieces joined into groups wherever their boxes touch. */
function groups(pieces: readonly Piece[], tolerance: number): Piece[][] {
  const sorted = [...pieces].sort((a, b) => a.box.minX - b.box.minX);
  const parent = sorted.map((_, i) => i);
  const root = (i: number): number => {
    while (parent[i] !== i) i = parent[i] = parent[parent[i]!]!;
    return i;
  };
  for (let i = 0; i < sorted.length; i++)
    for (let j = i + 1; j < sorted.length && sorted[j]!.box.minX <= sorted[i]!.box.maxX + tolerance; j++)
      if (touches(sorted[i]!.box, sorted[j]!.box, tolerance)) parent[root(j)] = root(i);
  const byRoot = new Map<number, Piece[]>();
  sorted.forEach((piece, i) => {
    const list = byRoot.get(root(i));
    if (list) list.push(piece);
    else byRoot.set(root(i), [piece]);
  });
  return [...byRoot.values()];
}
