// Longer than most: one surface; viewport, painter and each gesture have files of their own.
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
  type DrawnShape,
  type Grip,
  type Master,
  type Matrix,
  type Outline,
  type Point,
  type ResolvedEntry,
  type Way,
  joinBoxes,
  resolveBoard,
} from '@inkwell-twin/core/web';
import { Bending } from './bending';
import { CanvasSurface } from './canvas-surface';
import { DrawingHand } from './drawing-hand';
import { begun, hitAt } from './gestures/begin';
import type { Gesture, GestureRoom, Press } from './gestures/gesture';
import { pan } from './gestures/pan';
import { Handles } from './handles';
import { linesOnBoard } from './on-board';
import { boxOf, fontsReady, widthOnStage } from './paint';
import { Painter, type Scenery } from './painter';
import { noteWidths, picturesCome } from './pictures';
import { Snapping } from './snapping';
import { Viewport } from './viewport';

/** Pixels that the pointer may wander before a click becomes a move. */
const STILL = 3;

/** How near, in pixels, a shape comes to its beginning before it is closed. */
const CLOSE_TO = 12;

/** A press that is not let go yet, and what it does. */
interface Held extends Press {
  readonly gesture: Gesture;
  /** Whether it has gone farther than a click. */
  readonly far: boolean;
}

