import { computed, signal } from '@angular/core';
import {
  type Grip,
  type Outline,
  type Point,
  addNode,
  gripsOf,
  moveGrip,
  nearestPlace,
  removeNode,
} from '@inkwell-twin/core/web';
import type { Hold } from './handles';
import type { Snapping } from './snapping';
import type { Viewport } from './viewport';

/** How near to a line, in pixels, a second press adds a point to it. */
const ON_LINE = 8;

/** The points of outlines, taken hold of and pulled. */
export class Bending {
  /** The outlines while a point of theirs is moved; null while none is. */
  readonly bent = signal<readonly Outline[] | null>(null);
  readonly chosen = signal<number | null>(null);
  readonly grips = computed(() => gripsOf(this.bent() ?? this.outlines() ?? []));
  readonly grip = computed((): Grip | null => this.grips()[this.chosen() ?? -1] ?? null);

  /**
   * @param outlines whose points they are, mm; null where none are held
   * @param reshaped is told what they become
   */
  constructor(
    private readonly outlines: () => readonly Outline[] | null,
    private readonly viewport: Viewport,
    private readonly snapping: Snapping,
    private readonly reshaped: (outlines: readonly Outline[]) => void,
  ) {}

  /** Other outlines, or the same ones changed. */
  begin(): void {
    this.chosen.set(null);
    this.bent.set(null);
  }

  press(at: number): void {
    this.chosen.set(at);
    this.snapping.begin();
  }

  /** A hold is pulled to a place, pixels. @returns where it comes to lie */
  pull(at: number, px: number, py: number): { x: number; y: number } {
    const outlines = this.outlines();
    const before = gripsOf(outlines ?? [])[at];
    if (!this.grips()[at] || !before || !outlines) return { x: px, y: py };
    const snapped = before.part === 'point' ? this.snapping.pixel(px, py) : { x: px, y: py };
    const [x, y] = this.viewport.toBoard(snapped.x, snapped.y);
    const to: Point = [Number(x.toFixed(3)), Number(y.toFixed(3))];
    this.bent.set(moveGrip(outlines, before, [to[0] - before.at[0], to[1] - before.at[1]]));
    return snapped;
  }

  /** It was let go. */
  put(): void {
    const bent = this.bent();
    this.snapping.end();
    this.snapping.begin();
    if (bent) this.reshaped(bent);
  }

  /** Takes the chosen point out. @returns whether there was one */
  remove(): boolean {
    const [outlines, grip] = [this.outlines(), this.grip()];
    if (!outlines || !grip) return false;
    if (grip.part === 'point') this.reshaped(removeNode(outlines, grip));
    return true;
  }

  /** Adds a point to the line that is near, pixels. */
  add(px: number, py: number): void {
    const outlines = this.outlines();
    const place = outlines && nearestPlace(outlines, this.viewport.toBoard(px, py) as [number, number]);
    if (place && place.distance < this.viewport.mm(ON_LINE)) this.reshaped(addNode(outlines, place));
  }

  /** What is taken hold of, pixels. */
  holds(): Hold[] {
    const view = this.viewport.view();
    if (!view || !this.outlines()) return [];
    return this.grips().map(({ at: [x, y], part }, i) => ({
      x: view.x + x * view.scale,
      y: view.y - y * view.scale,
      small: part !== 'point',
      chosen: i === this.chosen(),
    }));
  }
}
