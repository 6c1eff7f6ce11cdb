import { signal } from '@angular/core';
import type { Box, Point } from '@inkwell-twin/core/web';
import type { SnapLine, SnapLines } from './snap';
import type { Viewport } from './viewport';

/** How near, in pixels, something comes to a line before it is laid to it. */
const NEAR = 6;

/** Lays what a hand moves to lines that are near, and says which. */
export class Snapping {
  /** What it was laid to last. */
  readonly lines = signal<readonly SnapLine[]>([]);
  private known: SnapLines | null = null;

  /** @param find the lines there are to lay things to */
  constructor(
    private readonly viewport: Viewport,
    private readonly find: () => SnapLines,
  ) {}

  /** Something else is moved: the lines are looked for anew. */
  begin(): void {
    this.known = null;
  }
  /** It was let go. */
  end(): void {
    this.lines.set([]);
  }

  private get all(): SnapLines {
    return (this.known ??= this.find());
  }

  /** Where a point of the board comes to lie, thousandths of a millimetre. @param free whether it is laid to nothing */
  point(at: Point, free = false): Point {
    const { at: laid, lines } = free ? { at, lines: [] } : this.all.point([at[0], at[1]], this.viewport.mm(NEAR));
    this.lines.set(lines);
    return [Number(laid[0].toFixed(3)), Number(laid[1].toFixed(3))];
  }

  /** Likewise a point of the stage, as a point of the stage. */
  pixel(px: number, py: number): { x: number; y: number } {
    const { at, lines } = this.all.point(this.viewport.toBoard(px, py) as [number, number], this.viewport.mm(NEAR));
    this.lines.set(lines);
    const { x, y, scale } = this.viewport.view()!;
    return { x: x + at[0] * scale, y: y - at[1] * scale };
  }

  /** How much farther a box goes to lie in line. */
  box(box: Box): { dx: number; dy: number } {
    const { dx, dy, lines } = this.all.box(box, this.viewport.mm(NEAR));
    this.lines.set(lines);
    return { dx, dy };
  }
}
