import { type ElementRef, signal } from '@angular/core';
import type { View } from './view';

/** A canvas that keeps the size of its place and the sharpness of the screen, and draws at most once a frame. */
export class CanvasSurface {
  readonly size = signal<{ width: number; height: number }>({ width: 0, height: 0 });
  private frame = 0;
  private observer: ResizeObserver | undefined;
  /** What is drawn takes the colours of the theme: a switch of it draws anew. */
  private readonly scheme = matchMedia('(prefers-color-scheme: dark)');
  private readonly again = (): void => this.request();
  private canvas: HTMLCanvasElement | undefined;

  constructor(private readonly draw: (context: CanvasRenderingContext2D, ratio: number) => void) {}

  attach({ nativeElement: canvas }: ElementRef<HTMLCanvasElement>): void {
    this.canvas = canvas;
    this.observer = new ResizeObserver(() => {
      const { clientWidth: width, clientHeight: height } = canvas;
      if (width !== this.size().width || height !== this.size().height) this.size.set({ width, height });
      this.request();
    });
    this.observer.observe(canvas);
    this.scheme.addEventListener('change', this.again);
  }

  request(): void {
    this.frame ||= requestAnimationFrame(() => {
      this.frame = 0;
      const canvas = this.canvas;
      const context = canvas?.getContext('2d');
      if (!canvas || !context) return;
      const ratio = window.devicePixelRatio || 1;
      const [width, height] = [Math.round(canvas.clientWidth * ratio), Math.round(canvas.clientHeight * ratio)];
      if (canvas.width !== width || canvas.height !== height) [canvas.width, canvas.height] = [width, height];
      context.setTransform(1, 0, 0, 1, 0, 0);
      context.clearRect(0, 0, width, height);
      this.draw(context, ratio);
    });
  }

  detach(): void {
    this.observer?.disconnect();
    this.scheme.removeEventListener('change', this.again);
    cancelAnimationFrame(this.frame);
  }
}

/** Colours of the current theme, for what is drawn by hand. */
export function themeColour(name: string): string {
  return getComputedStyle(document.documentElement).getPropertyValue(name).trim();
}

/** A grid of ten (or a hundred) millimetres under the board. */
export function paintGrid(context: CanvasRenderingContext2D, view: View, ratio: number, width: number, height: number): void {
  let step = 10;
  while (step * view.scale < 14) step *= 10;
  while (step * view.scale > 180) step /= 10;
  const pixels = step * view.scale;
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  context.strokeStyle = themeColour('--stage-line');
  context.lineWidth = 1;
  context.beginPath();
  for (let x = ((view.x % pixels) + pixels) % pixels; x < width; x += pixels) {
    context.moveTo(Math.round(x) + 0.5, 0);
    context.lineTo(Math.round(x) + 0.5, height);
  }
  for (let y = ((view.y % pixels) + pixels) % pixels; y < height; y += pixels) {
    context.moveTo(0, Math.round(y) + 0.5);
    context.lineTo(width, Math.round(y) + 0.5);
  }
  context.stroke();
}
