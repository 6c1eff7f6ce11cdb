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
import {
  type Board,
  type Box,
  type Grip,
  type Master,
  type Matrix,
  type Outline,
  type Point,
  type ResolvedEntry,
  addNode,
  gripsOf,
  identity,
  joinBoxes,
  moveGrip,
  multiply,
  nearestPlace,
  removeNode,
  resolveBoard,
  translation,
} from '@inkwell-twin/core/web';
import { CanvasSurface, paintGrid, themeColour } from './canvas-surface';
import { boardAxes, boxOf, fontsReady, isHit, paintEntry, paintSheet, widthOnStage } from './paint';
import { DrawingHand, type DrawnShape, type Way } from './drawing-hand';
import { type Frame, Handles } from './handles';
import { pathOfOutlines } from './outline-path';
import { insideFrame, linesOnBoard, pickable } from './on-board';
import { paintBrackets, paintFrame, paintHandleLines, paintLayout, paintSnapped } from './over';
import { noteWidths, picturesCome } from './pictures';
import { cellsOf, spansOf } from './resolved-scene';
import { paintScene } from './scene';
import type { SnapLine, SnapLines } from './snap';
import { Lifted } from './lifted';
import { Snapshot } from './snapshot';
import { type View, fitView, toBoard, zoomView } from './view';

/** Where a board lies that leaves room: high, because the slip stands at the foot of the stage. */
const ABOVE = 0.26;

/** Objects above which a moving view shows its last painting. */
const MANY = 2000;

/** Pixels that the pointer may wander before a click becomes a move. */
const STILL = 3;

/** How near, in pixels, something comes to a line before it is laid to it. */
const NEAR = 6;

/** What a drag does: moves the view, the selection or a guide, or selects what lies in a frame. */
interface Drag {
  readonly kind: 'pan' | 'move' | 'frame' | 'guide';
  readonly fromX: number;
  readonly fromY: number;
  readonly x: number;
  readonly y: number;
  readonly far: boolean;
  /** Whether it lays itself to no line. */
  readonly free: boolean;
  readonly guide?: number;
}

