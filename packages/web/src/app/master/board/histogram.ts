import { ChangeDetectionStrategy, Component, ElementRef, computed, effect, input, viewChild } from '@angular/core';
import { type Correction, pictureWord } from '@inkwell-twin/core/web';
import { histogramOf } from '@inkwell-twin/core/pictures';
import { picturesCome, shownPicture } from '../stage/pictures';

const [WIDTH, HEIGHT] = [306, 46];

/** How light is spread in a picture before a correction, and what of it becomes black and white. */
@Component({
  selector: 'twin-histogram',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<canvas #canvas width="612" height="92" role="img" aria-label="How light is spread in the picture"></canvas>`,
  styles: `
    canvas { width: 306px; height: 46px; border-bottom: 1px solid var(--ink-three); }
  `,
})
export class Histogram {
  readonly resource = input.required<string>();
  /** Those that act before. */
  readonly corrections = input.required<readonly Correction[]>();
  readonly levels = input.required<{ readonly black: number; readonly white: number }>();
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly word = computed(() => pictureWord(this.resource(), this.corrections()));

  constructor() {
    effect(() => {
      picturesCome();
      const { black, white } = this.levels();
      const picture = shownPicture(this.word());
      const context = this.canvas().nativeElement.getContext('2d');
      if (!context) return;
      context.setTransform(2, 0, 0, 2, 0, 0);
      context.clearRect(0, 0, WIDTH, HEIGHT);
      if (picture) this.paint(context, picture);
      context.fillStyle = getComputedStyle(this.canvas().nativeElement).color;
      for (const at of [black, white]) context.fillRect(at * (WIDTH - 1.5), 0, 1.5, HEIGHT);
    });
  }

  private paint(context: CanvasRenderingContext2D, picture: ImageBitmap): void {
    const scale = Math.min(1, 256 / Math.max(picture.width, picture.height));
    const [width, height] = [picture.width, picture.height].map((side) => Math.max(1, Math.round(side * scale))) as [
      number,
      number,
    ];
    const small = new OffscreenCanvas(width, height).getContext('2d')!;
    small.drawImage(picture, 0, 0, width, height);
    const counts = histogramOf({ width, height, data: new Uint8Array(small.getImageData(0, 0, width, height).data.buffer) });
    // Roots, so that a flat sky does not press everything else to the ground.
    const most = Math.sqrt(Math.max(...counts)) || 1;
    context.fillStyle = '#8d9aa6';
    counts.forEach((count, i) => {
      const tall = (Math.sqrt(count) / most) * (HEIGHT - 4);
      context.fillRect((i / 256) * WIDTH, HEIGHT - tall, WIDTH / 256 + 0.5, tall);
    });
  }
}
