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
  untracked,
  viewChild,
} from '@angular/core';
import { type Board, type Box, type Master, type ResolvedEntry, joinBoxes, resolveBoard } from '@inkwell-twin/core/web';
import { CanvasSurface, paintGrid, themeColour } from './canvas-surface';
import { boardAxes, boxOf, fontsReady, isHit, paintEntry, paintSheet, widthOnStage } from './paint';
import { noteWidths, picturesCome } from './pictures';
import { cellsOf, spansOf } from './resolved-scene';
import { paintScene } from './scene';
import { Snapshot } from './snapshot';
import { type View, fitView, toBoard, zoomView } from './view';

/** Where a board lies that leaves room: high, because the slip stands at the foot of the stage. */
const ABOVE = 0.26;

/** Objects above which a moving view shows its last painting. */
const MANY = 2000;

/** Pixels that the pointer may wander before a click becomes a move. */
const STILL = 3;

/** The board on its stage: pan, zoom, select, move. */
@Component({
  selector: 'twin-stage',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <canvas
      #canvas
      tabindex="0"
      role="application"
      [attr.aria-label]="'Board ' + board().name + '. Objects are also in Contents. Arrow keys move the selection.'"
      (pointerdown)="down($event)"
      (pointermove)="moved($event)"
      (pointerup)="up($event)"
      (pointercancel)="cancel()"
      (dblclick)="inside($event)"
      (wheel)="wheel($event)"
      [style.cursor]="cursor()"
    ></canvas>
    <div class="tools" role="group" aria-label="View of the board">
      <button type="button" (click)="zoom(1.25)" title="Closer" aria-label="Closer">+</button>
      <button type="button" (click)="zoom(0.8)" title="Farther" aria-label="Farther">−</button>
      <button type="button" (click)="whole()" title="Show the whole board" aria-label="Show the whole board">
        Whole
      </button>
    </div>
  `,
  styles: `
    :host { position: relative; display: block; min-height: 0; overflow: hidden; background: var(--stage); }
    canvas { position: absolute; inset: 0; width: 100%; height: 100%; touch-action: none; }
    canvas:focus-visible { outline-offset: -3px; }
    .tools { position: absolute; right: 12px; bottom: calc(12px + var(--under, 0px)); display: flex; border: 1px solid var(--hairline); border-radius: 6px; background: var(--raised); overflow: hidden; }
    .tools button { min-width: 30px; height: 28px; padding: 0 8px; border: 0; background: none; cursor: pointer; }
    .tools button + button { border-left: 1px solid var(--hairline); }
    .tools button:hover { background: var(--action-soft); }
  `,
})
export class Stage implements OnDestroy {
  readonly master = input.required<Master>();
  readonly board = input.required<Board>();
  readonly selection = input.required<readonly string[]>();
  /** Objects to show in full while the rest is faint; null for no such thing. */
  readonly lit = input<ReadonlySet<string> | null>(null);
  readonly readonlyStage = input(false);
  readonly select = output<readonly string[]>();
  readonly move = output<{ dx: number; dy: number }>();

  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly surface = new CanvasSurface((context, ratio) => this.draw(context, ratio));
  private readonly snapshot = new Snapshot(() => this.surface.request());
  private readonly view = signal<View | null>(null);
  private readonly drag = signal<{
    kind: 'pan' | 'move';
    fromX: number;
    fromY: number;
    x: number;
    y: number;
    far: boolean;
  } | null>(null);
  protected readonly cursor = computed(() =>
    this.drag()?.kind === 'pan' && this.drag()?.far ? 'grabbing' : this.drag()?.far ? 'move' : 'default',
  );
  /** Counts fonts that came: where lines break and parts stand depends on them. */
  private readonly fontsCame = signal(0);
  readonly resolved = computed(() => {
    this.fontsCame();
    return resolveBoard(this.master(), this.board(), null, widthOnStage);
  });
  private shownBoard = '';

  constructor() {
    afterNextRender(() => {
      this.surface.attach(this.canvas());
    });
    effect(() => {
      const fonts = this.resolved().entries.flatMap((entry) => (entry.kind === 'text' ? [entry.font] : []));
      void fontsReady(fonts).then((fetched) => {
        if (fetched) this.fontsCame.update((count) => count + 1);
      });
    });
    effect(() => {
      const { width } = this.surface.size();
      const { id } = this.board();
      if (!width) return;
      // Another board, or the first look: show it whole. A resize keeps what one looked at, unless nothing was chosen yet.
      if (this.shownBoard !== id || !untracked(this.view) || !this.chosen) this.whole();
      this.shownBoard = id;
    });
    effect(() => noteWidths(this.master().resources));
    effect(() => {
      this.resolved();
      this.selection();
      this.lit();
      picturesCome();
      this.snapshot.drop();
    });
    effect(() => {
      this.resolved();
      this.selection();
      this.lit();
      this.view();
      this.drag();
      picturesCome();
      this.surface.request();
    });
  }

  /** Where objects are seen: from and to, in pixels across the stage; null where nothing of them is drawn. */
  across(ids: readonly string[]): { readonly from: number; readonly to: number; readonly width: number } | null {
    const [wanted, view] = [new Set(ids), this.view()];
    const boxes = this.resolved().entries.flatMap((entry) =>
      wanted.has(entry.source) || entry.within.some(({ id }) => wanted.has(id)) ? [boxOf(entry)] : [],
    );
    if (!view || !boxes.length) return null;
    const { minX, maxX } = joinBoxes(boxes);
    return { from: view.x + minX * view.scale, to: view.x + maxX * view.scale, width: this.surface.size().width };
  }

  /** Whether the person has chosen a view by hand. */
  private chosen = false;

  whole(): void {
    const { width, height } = this.surface.size();
    const { width: w, height: h } = this.board();
    this.chosen = false;
    if (width) this.view.set(fitView({ minX: 0, minY: 0, maxX: w, maxY: h }, width, height, 36, ABOVE));
  }

  /** Goes to a place on the board. */
  show(box: Box): void {
    const { width, height } = this.surface.size();
    const pad = Math.max(8, (box.maxX - box.minX) * 0.8, (box.maxY - box.minY) * 0.8);
    this.chosen = true;
    this.view.set(
      fitView({ minX: box.minX - pad, minY: box.minY - pad, maxX: box.maxX + pad, maxY: box.maxY + pad }, width, height / 2, 8),
    );
  }

  protected zoom(factor: number): void {
    const { width, height } = this.surface.size();
    this.chosen = true;
    this.view.update((view) => view && zoomView(view, factor, width / 2, height / 2));
  }

  protected wheel(event: WheelEvent): void {
    event.preventDefault();
    this.chosen = true;
    this.view.update((view) => view && zoomView(view, Math.exp(-event.deltaY * 0.0015), event.offsetX, event.offsetY));
  }

  /** The object that an entry belongs to when it is picked from outside: its outermost group or use, else itself. */
  private pickable = (entry: ResolvedEntry): string => entry.within[0]?.id ?? entry.source;

  private hitAt(event: MouseEvent): ResolvedEntry | undefined {
    const view = this.view();
    if (!view) return undefined;
    const [x, y] = toBoard(view, event.offsetX, event.offsetY);
    const locked = new Set(
      this.master()
        .layers.filter((layer) => layer.locked)
        .map(({ id }) => id),
    );
    return this.resolved().entries.findLast((entry) => !locked.has(entry.layerId) && isHit(entry, x, y, 4 / view.scale));
  }

  protected down(event: PointerEvent): void {
    this.canvas().nativeElement.setPointerCapture(event.pointerId);
    const hit = event.button === 0 ? this.hitAt(event) : undefined;
    const id = hit && this.pickable(hit);
    let kind: 'pan' | 'move' = 'pan';
    if (hit && id) {
      const inSelection = this.selection().includes(id) || this.selection().includes(hit.source);
      if (event.shiftKey)
        this.select.emit(inSelection ? this.selection().filter((one) => one !== id) : [...this.selection(), id]);
      else if (!inSelection) this.select.emit([id]);
      kind = this.readonlyStage() ? 'pan' : 'move';
    }
    this.drag.set({ kind, fromX: event.offsetX, fromY: event.offsetY, x: event.offsetX, y: event.offsetY, far: false });
  }

  protected moved(event: PointerEvent): void {
    const drag = this.drag();
    if (!drag) return;
    const far = drag.far || Math.hypot(event.offsetX - drag.fromX, event.offsetY - drag.fromY) > STILL;
    if (far && drag.kind === 'pan') {
      this.chosen = true;
      this.view.update((view) => view && { ...view, x: view.x + event.offsetX - drag.x, y: view.y + event.offsetY - drag.y });
    }
    this.drag.set({ ...drag, x: event.offsetX, y: event.offsetY, far });
  }

  protected up(event: PointerEvent): void {
    const drag = this.drag();
    const view = this.view();
    this.drag.set(null);
    if (!drag || !view) return;
    if (drag.kind === 'move' && drag.far) this.move.emit(this.shift(drag, view));
    else if (!drag.far && !event.shiftKey && !this.hitAt(event)) this.select.emit([]);
  }

  /** A shift in tenths of a millimetre: finer than a hand can place it. */
  private shift(
    { fromX, fromY, x, y }: { fromX: number; fromY: number; x: number; y: number },
    { scale }: View,
  ): { dx: number; dy: number } {
    return { dx: Math.round(((x - fromX) / scale) * 10) / 10, dy: Math.round(((fromY - y) / scale) * 10) / 10 };
  }

  protected cancel(): void {
    this.drag.set(null);
  }

  /** A double click goes through groups to the object itself. */
  protected inside(event: MouseEvent): void {
    const hit = this.hitAt(event);
    if (hit) this.select.emit([hit.source]);
  }

  private draw(context: CanvasRenderingContext2D, ratio: number): void {
    const view = this.view();
    if (!view) return;
    const { width, height } = this.surface.size();
    const { board, entries } = this.resolved();
    const many = entries.length > MANY;
    if (many && this.drag()?.kind !== 'move' && this.snapshot.show(context, view, ratio)) return;
    paintGrid(context, view, ratio, width, height);
    boardAxes(context, view, ratio);
    paintSheet(context, board, board.background, view, themeColour('--hairline'));
    const chosen = new Set(this.selection());
    const drag = this.drag();
    const shift = drag?.kind === 'move' && drag.far ? this.shift(drag, view) : { dx: 0, dy: 0 };
    const lit = this.lit();
    const selected: Box[] = [];
    const cells = cellsOf(this.resolved());
    const paint = (own: CanvasRenderingContext2D, at: number) => {
      const entry = entries[at]!;
      const isChosen = chosen.has(entry.source) || entry.within.some(({ id }) => chosen.has(id));
      if (isChosen) boardAxes(own, view, ratio, shift.dx, shift.dy);
      if (lit && !lit.has(entry.source))
        paintEntry(own, entry, view, { stroke: '#c3ccd4', fill: entry.style.fill ? '#e4e9ea' : null, width: 1 });
      else paintEntry(own, entry, view, undefined, cells);
      if (isChosen) {
        selected.push(boxOf(entry));
        boardAxes(own, view, ratio);
      }
    };
    paintScene(context, { count: entries.length, spans: spansOf(this.resolved()), paint, cell: cells });
    if (selected.length) this.drawSelection(context, ratio, view, selected, shift);
    if (many) this.snapshot.keep(context, view);
  }

  private drawSelection(
    context: CanvasRenderingContext2D,
    ratio: number,
    view: View,
    boxes: readonly Box[],
    { dx, dy }: { dx: number; dy: number },
  ): void {
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    const left = view.x + (Math.min(...boxes.map(({ minX }) => minX)) + dx) * view.scale - 4;
    const right = view.x + (Math.max(...boxes.map(({ maxX }) => maxX)) + dx) * view.scale + 4;
    const top = view.y - (Math.max(...boxes.map(({ maxY }) => maxY)) + dy) * view.scale - 4;
    const bottom = view.y - (Math.min(...boxes.map(({ minY }) => minY)) + dy) * view.scale + 4;
    context.strokeStyle = '#2b4180';
    context.lineWidth = 1.5;
    // Corner brackets: they say what is chosen without covering its outline, and promise no handles that are not there.
    const arm = Math.min(12, (right - left) / 3, (bottom - top) / 3);
    context.beginPath();
    for (const [x, y, sx, sy] of [
      [left, top, 1, 1],
      [right, top, -1, 1],
      [right, bottom, -1, -1],
      [left, bottom, 1, -1],
    ] as const) {
      context.moveTo(x + sx * arm, y);
      context.lineTo(x, y);
      context.lineTo(x, y + sy * arm);
    }
    context.stroke();
  }

  ngOnDestroy(): void {
    this.snapshot.stop();
    this.surface.detach();
  }
}
