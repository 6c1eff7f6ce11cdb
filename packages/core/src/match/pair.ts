import { deviation, vertexDeviation } from '../geometry/deviation';
import type { Box } from '../geometry/measure';
import type { Piece } from './pieces';

export interface Pair {
  readonly a: Piece;
  readonly b: Piece;
}
export interface Pairing {
  readonly pairs: Pair[];
  readonly onlyA: Piece[];
  readonly onlyB: Piece[];
}

/** Boxes in a grid by their lower left corner, so that near-equal boxes are found without looking at all. */
class BoxGrid {
  private readonly cells = new Map<string, number[]>();
  constructor(
    private readonly pieces: readonly Piece[],
    private readonly cell: number,
  ) {
    pieces.forEach(({ box }, i) => {
      const key = `${Math.floor(box.minX / cell)},${Math.floor(box.minY / cell)}`;
      const list = this.cells.get(key);
      if (list) list.push(i);
      else this.cells.set(key, [i]);
    });
  }

  near(box: Box, within: number): number[] {
    const found: number[] = [];
    const [x0, x1] = [Math.floor((box.minX - within) / this.cell), Math.floor((box.minX + within) / this.cell)];
    const [y0, y1] = [Math.floor((box.minY - within) / this.cell), Math.floor((box.minY + within) / this.cell)];
    for (let x = x0; x <= x1; x++)
      for (let y = y0; y <= y1; y++)
        for (const i of this.cells.get(`${x},${y}`) ?? []) if (sameBox(this.pieces[i]!.box, box, within)) found.push(i);
    return found.sort((a, b) => a - b);
  }
}

const sameBox = (a: Box, b: Box, within: number): boolean =>
  Math.abs(a.minX - b.minX) <= within &&
  Math.abs(a.minY - b.minY) <= within &&
  Math.abs(a.maxX - b.maxX) <= within &&
  Math.abs(a.maxY - b.maxY) <= within;

/** Two lengths that the same outline can have, drawn twice within a tolerance: a line there and back again is not a line. */
export const likeLengths = (a: number, b: number, tolerance: number): boolean =>
  Math.abs(a - b) <= 4 * tolerance + 0.02 * Math.max(a, b);

/** Whether two pieces are the same outline within the tolerance, wherever it starts and whichever way it runs. */
export function sameOutline(a: Piece, b: Piece, tolerance: number): boolean {
  if (vertexDeviation(a.points, b.points) <= tolerance) return true;
  if (a.closed !== b.closed || !likeLengths(a.length, b.length, tolerance)) return false;
  return deviation(a.points, b.points, tolerance) <= tolerance;
}

/**
 * Pairs equal outlines of two sides one to one: first those that also look the same, then the rest by place and shape alone.
 */
export function pairOutlines(as: readonly Piece[], bs: readonly Piece[], tolerance: number): Pairing {
  const grid = new BoxGrid(bs, Math.max(1, 16 * tolerance));
  const usedA = new Uint8Array(as.length);
  const usedB = new Uint8Array(bs.length);
  const pairs: Pair[] = [];
  for (const strict of [true, false])
    as.forEach((a, i) => {
      if (usedA[i]) return;
      for (const j of grid.near(a.box, tolerance)) {
        const b = bs[j]!;
        if (usedB[j] || (strict && a.look !== b.look) || !sameOutline(a, b, tolerance)) continue;
        usedA[i] = usedB[j] = 1;
        pairs.push({ a, b });
        break;
      }
    });
  return { pairs, onlyA: as.filter((_, i) => !usedA[i]), onlyB: bs.filter((_, j) => !usedB[j]) };
}
