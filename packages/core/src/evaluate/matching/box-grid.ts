import type { Box } from '../../base/geometry/measure';

/** Boxes in a grid by their lower left corner, so that near-equal boxes are found without looking at all. */
export class BoxGrid {
  private readonly cells = new Map<string, number[]>();
  private readonly cell: number;

  /** @param within how far the sides of near-equal boxes may be apart, mm */
  constructor(
    private readonly boxes: readonly Box[],
    private readonly within: number,
  ) {
    this.cell = Math.max(1, 16 * within);
    boxes.forEach(({ minX, minY }, i) => {
      const key = `${Math.floor(minX / this.cell)},${Math.floor(minY / this.cell)}`;
      const list = this.cells.get(key);
      if (list) list.push(i);
      else this.cells.set(key, [i]);
    });
    for (const list of this.cells.values()) list.reverse();
  }

  /** Takes the first near-equal box that passes out of the grid. @returns its number, or -1 */
  take(box: Box, passes: (i: number) => boolean): number {
    const { cell, within } = this;
    const [x0, x1] = [Math.floor((box.minX - within) / cell), Math.floor((box.minX + within) / cell)];
    const [y0, y1] = [Math.floor((box.minY - within) / cell), Math.floor((box.minY + within) / cell)];
    let best = -1;
    let from: number[] | undefined;
    for (let x = x0; x <= x1; x++)
      for (let y = y0; y <= y1; y++) {
        const list = this.cells.get(`${x},${y}`);
        for (let k = (list?.length ?? 0) - 1; k >= 0; k--) {
          const i = list![k]!;
          if (best >= 0 && i > best) break;
          if (!sameBox(this.boxes[i]!, box, within) || !passes(i)) continue;
          [best, from] = [i, list];
          break;
        }
      }
    if (from) from.splice(from.lastIndexOf(best), 1);
    return best;
  }
}

const sameBox = (a: Box, b: Box, within: number): boolean =>
  Math.abs(a.minX - b.minX) <= within &&
  Math.abs(a.minY - b.minY) <= within &&
  Math.abs(a.maxX - b.maxX) <= within &&
  Math.abs(a.maxY - b.maxY) <= within;
