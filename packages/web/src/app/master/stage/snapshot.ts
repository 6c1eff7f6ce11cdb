import type { View } from './view';

/** How long a view has to rest before it is painted anew, ms. */
const REST = 90;

/**
 * The last full painting of a stage, to be shown as it is while only what lies over it changes, and shifted and scaled while a
 * view is on the move: painting tens of thousands of objects takes longer than a frame.
 */
export class Snapshot {
  private readonly canvas = document.createElement('canvas');
  private view: View | null = null;
  private size = '';
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(private readonly rested: () => void) {}

  /** Keeps what was just painted. */
  keep(context: CanvasRenderingContext2D, view: View): void {
    const { canvas } = context;
    if (this.canvas.width !== canvas.width || this.canvas.height !== canvas.height)
      [this.canvas.width, this.canvas.height] = [canvas.width, canvas.height];
    const own = this.canvas.getContext('2d')!;
    own.clearRect(0, 0, canvas.width, canvas.height);
    own.drawImage(canvas, 0, 0);
    this.view = view;
    this.size = `${canvas.width}x${canvas.height}`;
  }

  /** Forgets it: what is shown has changed. */
  drop(): void {
    this.view = null;
  }

  /** Shows it as it would look in another view, if there is one of this size; a full painting follows when the view rests. */
  show(context: CanvasRenderingContext2D, view: View, ratio: number): boolean {
    const kept = this.view;
    if (!kept || this.size !== `${context.canvas.width}x${context.canvas.height}`) return false;
    const scale = view.scale / kept.scale;
    context.setTransform(scale, 0, 0, scale, ratio * (view.x - kept.x * scale), ratio * (view.y - kept.y * scale));
    context.drawImage(this.canvas, 0, 0);
    if (kept === view) return true;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => {
      this.drop();
      this.rested();
    }, REST);
    return true;
  }

  stop(): void {
    clearTimeout(this.timer);
  }
}