/** The board on its stage: pan, zoom, select, move, pull, draw, and the points of a shape. */
@Component({
  selector: 'twin-stage',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './stage.html',
  styleUrl: './stage.css',
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
  /** Where the pointer is, mm; null where it left. */
  readonly pointed = output<Point | null>();
  /** Pixels to a millimetre. */
  readonly scaled = output<number>();

  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly over = viewChild.required<ElementRef<HTMLDivElement>>('handles');
  private readonly surface = new CanvasSurface((context, ratio) => this.draw(context, ratio));
  private readonly painter = new Painter(() => this.surface.request());
  protected readonly viewport = new Viewport(() => this.surface.size());
  private readonly snapping = new Snapping(this.viewport, () => linesOnBoard(this.resolved(), new Set(this.selection())));
  private readonly bending = new Bending(this.points, this.viewport, this.snapping, (outlines) => this.reshaped.emit(outlines));
  private readonly held = signal<Held | null>(null);
  /** What a pull of the handles would do to the selection, in board millimetres. */
  private readonly pull = signal<Matrix | null>(null);
  private readonly hand = computed(() => {
    const way = this.drawing();
    return way && new DrawingHand(way);
  });
  /** Counts changes of the hand, which is no signal. */
  private readonly handMoved = signal(0);
  private handles: Handles | undefined;
  private readonly handlesCame = signal(false);
  private space = false;
  protected readonly cursor = computed(() => {
    const held = this.held();
    return this.drawing() ? 'crosshair' : held?.far ? held.gesture.cursor : 'default';
  });
  /** Counts fonts that came: where lines break and parts stand depends on them. */
  private readonly fontsCame = signal(0);
  readonly resolved = computed(() => {
    this.fontsCame();
    return resolveBoard(this.master(), this.board(), null, widthOnStage);
  });
  /** The box of what is selected, as it lies now. */
  private readonly chosenBox = computed(() => this.boxOf(this.selection()));
  private readonly locked = computed(() => new Set(this.master().layers.flatMap(({ locked, id }) => (locked ? [id] : []))));
  private shownBoard = '';
  private readonly room: GestureRoom = {
    viewport: this.viewport,
    snapping: this.snapping,
    size: () => this.surface.size(),
    board: this.board,
    resolved: this.resolved,
    locked: this.locked,
    selection: this.selection,
    chosenBox: this.chosenBox,
    isFixed: this.readonlyStage,
    isHeld: () => this.points() !== null,
    picked: (ids) => this.picked.emit(ids),
    moved: (by) => this.move.emit(by),
    guided: (to) => this.guided.emit(to),
  };

  constructor() {
    afterNextRender(() => {
      this.surface.attach(this.canvas());
      this.handles = new Handles(this.over().nativeElement, {
        pulled: (matrix) => this.pull.set(this.viewport.onBoard(matrix)),
        let: (matrix, turned) => {
          this.pull.set(null);
          this.snapping.end();
          this.map.emit({ matrix: this.viewport.onBoard(matrix), turned });
          this.showHandles();
        },
        snap: (x, y) => this.snapping.pixel(x, y),
        held: (at, x, y) => this.bending.pull(at, x, y),
        put: () => this.bending.put(),
        pressed: (at) => {
          this.focus();
          this.bending.press(at);
        },
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
      if (!width) return;
      this.handles?.resize(width, height);
      // Another board, or the first look: show it whole. A resize keeps what one looked at, unless nothing was chosen yet.
      if (this.shownBoard !== id || !untracked(this.viewport.view) || !this.viewport.isChosen) this.whole();
      this.shownBoard = id;
    });
    effect(() => noteWidths(this.master().resources));
    effect(() => {
      this.resolved();
      this.highlighted();
      this.frame();
      picturesCome();
      this.painter.drop();
    });
    effect(() => {
      this.scenery();
      picturesCome();
      this.surface.request();
    });
    effect(() => {
      this.points();
      this.bending.begin();
    });
    effect(() => this.gripped.emit(this.bending.grip()));
    effect(() => {
      const view = this.viewport.view();
      if (view) this.scaled.emit(view.scale);
    });
    // What is only looked at is shown whole, whatever size it comes in: variants are of several.
    effect(() => {
      const { width, height } = this.resolved().board;
      if (this.readonlyStage() && width && height) untracked(() => this.viewport.view() && this.whole());
    });
    // While the hand moves something, the board stays where it is.
    effect(() => {
      this.chosenBox();
      this.under();
      if (!this.held() && !this.pull()) untracked(() => this.reveal());
    });
    effect(() => {
      this.chosenBox();
      this.viewport.view();
      this.readonlyStage();
      this.bending.grips();
      this.bending.chosen();
      this.highlighted();
      this.surface.size();
      const still = !this.held()?.far;
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
    const [view, box, handles] = [this.viewport.view(), this.chosenBox(), this.handles];
    if (!view || !handles) return;
    const points = this.points() !== null;
    const wanted = still && !this.readonlyStage() && this.highlighted() === null && !this.drawing() && (box !== null || points);
    if (!handles.ready) {
      if (wanted)
        handles.load().then(
          () => {
            const { width, height } = this.surface.size();
            handles.resize(width, height);
            this.handlesCame.set(true);
            this.showHandles();
          },
          // Where they don't come, the next choice asks for them again.
          () => undefined,
        );
      return;
    }
    handles.show(wanted && box && !points ? this.viewport.frameOf(box) : null);
    handles.points(wanted && points ? this.bending.holds() : []);
  }

  /** Takes the chosen point out. @returns whether there was one */
  removePoint(): boolean {
    return this.bending.remove();
  }

  /** Ends a line that is drawn. @returns whether there was one */
  finish(): boolean {
    const shape = this.hand()?.finish();
    if (shape) this.drawn.emit(shape);
    return !!shape;
  }

  /** Where objects are seen: from and to, in pixels across the stage; null where nothing of them is drawn. */
  across(ids: readonly string[]): { readonly from: number; readonly to: number; readonly width: number } | null {
    const box = this.boxOf(ids);
    if (!this.viewport.view() || !box) return null;
    const { x, width } = this.viewport.frameOf(box);
    return { from: x, to: x + width, width: this.surface.size().width };
  }

  whole(): void {
    const { width, height } = this.resolved().board;
    const under = this.under();
    this.viewport.fit(this.frame() ?? { minX: 0, minY: 0, maxX: width, maxY: height }, under);
  }

  /** Closer by a factor, about the middle. */
  zoom(factor: number): void {
    this.viewport.zoom(factor);
  }

  /** Moves the view so far up that what is selected is not under what stands at the foot. */
  private reveal(): void {
    const [box, under] = [this.chosenBox(), this.under()];
    if (box && under && this.viewport.view()) this.viewport.reveal(box, under);
  }

  /** Goes to a place on the board. */
  show(box: Box): void {
    this.viewport.show(box);
  }

  protected wheel(event: WheelEvent): void {
    event.preventDefault();
    this.viewport.zoom(Math.exp(-event.deltaY * 0.0015), { x: event.offsetX, y: event.offsetY });
  }

  /** Where the hand is, laid to what is near unless Alt is held. */
  private placeOf(event: PointerEvent): Point {
    return this.snapping.point(this.viewport.toBoard(event.offsetX, event.offsetY), event.altKey);
  }

  focus(): void {
    this.canvas().nativeElement.focus();
  }

  /** While Space is held a drag moves the view. */
  hold(space: boolean): void {
    this.space = space;
  }

  protected down(event: PointerEvent): void {
    if (!this.viewport.view() || (event.button === 0 && this.handles?.hits(event.offsetX, event.offsetY))) return;
    this.focus();
    this.snapping.begin();
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    const hand = this.hand();
    const panning = event.button !== 0 || this.space;
    if (hand && !panning) {
      hand.press(this.placeOf(event));
      return this.handMoved.update((count) => count + 1);
    }
    const { offsetX: x, offsetY: y, altKey: free, shiftKey: more } = event;
    const gesture = panning ? pan(this.room) : begun(this.room, x, y, more);
    this.held.set({ fromX: x, fromY: y, x, y, free, more, far: false, gesture });
  }

  protected moved(event: PointerEvent): void {
    if (this.viewport.view()) this.pointed.emit(this.viewport.toBoard(event.offsetX, event.offsetY));
    const [hand, held] = [this.hand(), this.held()];
    if (hand && !held) {
      hand.move(this.placeOf(event));
      return this.handMoved.update((count) => count + 1);
    }
    if (!held) return;
    const now = this.pressAt(held, event);
    if (now.far) now.gesture.moved?.(now, held);
    this.held.set(now);
  }

  /** A press as it is at an event. */
  private pressAt(held: Held, { offsetX: x, offsetY: y, altKey: free, shiftKey: more }: PointerEvent): Held {
    return { ...held, x, y, free, more, far: held.far || Math.hypot(x - held.fromX, y - held.fromY) > STILL };
  }

  protected up(event: PointerEvent): void {
    const [hand, held] = [this.hand(), this.held()];
    if (!this.viewport.view()) return;
    if (hand && !held) {
      const shape = hand.lift(this.placeOf(event), this.viewport.mm(CLOSE_TO));
      this.snapping.end();
      if (shape) this.drawn.emit(shape);
      return this.handMoved.update((count) => count + 1);
    }
    if (!held) return;
    this.held.set(null);
    if (held.far) held.gesture.ended?.({ ...held, more: event.shiftKey });
    else if (!event.shiftKey && event.button === 0 && !hitAt(this.room, event.offsetX, event.offsetY)) this.picked.emit([]);
    this.snapping.end();
  }

  protected cancel(): void {
    this.held.set(null);
    this.snapping.end();
  }

  /** A double click goes through groups to the object itself; on a line whose points are held it adds one. */
  protected inside(event: MouseEvent): void {
    if (this.drawing() || !this.viewport.view()) return;
    if (this.points()) return this.bending.add(event.offsetX, event.offsetY);
    const hit = hitAt(this.room, event.offsetX, event.offsetY);
    if (hit) this.picked.emit([hit.source]);
  }

  /** All that is to be painted now; null until the stage has a size. */
  private readonly scenery = computed((): Scenery | null => {
    this.handMoved();
    const [view, held, shown, bent] = [this.viewport.view(), this.held(), this.hand()?.shown, this.bending.bent()];
    if (!view) return null;
    const isEditable = !this.readonlyStage();
    const [pull, points] = [this.pull(), this.points()];
    // Where there are handles they say what is chosen.
    const handled = this.handlesCame() && isEditable && this.highlighted() === null && !held?.far;
    return {
      view,
      size: this.surface.size(),
      resolved: this.resolved(),
      isSheet: !this.frame(),
      selection: this.selection(),
      highlighted: this.highlighted(),
      isEditable,
      look: held?.far ? (held.gesture.look?.(held) ?? {}) : null,
      pull,
      bracketed: handled || pull || points ? null : this.chosenBox(),
      snapped: this.snapping.lines(),
      drawn: { box: shown?.box ?? null, outlines: shown?.outline ? [shown.outline] : bent },
      held: points && (bent ?? points),
    };
  });

  private draw(context: CanvasRenderingContext2D, ratio: number): void {
    const scenery = this.scenery();
    if (scenery) this.painter.paint(context, ratio, scenery);
  }

  ngOnDestroy(): void {
    this.painter.stop();
    this.surface.detach();
    this.handles?.stop();
  }
}