/** The board on its stage: pan, zoom, select, move, pull, draw, and the points of a shape. */
@Component({
  selector: 'twin-stage',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div
      class="layers"
      (mousedown)="$event.preventDefault()"
      (pointerdown)="down($event)"
      (pointermove)="moved($event)"
      (pointerup)="up($event)"
      (pointercancel)="cancel()"
      (dblclick)="inside($event)"
      (wheel)="wheel($event)"
      (contextmenu)="$event.preventDefault()"
      [style.cursor]="cursor()"
    >
      <canvas
        #canvas
        class="board"
        tabindex="0"
        role="application"
        [attr.aria-label]="'Board ' + board().name + '. Objects are also in Contents. Arrow keys move the selection.'"
      ></canvas>
      <div #handles class="handles" aria-hidden="true"></div>
    </div>
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
    .layers, .board, .handles { position: absolute; inset: 0; width: 100%; height: 100%; touch-action: none; }
    .board:focus-visible { outline-offset: -3px; }
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
  readonly highlighted = input<ReadonlySet<string> | null>(null);
  readonly readonlyStage = input(false);
  /** What to show of a board that is no sheet, such as a symbol: its frame; the sheet itself where it is null. */
  readonly frame = input<Box | null>(null);
  /** How much of the stage at its foot something else stands on, pixels. */
  readonly under = input(0);
  /** How the next shape is drawn by hand; null where one selects. */
  readonly drawing = input<Way | null>(null);
  /** Outlines whose points are taken hold of, in board millimetres. */
  readonly points = input<readonly Outline[] | null>(null);
  readonly picked = output<readonly string[]>();
  readonly move = output<{ dx: number; dy: number }>();
  readonly map = output<{ matrix: Matrix; turned: boolean }>();
  readonly drawn = output<DrawnShape>();
  readonly reshaped = output<readonly Outline[]>();
  readonly gripped = output<Grip | null>();
  readonly guided = output<{ index: number; at: number | null }>();

  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly over = viewChild.required<ElementRef<HTMLDivElement>>('handles');
  private readonly surface = new CanvasSurface((context, ratio) => this.draw(context, ratio));
  private readonly snapshot = new Snapshot(() => this.surface.request());
  private readonly lifted = new Lifted();
  private readonly view = signal<View | null>(null);
  private readonly drag = signal<Drag | null>(null);
  /** What a pull of the handles would do to the selection, in board millimetres. */
  private readonly pull = signal<Matrix | null>(null);
  private readonly hand = computed(() => {
    const way = this.drawing();
    return way && new DrawingHand(way);
  });
  /** Counts changes of the hand, which is no signal. */
  private readonly handMoved = signal(0);
  /** Outlines while a point of theirs is moved. */
  private readonly bent = signal<readonly Outline[] | null>(null);
  private readonly grip = signal<number | null>(null);
  private readonly snapped = signal<readonly SnapLine[]>([]);
  private lines: SnapLines | null = null;
  private handles: Handles | undefined;
  private space = false;
  protected readonly cursor = computed(() => {
    if (this.drawing()) return 'crosshair';
    const drag = this.drag();
    return drag?.far ? { pan: 'grabbing', move: 'move', frame: 'crosshair', guide: 'move' }[drag.kind] : 'default';
  });
  /** Counts fonts that came: where lines break and parts stand depends on them. */
  private readonly fontsCame = signal(0);
  readonly resolved = computed(() => {
    this.fontsCame();
    return resolveBoard(this.master(), this.board(), null, widthOnStage);
  });
  private readonly grips = computed(() => gripsOf(this.bent() ?? this.points() ?? []));
  /** The box of what is selected, as it lies now. */
  private readonly chosenBox = computed(() => this.boxOf(this.selection()));
  private shownBoard = '';

  constructor() {
    afterNextRender(() => {
      this.surface.attach(this.canvas());
      this.handles = new Handles(this.over().nativeElement, {
        pulled: (matrix) => this.pull.set(this.onBoard(matrix)),
        let: (matrix, turned) => {
          this.pull.set(null);
          this.snapped.set([]);
          this.map.emit({ matrix: this.onBoard(matrix), turned });
          this.showHandles();
        },
        snap: (x, y) => this.snapPixel(x, y),
        held: (at, x, y) => this.holdAt(at, x, y),
        put: () => this.putPoint(),
        pressed: (at) => this.press(at),
      });
    });
    effect(() => {
      const fonts = this.resolved().entries.flatMap((entry) => (entry.kind === 'text' ? [entry.font] : []));
      void fontsReady(fonts).then((fetched) => {
        if (fetched) this.fontsCame.update((count) => count + 1);
      });
    });
    effect(() => {
      const { width, height } = this.surface.size();
      const { id } = this.board();
      this.under();
      if (!width) return;
      this.handles?.resize(width, height);
      // Another board, or the first look: show it whole. A resize keeps what one looked at, unless nothing was chosen yet.
      if (this.shownBoard !== id || !untracked(this.view) || !this.chosen) this.whole();
      this.shownBoard = id;
    });
    effect(() => noteWidths(this.master().resources));
    effect(() => {
      this.resolved();
      this.highlighted();
      this.frame();
      picturesCome();
      this.snapshot.drop();
      this.lifted.drop();
    });
    effect(() => {
      this.resolved();
      this.selection();
      this.highlighted();
      this.view();
      this.drag();
      this.pull();
      this.bent();
      this.points();
      this.handMoved();
      picturesCome();
      this.surface.request();
    });
    effect(() => {
      this.points();
      this.grip.set(null);
      this.bent.set(null);
    });
    effect(() => this.gripped.emit(this.grips()[this.grip() ?? -1] ?? null));
    effect(() => {
      this.chosenBox();
      this.view();
      this.readonlyStage();
      this.grips();
      this.grip();
      this.highlighted();
      this.surface.size();
      const still = !this.drag()?.far;
      untracked(() => this.showHandles(still));
    });
  }

  private entriesOf(ids: readonly string[]): ResolvedEntry[] {
    const wanted = new Set(ids);
    if (!wanted.size) return [];
    return this.resolved().entries.filter(({ source, within }) => wanted.has(source) || within.some(({ id }) => wanted.has(id)));
  }
  private boxOf(ids: readonly string[]): Box | null {
    const box = joinBoxes(this.entriesOf(ids).map(boxOf));
    return box.minX <= box.maxX ? box : null;
  }

  /** Puts handles where they belong, fetching them first where they were never needed. */
  private showHandles(still = true): void {
    const [view, box, handles] = [this.view(), this.chosenBox(), this.handles];
    if (!view || !handles) return;
    const wanted =
      still &&
      !this.readonlyStage() &&
      this.highlighted() === null &&
      !this.drawing() &&
      (box !== null || this.points() !== null);
    if (!handles.ready) {
      if (wanted)
        handles.load().then(
          () => {
            const { width, height } = this.surface.size();
            handles.resize(width, height);
            this.showHandles();
          },
          // Where they don't come, the next choice asks for them again.
          () => undefined,
        );
      return;
    }
    const points = wanted && this.points() !== null;
    const frame: Frame | null =
      wanted && box && !points
        ? {
            x: view.x + box.minX * view.scale,
            y: view.y - box.maxY * view.scale,
            width: (box.maxX - box.minX) * view.scale,
            height: (box.maxY - box.minY) * view.scale,
          }
        : null;
    handles.show(frame);
    handles.points(
      points
        ? this.grips().map(({ at: [x, y], part }, i) => ({
            x: view.x + x * view.scale,
            y: view.y - y * view.scale,
            small: part !== 'point',
            chosen: i === this.grip(),
          }))
        : [],
    );
  }

  /** A map of pixels as one of the board. */
  private onBoard(matrix: Matrix): Matrix {
    const { scale, x, y } = this.view()!;
    const toPixels: Matrix = [scale, 0, 0, -scale, x, y];
    const back: Matrix = [1 / scale, 0, 0, -1 / scale, -x / scale, y / scale];
    return multiply(back, multiply(matrix, toPixels));
  }

  private snapPixel(px: number, py: number): { x: number; y: number } {
    const view = this.view()!;
    this.lines ??= this.linesNow();
    const { at, lines } = this.lines.point(toBoard(view, px, py), NEAR / view.scale);
    this.snapped.set(lines);
    return { x: view.x + at[0] * view.scale, y: view.y - at[1] * view.scale };
  }

  private linesNow(): SnapLines {
    return linesOnBoard(this.resolved(), new Set(this.selection()));
  }

  private holdAt(at: number, px: number, py: number): { x: number; y: number } {
    const [view, grip, outlines] = [this.view()!, this.grips()[at], this.points()];
    const before = gripsOf(outlines ?? [])[at];
    if (!grip || !before || !outlines) return { x: px, y: py };
    const snapped = before.part === 'point' ? this.snapPixel(px, py) : { x: px, y: py };
    const [x, y] = toBoard(view, snapped.x, snapped.y);
    const to: Point = [Number(x.toFixed(3)), Number(y.toFixed(3))];
    this.bent.set(moveGrip(outlines, before, [to[0] - before.at[0], to[1] - before.at[1]]));
    return snapped;
  }
  private putPoint(): void {
    const bent = this.bent();
    this.snapped.set([]);
    this.lines = null;
    if (bent) this.reshaped.emit(bent);
  }
  private press(at: number): void {
    this.canvas().nativeElement.focus();
    this.grip.set(at);
    this.lines = null;
  }

  /** Takes the chosen point out. @returns whether there was one */
  removePoint(): boolean {
    const [outlines, grip] = [this.points(), this.grips()[this.grip() ?? -1]];
    if (!outlines || !grip) return false;
    if (grip.part === 'point') this.reshaped.emit(removeNode(outlines, grip));
    return true;
  }

  /** Ends a line that is drawn. @returns whether there was one */
  finish(): boolean {
    const shape = this.hand()?.finish();
    if (shape) this.drawn.emit(shape);
    return !!shape;
  }

  /** Where objects are seen: from and to, in pixels across the stage; null where nothing of them is drawn. */
  across(ids: readonly string[]): { readonly from: number; readonly to: number; readonly width: number } | null {
    const [box, view] = [this.boxOf(ids), this.view()];
    if (!view || !box) return null;
    return { from: view.x + box.minX * view.scale, to: view.x + box.maxX * view.scale, width: this.surface.size().width };
  }

  /** Whether the person has chosen a view by hand. */
  private chosen = false;

  whole(): void {
    const { width, height } = this.surface.size();
    const { width: w, height: h } = this.board();
    this.chosen = false;
    const free = height - this.under();
    const above = this.under() ? 0.5 : ABOVE;
    if (width) this.view.set(fitView(this.frame() ?? { minX: 0, minY: 0, maxX: w, maxY: h }, width, free, 36, above));
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

  private get locked(): ReadonlySet<string> {
    return new Set(
      this.master()
        .layers.filter((layer) => layer.locked)
        .map(({ id }) => id),
    );
  }

  private hitAt(event: MouseEvent): ResolvedEntry | undefined {
    const view = this.view();
    if (!view) return undefined;
    const [x, y] = toBoard(view, event.offsetX, event.offsetY);
    const locked = this.locked;
    return this.resolved().entries.findLast((entry) => !locked.has(entry.layerId) && isHit(entry, x, y, 4 / view.scale));
  }

  /** What is not filled is taken hold of anywhere in its frame once it is selected. */
  private inSelection(event: MouseEvent): boolean {
    const [view, box] = [this.view(), this.chosenBox()];
    if (!view || !box || this.points()) return false;
    const [x, y] = toBoard(view, event.offsetX, event.offsetY);
    return x >= box.minX && x <= box.maxX && y >= box.minY && y <= box.maxY;
  }

  private guideAt(event: MouseEvent): number {
    const view = this.view()!;
    const [x, y] = toBoard(view, event.offsetX, event.offsetY);
    return (this.board().guides ?? []).findIndex(({ axis, at }) => Math.abs(at - (axis === 'x' ? x : y)) * view.scale < 4);
  }

  /** Where the hand is, laid to what is near unless Alt is held. */
  private placeOf(event: PointerEvent): Point {
    const view = this.view()!;
    const at = toBoard(view, event.offsetX, event.offsetY);
    this.lines ??= this.linesNow();
    const { at: laid, lines } = event.altKey ? { at, lines: [] } : this.lines.point(at, NEAR / view.scale);
    this.snapped.set(lines);
    return [Number(laid[0].toFixed(3)), Number(laid[1].toFixed(3))];
  }

  focus(): void {
    this.canvas().nativeElement.focus();
  }

  /** While Space is held a drag moves the view. */
  hold(space: boolean): void {
    this.space = space;
  }

  protected down(event: PointerEvent): void {
    const canvas = this.canvas().nativeElement;
    if (!this.view() || (event.button === 0 && this.handles?.hits(event.offsetX, event.offsetY))) return;
    canvas.focus();
    this.lines = null;
    const hand = this.hand();
    const panning = event.button !== 0 || this.space;
    if (hand && !panning) {
      (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
      hand.press(this.placeOf(event));
      return this.handMoved.update((count) => count + 1);
    }
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    const drag = {
      fromX: event.offsetX,
      fromY: event.offsetY,
      x: event.offsetX,
      y: event.offsetY,
      far: false,
      free: event.altKey,
    };
    if (panning) return this.drag.set({ ...drag, kind: 'pan' });
    const hit = this.hitAt(event);
    const id = hit && pickable(hit);
    let kind: Drag['kind'] = this.readonlyStage() ? 'pan' : 'frame';
    if (hit && id) {
      const inSelection = this.selection().includes(id) || this.selection().includes(hit.source);
      if (event.shiftKey)
        this.picked.emit(inSelection ? this.selection().filter((one) => one !== id) : [...this.selection(), id]);
      else if (!inSelection) this.picked.emit([id]);
      kind = this.readonlyStage() ? 'pan' : 'move';
    } else if (!this.readonlyStage() && this.inSelection(event)) kind = 'move';
    else if (!this.readonlyStage()) {
      const guide = this.guideAt(event);
      if (guide >= 0) return this.drag.set({ ...drag, kind: 'guide', guide });
    }
    this.drag.set({ ...drag, kind });
  }

  protected moved(event: PointerEvent): void {
    const hand = this.hand();
    if (hand && !this.drag()) {
      hand.move(this.placeOf(event));
      return this.handMoved.update((count) => count + 1);
    }
    const drag = this.drag();
    if (!drag) return;
    const far = drag.far || Math.hypot(event.offsetX - drag.fromX, event.offsetY - drag.fromY) > STILL;
    if (far && drag.kind === 'pan') {
      this.chosen = true;
      this.view.update((view) => view && { ...view, x: view.x + event.offsetX - drag.x, y: view.y + event.offsetY - drag.y });
    }
    this.drag.set({ ...drag, x: event.offsetX, y: event.offsetY, far, free: event.altKey });
  }

  protected up(event: PointerEvent): void {
    const hand = this.hand();
    const [drag, view] = [this.drag(), this.view()];
    if (hand && view && !drag) {
      const shape = hand.lift(this.placeOf(event), 2 * (NEAR / view.scale));
      this.snapped.set([]);
      if (shape) this.drawn.emit(shape);
      return this.handMoved.update((count) => count + 1);
    }
    if (!drag || !view) return;
    const shift = this.shift(drag, view);
    this.drag.set(null);
    this.snapped.set([]);
    if (drag.kind === 'move' && drag.far) this.move.emit(shift);
    else if (drag.kind === 'frame' && drag.far) this.picked.emit(this.framed(this.frameOf(drag, view), event.shiftKey));
    else if (drag.kind === 'guide' && drag.far) this.guided.emit({ index: drag.guide!, at: this.guidePlace(drag, view) });
    else if (!drag.far && !event.shiftKey && event.button === 0 && !this.hitAt(event)) this.picked.emit([]);
  }

  private frameOf({ fromX, fromY, x, y }: Drag, view: View): Box {
    const [[ax, ay], [bx, by]] = [toBoard(view, fromX, fromY), toBoard(view, x, y)];
    return { minX: Math.min(ax, bx), minY: Math.min(ay, by), maxX: Math.max(ax, bx), maxY: Math.max(ay, by) };
  }

  /** What lies in a frame, beside what is selected already where that is to stay. */
  private framed(frame: Box, more: boolean): string[] {
    const found = insideFrame(this.resolved(), frame, this.locked);
    return more ? [...new Set([...this.selection(), ...found])] : found;
  }

  /** Where a guide that is dragged comes to lie, mm; null where it is dragged off the stage. */
  private guidePlace({ guide, x, y }: Drag, view: View): number | null {
    const { width, height } = this.surface.size();
    if (x < 0 || y < 0 || x > width || y > height) return null;
    const [bx, by] = toBoard(view, x, y);
    return Math.round((this.board().guides![guide!]!.axis === 'x' ? bx : by) * 10) / 10;
  }

  /** A shift in tenths of a millimetre, finer than a hand can place it; or laid to what is near, exactly. */
  private shift({ kind, fromX, fromY, x, y, free, far }: Drag, { scale }: View): { dx: number; dy: number } {
    const plain = { dx: Math.round(((x - fromX) / scale) * 10) / 10, dy: Math.round(((fromY - y) / scale) * 10) / 10 };
    const box = kind === 'move' && far && !free ? this.chosenBox() : null;
    if (!box) return plain;
    this.lines ??= this.linesNow();
    const { minX, minY, maxX, maxY } = box;
    const { dx, dy, lines } = this.lines.box(
      { minX: minX + plain.dx, minY: minY + plain.dy, maxX: maxX + plain.dx, maxY: maxY + plain.dy },
      NEAR / scale,
    );
    this.nowSnapped = lines;
    return { dx: Number((plain.dx + dx).toFixed(6)), dy: Number((plain.dy + dy).toFixed(6)) };
  }
  private nowSnapped: readonly SnapLine[] = [];

  protected cancel(): void {
    this.drag.set(null);
    this.snapped.set([]);
  }

  /** A double click goes through groups to the object itself; on a line whose points are held it adds one. */
  protected inside(event: MouseEvent): void {
    const [outlines, view] = [this.points(), this.view()];
    if (this.drawing() || !view) return;
    if (outlines) {
      const place = nearestPlace(outlines, toBoard(view, event.offsetX, event.offsetY));
      if (place && place.distance * view.scale < 8) this.reshaped.emit(addNode(outlines, place));
      return;
    }
    const hit = this.hitAt(event);
    if (hit) this.picked.emit([hit.source]);
  }

  private draw(context: CanvasRenderingContext2D, ratio: number): void {
    const view = this.view();
    if (!view) return;
    const size = this.surface.size();
    const { board, entries } = this.resolved();
    const many = entries.length > MANY;
    const drag = this.drag();
    const moving = drag?.kind === 'move' && drag.far;
    const still = !moving && !this.pull();
    if (still) this.lifted.drop();
    if (many && still && this.snapshot.show(context, view, ratio)) return this.paintOver(context, view, ratio, 0, 0);
    const ground = (own: CanvasRenderingContext2D) => {
      paintGrid(own, view, ratio, size.width, size.height);
      boardAxes(own, view, ratio);
      if (!this.frame()) paintSheet(own, board, board.background, view, themeColour('--hairline'));
    };
    const chosen = new Set(this.selection());
    this.nowSnapped = [];
    const { dx, dy } = moving ? this.shift(drag, view) : { dx: 0, dy: 0 };
    const map = this.pull() ?? (dx || dy ? translation(dx, dy) : identity);
    const highlighted = this.highlighted();
    const cells = cellsOf(this.resolved());
    const moves = (at: number) => {
      const { source, within } = entries[at]!;
      return chosen.has(source) || within.some(({ id }) => chosen.has(id));
    };
    const paint = (own: CanvasRenderingContext2D, at: number, by: Matrix | null) => {
      const entry = entries[at]!;
      const isMoved = by !== null && moves(at);
      if (isMoved) own.transform(...by);
      if (highlighted && !highlighted.has(entry.source))
        paintEntry(own, entry, view, { stroke: '#c3ccd4', fill: entry.style.fill ? '#e4e9ea' : null, width: 1 });
      else paintEntry(own, entry, view, undefined, cells);
      if (isMoved) boardAxes(own, view, ratio);
    };
    const scene = (by: Matrix | null) => ({
      count: entries.length,
      spans: spansOf(this.resolved()),
      paint: (own: CanvasRenderingContext2D, at: number) => paint(own, at, by),
      cell: cells,
    });
    if (many && !still) {
      const now = { contents: this.resolved(), selection: this.selection(), highlighted, view };
      this.lifted.paint(context, now, scene, moves, map, ground, (own) => boardAxes(own, view, ratio));
    } else {
      ground(context);
      boardAxes(context, view, ratio);
      paintScene(context, scene(still ? null : map));
      if (many) this.snapshot.keep(context, view);
    }
    this.paintOver(context, view, ratio, dx, dy);
  }

  /** What is drawn over the board: guides, what something is laid to, frames, and what is drawn by hand. */
  private paintOver(context: CanvasRenderingContext2D, view: View, ratio: number, dx: number, dy: number): void {
    const chosen = this.chosenBox();
    // Where there are handles they say what is chosen.
    const handled = this.handles?.ready && !this.readonlyStage() && this.highlighted() === null && !this.drag()?.far;
    if (chosen && !handled && !this.pull() && !this.points()) paintBrackets(context, chosen, view, ratio, dx, dy);
    const size = this.surface.size();
    const drag = this.drag();
    if (!this.readonlyStage()) {
      const { board } = this.resolved();
      const guides = board.guides?.map((guide, i) =>
        drag?.kind === 'guide' && drag.far && drag.guide === i ? { ...guide, at: this.guidePlace(drag, view) ?? -1e9 } : guide,
      );
      paintLayout(context, { ...board, ...(guides ? { guides } : {}) }, view, ratio, size);
    }
    paintSnapped(context, this.nowSnapped.length ? this.nowSnapped : this.snapped(), view, ratio, size);
    if (drag?.kind === 'frame' && drag.far) paintFrame(context, this.frameOf(drag, view), view, ratio);
    const shown = this.hand()?.shown;
    if (shown?.box) paintFrame(context, shown.box, view, ratio);
    const outlines = shown?.outline ? [shown.outline] : this.bent();
    if (outlines) {
      boardAxes(context, view, ratio);
      context.strokeStyle = themeColour('--action');
      context.lineWidth = 1.5 / view.scale;
      context.stroke(pathOfOutlines(outlines));
    }
    if (this.points()) {
      boardAxes(context, view, ratio);
      paintHandleLines(context, this.bent() ?? this.points()!, view);
    }
  }

  ngOnDestroy(): void {
    this.snapshot.stop();
    this.surface.detach();
    this.handles?.stop();
  }
}
