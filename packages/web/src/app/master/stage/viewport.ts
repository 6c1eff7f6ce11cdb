import { signal } from '@angular/core';
import { type Box, type Matrix, type Point, multiply } from '@inkwell-twin/core/web';
import { type View, fitView, toBoard, zoomView } from './view';

interface Size {
  readonly width: number;
  readonly height: number;
}

/** What stays free around what is brought into sight, pixels. */
const CLEAR = 12;

/** How a board lies on its stage, and how that is changed. Pixels of the stage, millimetres of the board. */
export class Viewport {
  /** Null until the stage has a size. */
  readonly view = signal<View | null>(null);
  /** Whether somebody has chosen a view by hand. */
  isChosen = false;

  /** @param size of the stage, pixels */
  constructor(private readonly size: () => Size) {}

  private change(to: (view: View) => View): void {
    this.isChosen = true;
    this.view.update((view) => view && to(view));
  }

  /** Shows all of a box in the middle of what is free above the foot. */
  fit(box: Box, foot: number): void {
    const { width, height } = this.size();
    this.isChosen = false;
    if (width) this.view.set(fitView(box, width, height - foot, 36));
  }

  /** Moves so far up that a box is above what stands at the foot, as long as its top stays in sight. */
  reveal(box: Box, foot: number): void {
    const { y, height } = this.frameOf(box);
    const by = Math.min(y + height + CLEAR - (this.size().height - foot), y - CLEAR);
    if (by > 0) this.view.update((view) => view && { ...view, y: view.y - by });
  }

  /** Goes to a place on the board: it lies in the upper half, with as much again around it. */
  show({ minX, minY, maxX, maxY }: Box): void {
    const { width, height } = this.size();
    const pad = Math.max(8, (maxX - minX) * 0.8, (maxY - minY) * 0.8);
    this.isChosen = true;
    this.view.set(fitView({ minX: minX - pad, minY: minY - pad, maxX: maxX + pad, maxY: maxY + pad }, width, height / 2, 8));
  }

  /** Closer by a factor, about a point of the stage; about its middle where none is named. */
  zoom(factor: number, at?: { readonly x: number; readonly y: number }): void {
    const { width, height } = this.size();
    this.change((view) => zoomView(view, factor, at?.x ?? width / 2, at?.y ?? height / 2));
  }

  pan(dx: number, dy: number): void {
    this.change((view) => ({ ...view, x: view.x + dx, y: view.y + dy }));
  }

  /** A point of the stage on the board. */
  toBoard(x: number, y: number): Point {
    return toBoard(this.view()!, x, y);
  }

  /** A box of the board in pixels of the stage, its corner at the upper left. */
  frameOf({ minX, minY, maxX, maxY }: Box): { x: number; y: number; width: number; height: number } {
    const { x, y, scale } = this.view()!;
    return { x: x + minX * scale, y: y - maxY * scale, width: (maxX - minX) * scale, height: (maxY - minY) * scale };
  }

  /** A map of pixels as one of the board. */
  onBoard(matrix: Matrix): Matrix {
    const { scale, x, y } = this.view()!;
    const toPixels: Matrix = [scale, 0, 0, -scale, x, y];
    const back: Matrix = [1 / scale, 0, 0, -1 / scale, -x / scale, y / scale];
    return multiply(back, multiply(matrix, toPixels));
  }

  /** How many millimetres of the board some pixels are. */
  mm(pixels: number): number {
    return pixels / this.view()!.scale;
  }
}
