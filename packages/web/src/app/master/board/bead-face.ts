import { ChangeDetectionStrategy, Component, ElementRef, computed, effect, input, viewChild } from '@angular/core';
import { type Correction, pictureWord } from '@inkwell-twin/core/web';
import { picturesCome, shownPicture } from '../stage/pictures';

/** Pixels each way. */
const SIZE = 48;

/** A small picture of what corrections do. */
@Component({
  selector: 'twin-bead-face',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<canvas #canvas width="96" height="96" aria-hidden="true"></canvas>`,
  styles: `
    :host { display: block; width: 48px; height: 48px; overflow: hidden; border: 1px solid var(--hairline); border-radius: 50%; background: var(--sheet); transition: transform 0.12s; }
    canvas { width: 48px; height: 48px; }
  `,
})
export class BeadFace {
  readonly resource = input.required<string>();
  readonly corrections = input.required<readonly Correction[]>();
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly word = computed(() => pictureWord(this.resource(), this.corrections()));

  constructor() {
    effect(() => {
      picturesCome();
      const { nativeElement: canvas } = this.canvas();
      const picture = shownPicture(this.word());
      const context = canvas.getContext('2d');
      if (!context || !picture) return;
      const side = Math.min(picture.width, picture.height);
      context.clearRect(0, 0, 2 * SIZE, 2 * SIZE);
      context.imageSmoothingQuality = 'high';
      const [x, y] = [(picture.width - side) / 2, (picture.height - side) / 2];
      context.drawImage(picture, x, y, side, side, 0, 0, 2 * SIZE, 2 * SIZE);
    });
  }
}
