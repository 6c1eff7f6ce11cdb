import type { Box } from '@inkwell-twin/core/web';

// eslint-disable-next-line no-restricted-syntax -- the lines of a board
const GRID = 'grid';

/** A line that things are laid to: across or up the board, where, and what it is of. */
export interface SnapLine {
  readonly axis: 'x' | 'y';
  readonly at: number;
  readonly words: string;
}

/** What a thing came to lie at, and how far it was moved for that. */
interface Snapped {
  readonly by: number;
  readonly line: SnapLine;
}

/** Edges and middles of a box, as lines. */
export function linesOfBox({ minX, minY, maxX, maxY }: Box, name: string): SnapLine[] {
  const of = (axis: 'x' | 'y', at: number, which: string): SnapLine => ({ axis, at, words: `${which} of ${name}` });
  return [
    of('x', minX, 'left'),
    of('x', (minX + maxX) / 2, 'middle'),
    of('x', maxX, 'right'),
    of('y', minY, 'foot'),
    of('y', (minY + maxY) / 2, 'middle'),
    of('y', maxY, 'top'),
  ];
}

/** Lines to lay things to, and a grid; asked again and again while something moves. */
export class SnapLines {
  private readonly lines: Readonly<Record<'x' | 'y', SnapLine[]>> = { x: [], y: [] };

  /** @param step of the grid, mm; none where it is undefined */
  constructor(
    lines: readonly SnapLine[],
    private readonly step: number | undefined,
  ) {
    for (const line of lines) this.lines[line.axis].push(line);
    for (const axis of ['x', 'y'] as const) this.lines[axis].sort((a, b) => a.at - b.at);
  }

  /** The line that is nearest to a value, within a distance; the grid counts where nothing else is near. */
  private nearest(axis: 'x' | 'y', value: number, within: number): Snapped | null {
    const all = this.lines[axis];
    let [low, high] = [0, all.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (all[middle]!.at < value) low = middle + 1;
      else high = middle;
    }
    let best: Snapped | null = null;
    for (const line of [all[low - 1], all[low]]) {
      if (!line || Math.abs(line.at - value) > within) continue;
      if (!best || Math.abs(line.at - value) < Math.abs(best.by)) best = { by: line.at - value, line };
    }
    if (best || !this.step) return best;
    const at = Math.round(value / this.step) * this.step;
    return Math.abs(at - value) <= within ? { by: at - value, line: { axis, at, words: GRID } } : null;
  }

  /** The best of several values of one thing: its edges and its middle. */
  along(axis: 'x' | 'y', values: readonly number[], within: number): Snapped | null {
    const found = values.flatMap((value) => this.nearest(axis, value, within) ?? []);
    // Another object or a guide is meant rather than the grid.
    const meant = found.filter(({ line }) => line.words !== GRID);
    return (meant.length ? meant : found).reduce<Snapped | null>((a, b) => (!a || Math.abs(b.by) < Math.abs(a.by) ? b : a), null);
  }

  /** A box that is moved: how much farther it goes to lie in line, and to what. */
  box({ minX, minY, maxX, maxY }: Box, within: number): { dx: number; dy: number; lines: SnapLine[] } {
    const x = this.along('x', [minX, (minX + maxX) / 2, maxX], within);
    const y = this.along('y', [minY, (minY + maxY) / 2, maxY], within);
    return { dx: x?.by ?? 0, dy: y?.by ?? 0, lines: [x, y].flatMap((one) => (one ? [one.line] : [])) };
  }

  /** Likewise a point. */
  point([x, y]: readonly [number, number], within: number): { at: [number, number]; lines: SnapLine[] } {
    const { dx, dy, lines } = this.box({ minX: x, minY: y, maxX: x, maxY: y }, within);
    return { at: [x + dx, y + dy], lines };
  }
}
