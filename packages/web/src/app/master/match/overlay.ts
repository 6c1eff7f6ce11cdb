import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  type OnDestroy,
  afterNextRender,
  computed,
  effect,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import type { Difference } from '@inkwell-twin/api';
import { type Manner, type Shown, boxOfShown, sceneOf } from '../../content/shown';
import { paintScene } from '../stage/scene';
import { picturesCome } from '../stage/pictures';
import { CanvasSurface, themeColour } from '../stage/canvas-surface';
import { boardAxes, fontsReady, paintSheet } from '../stage/paint';
import { type ShownPixels, differenceMap, paintLoupe } from './pixels';
import { type View, fitView, toBoard, zoomView } from '../stage/view';
import { type Ruler, cornerNear, measureInWords, paintRuler } from './ruler';

export type Way = 'over' | 'beside' | 'blink' | 'map' | 'copy' | 'order';
const BLINK = 700;

/** Master and copy on one stage: over each other, beside each other, or in turn. */
@Component({
  selector: 'twin-overlay',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<canvas
    #canvas
    (wheel)="wheel($event)"
    (pointerdown)="grab($event)"
    (pointermove)="drag($event)"
    (pointerup)="drop($event)"
    (pointerleave)="under.set(null)"
    role="img"
    aria-label="Master and copy, over each other; the list below says the same in words"
  ></canvas>`,
  styles:
    ':host { position: relative; display: block; background: var(--stage); overflow: hidden; } canvas { position: absolute; inset: 0; width: 100%; height: 100%; touch-action: none; }',
})
export class Overlay implements OnDestroy {
  readonly master = input.required<Shown>();
  readonly copy = input.required<Shown>();
  readonly differences = input.required<readonly Difference[]>();
  readonly chosen = input<number | null>(null);
  readonly way = input.required<Way>();
  /** Whether the pointer measures. */
  readonly measuring = input(false);
  readonly pick = output<number>();
  /** What was measured, in words; null where nothing is. */
  readonly measured = output<string | null>();

  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly surface = new CanvasSurface((context, ratio) => this.draw(context, ratio));
  private readonly view = signal<View | null>(null);
  private readonly phase = signal(false);
  private readonly ruler = signal<Ruler | null>(null);
  /** Where the pointer is, pixels of the canvas. */
  protected readonly under = signal<readonly [number, number] | null>(null);
  /** Both sides where they are pixels. */
  private readonly pixels = computed((): readonly [ShownPixels, ShownPixels] | null => {
    const [one, other] = [this.master().pixels, this.copy().pixels];
    return one && other ? [one, other] : null;
  });
  private readonly map = computed(() => {
    const sides = this.pixels();
    return sides && differenceMap(...sides, [168, 98, 0]);
  });
  private held: { x: number; y: number; far: boolean } | null = null;
  private timer: ReturnType<typeof setInterval> | undefined;

  constructor() {
    afterNextRender(() => {
      this.surface.attach(this.canvas());
    });
    effect(() => {
      const fonts = [...this.master().fonts, ...this.copy().fonts];
      void fontsReady(fonts).then((fetched) => fetched && this.surface.request());
    });
    effect(() => {
      const { width, height } = this.surface.size();
      const chosen = this.chosen();
      const place = chosen === null ? null : this.differences()[chosen]?.place;
      const room = this.way() === 'beside' ? width / 2 : width;
      if (!width) return;
      if (place) {
        const pad = Math.max(6, 0.6 * Math.max(place.maxX - place.minX, place.maxY - place.minY));
        this.view.set(
          fitView(
            { minX: place.minX - pad, minY: place.minY - pad, maxX: place.maxX + pad, maxY: place.maxY + pad },
            room,
            height,
            10,
          ),
        );
      } else this.view.set(fitView(boxOfShown(this.master()), room, height, 16));
    });
    effect(() => {
      this.copy();
      this.measuring();
      this.ruler.set(null);
    });
    effect(() => {
      const ruler = this.ruler();
      this.measured.emit(ruler && measureInWords(ruler));
    });
    effect(() => {
      clearInterval(this.timer);
      if (this.way() === 'blink') this.timer = setInterval(() => this.phase.update((on) => !on), BLINK);
    });
    effect(() => {
      this.master();
      this.copy();
      this.differences();
      this.chosen();
      this.way();
      this.view();
      this.phase();
      this.under();
      this.ruler();
      picturesCome();
      this.surface.request();
    });
  }

  protected wheel(event: WheelEvent): void {
    event.preventDefault();
    this.view.update((view) => view && zoomView(view, Math.exp(-event.deltaY * 0.0015), event.offsetX, event.offsetY));
  }

  protected grab(event: PointerEvent): void {
    this.held = { x: event.offsetX, y: event.offsetY, far: false };
    this.canvas().nativeElement.setPointerCapture(event.pointerId);
  }

  protected drag(event: PointerEvent): void {
    const held = this.held;
    if (this.pixels() && !this.measuring()) this.under.set([event.offsetX, event.offsetY]);
    const ruler = this.ruler();
    if (!held && ruler && !ruler.set) this.ruler.set({ ...ruler, to: this.pointAt(event) });
    if (!held) return;
    const [dx, dy] = [event.offsetX - held.x, event.offsetY - held.y];
    if (!held.far && Math.hypot(dx, dy) < 3) return;
    this.held = { x: event.offsetX, y: event.offsetY, far: true };
    this.view.update((view) => view && { ...view, x: view.x + dx, y: view.y + dy });
  }

  /** A click on a difference picks it in the list. */
  protected drop(event: PointerEvent): void {
    const held = this.held;
    this.held = null;
    const view = this.view();
    if (!held || held.far || !view) return;
    if (this.measuring()) return this.measure(event);
    const [x, y] = toBoard(view, event.offsetX, event.offsetY);
    const reach = 5 / view.scale;
    const [master, copy] = [this.master(), this.copy()];
    const within = (place: Difference['place']) =>
      place && x >= place.minX - reach && x <= place.maxX + reach && y >= place.minY - reach && y <= place.maxY + reach;
    const found = this.differences().findIndex(
      ({ masterEntries, copyEntries, place }) =>
        (this.pixels() && within(place)) ||
        masterEntries.some((entry) => master.isHit(entry, x, y, reach)) ||
        copyEntries.some((entry) => copy.isHit(entry, x, y, reach)),
    );
    if (found >= 0) this.pick.emit(found);
  }

  /** The first press sets one end, the second the other; a third begins anew. */
  private measure(event: PointerEvent): void {
    const [at, ruler] = [this.pointAt(event), this.ruler()];
    this.ruler.set(ruler && !ruler.set ? { ...ruler, to: at, set: true } : { from: at, to: at, set: false });
  }

  /** Where the pointer is on the board, mm: on the nearest corner of the copy, where one is near. */
  private pointAt({ offsetX, offsetY }: PointerEvent): readonly [number, number] {
    const view = this.view()!;
    const half = this.surface.size().width / 2;
    // Beside each other, the right half is the copy's.
    const across = this.way() === 'beside' && offsetX > half ? offsetX - half : offsetX;
    return cornerNear(this.copy(), toBoard(view, across, offsetY), 8 / view.scale);
  }

  private paintMeasure(context: CanvasRenderingContext2D, ratio: number, view: View): void {
    const ruler = this.ruler();
    if (!ruler) return;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    const aside = this.way() === 'beside' ? this.surface.size().width / 2 : 0;
    const colours = { ink: themeColour('--ink'), ground: themeColour('--sheet') };
    paintRuler(context, ruler, ([x, y]) => [aside + view.x + x * view.scale, view.y - y * view.scale], colours);
  }

  private draw(context: CanvasRenderingContext2D, ratio: number): void {
    const view = this.view();
    if (!view) return;
    const { width, height } = this.surface.size();
    const way = this.way();
    const ink: Manner = { stroke: themeColour('--ink'), fill: null, width: 1 };
    const faint: Manner = { stroke: themeColour('--faint'), fill: null, width: 1 };
    const ochre: Manner = { stroke: themeColour('--difference'), fill: null, width: 1.8 };
    const line = themeColour('--hairline');
    const different = {
      master: new Set(this.differences().flatMap((one) => one.masterEntries)),
      copy: new Set(this.differences().flatMap((one) => one.copyEntries)),
    };
    const paint = (side: Shown, manner: (index: number) => Manner | null, at: View) => {
      boardAxes(context, at, ratio);
      for (let entry = 0; entry < side.count; entry++) {
        const how = manner(entry);
        if (how) side.paint(context, entry, at, how);
      }
    };
    const sheet = (list: Shown, at: View) => {
      boardAxes(context, at, ratio);
      if (list.sheet) paintSheet(context, list.sheet, themeColour('--sheet'), at, line);
    };
    const own = (list: Shown, at: View) => {
      boardAxes(context, at, ratio);
      if (list.sheet) paintSheet(context, list.sheet, list.background, at, line);
      paintScene(context, sceneOf(list, at));
    };
    const pixels = this.pixels();
    if (pixels && (way === 'over' || way === 'map')) {
      this.overPixels(context, ratio, view, way, own);
    } else if (way === 'over' || way === 'map') {
      sheet(this.master(), view);
      paint(this.master(), (index) => (different.master.has(index) ? ink : faint), view);
      paint(this.copy(), (index) => (different.copy.has(index) ? ochre : null), view);
      this.ring(context, ratio, view);
    } else if (way === 'copy') own(this.copy(), view);
    else if (way === 'blink') own(this.phase() ? this.copy() : this.master(), view);
    else {
      [this.master(), this.copy()].forEach((list, side) => {
        context.save();
        context.setTransform(ratio, 0, 0, ratio, 0, 0);
        context.beginPath();
        context.rect((side * width) / 2, 0, width / 2, height);
        context.clip();
        own(list, { ...view, x: view.x + (side * width) / 2 });
        context.restore();
      });
      context.setTransform(ratio, 0, 0, ratio, 0, 0);
      context.fillStyle = line;
      context.fillRect(width / 2, 0, 1, height);
    }
    this.loupe(context, ratio, view);
    this.paintMeasure(context, ratio, view);
  }

  /** The master, pale, and what differs: its places, or each pixel of it. */
  private overPixels(
    context: CanvasRenderingContext2D,
    ratio: number,
    view: View,
    way: Way,
    own: (list: Shown, at: View) => void,
  ): void {
    const { width, height } = this.surface.size();
    own(this.master(), view);
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    context.globalAlpha = way === 'map' ? 0.82 : 0.4;
    context.fillStyle = themeColour('--stage');
    context.fillRect(0, 0, width, height);
    context.globalAlpha = 1;
    const { sheet } = this.master();
    const map = this.map();
    if (way === 'map' && map && sheet) {
      context.imageSmoothingEnabled = false;
      context.drawImage(map, view.x, view.y - sheet.height * view.scale, sheet.width * view.scale, sheet.height * view.scale);
      return;
    }
    context.strokeStyle = themeColour('--difference');
    context.lineWidth = 1.5;
    for (const { place } of this.differences())
      if (place)
        context.strokeRect(
          view.x + place.minX * view.scale - 2,
          view.y - place.maxY * view.scale - 2,
          (place.maxX - place.minX) * view.scale + 4,
          (place.maxY - place.minY) * view.scale + 4,
        );
    this.ring(context, ratio, view);
  }

  /** Both sides under the pointer, large. */
  private loupe(context: CanvasRenderingContext2D, ratio: number, view: View): void {
    const [sides, under, sheet] = [this.pixels(), this.under(), this.master().sheet];
    if (!sides || !under || !sheet) return;
    const { width } = this.surface.size();
    // Beside each other, the right half is the copy's.
    const across = this.way() === 'beside' && under[0] > width / 2 ? under[0] - width / 2 : under[0];
    const [x, y] = toBoard(view, across, under[1]);
    if (x < 0 || y < 0 || x > sheet.width || y > sheet.height) return;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    // On the side where the pointer is not.
    const left = under[0] < width / 2 ? width - 248 : 0;
    const how = { ground: themeColour('--raised'), ink: themeColour('--ink'), line: themeColour('--ink-three'), left };
    paintLoupe(context, sides, x / sheet.width, 1 - y / sheet.height, how);
  }

  /** A ring of dashes around the difference that is chosen. */
  private ring(context: CanvasRenderingContext2D, ratio: number, view: View): void {
    const chosen = this.chosen();
    const place = chosen === null ? null : this.differences()[chosen]?.place;
    if (!place) return;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    const [x, y] = [view.x + ((place.minX + place.maxX) / 2) * view.scale, view.y - ((place.minY + place.maxY) / 2) * view.scale];
    const radius = 12 + (Math.hypot(place.maxX - place.minX, place.maxY - place.minY) / 2) * view.scale;
    context.strokeStyle = themeColour('--difference');
    context.setLineDash([4, 4]);
    context.lineWidth = 1.2;
    context.beginPath();
    context.arc(x, y, radius, 0, 2 * Math.PI);
    context.stroke();
    context.setLineDash([]);
  }

  ngOnDestroy(): void {
    clearInterval(this.timer);
    this.surface.detach();
  }
}
