import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  effect,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { type Master, findBoard, resolveBoard } from '@inkwell-twin/core/web';
import { themeColour } from '../stage/canvas-surface';
import { boardAxes, paintEntry, paintSheet, widthOnStage } from '../stage/paint';
import { picturesCome } from '../stage/pictures';
import { cellsOf, spansOf } from '../stage/resolved-scene';
import { paintScene } from '../stage/scene';
import { fitView } from '../stage/view';

/** Pixels of a tile. */
const SIZE = { width: 148, height: 96 };
const MARGIN = 5;

/** A small picture of a board as one master has it; painted once it is seen. */
@Component({
  selector: 'twin-variant-tile',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<canvas #canvas aria-hidden="true"></canvas>`,
  styles: `
    :host, canvas { display: block; width: 148px; height: 96px; }
    canvas { border-radius: 3px; background: var(--ground); }
  `,
})
export class VariantTile {
  readonly master = input.required<Master>();
  readonly board = input.required<string>();
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly seen = signal(false);

  constructor() {
    const element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const observer = new IntersectionObserver(([entry]) => {
      if (entry?.isIntersecting) this.seen.set(true);
    });
    observer.observe(element);
    inject(DestroyRef).onDestroy(() => observer.disconnect());
    effect(() => {
      if (!this.seen()) return;
      picturesCome();
      this.paint(this.master(), this.board());
    });
  }

  private paint(master: Master, id: string): void {
    const board = findBoard(master, id);
    const canvas = this.canvas().nativeElement;
    const context = canvas.getContext('2d');
    if (!board || !context) return;
    const ratio = devicePixelRatio || 1;
    [canvas.width, canvas.height] = [SIZE.width * ratio, SIZE.height * ratio];
    const resolved = resolveBoard(master, board, null, widthOnStage);
    const { width, height } = resolved.board;
    const view = fitView({ minX: 0, minY: 0, maxX: width, maxY: height }, SIZE.width, SIZE.height, MARGIN);
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.clearRect(0, 0, canvas.width, canvas.height);
    boardAxes(context, view, ratio);
    paintSheet(context, resolved.board, resolved.board.background, view, themeColour('--hairline'));
    const cell = cellsOf(resolved);
    paintScene(context, {
      count: resolved.entries.length,
      spans: spansOf(resolved),
      paint: (own, at) => paintEntry(own, resolved.entries[at]!, view, undefined, cell),
      cell,
    });
  }
}
