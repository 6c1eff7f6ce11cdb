import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  computed,
  effect,
  inject,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import {
  type Command,
  type Matrix,
  type Patch,
  type PlacedItem,
  type Point,
  chainOf,
  drawnBoard as boardOfMaster,
  drawnMaster,
  mapItems,
  moveItems,
  newId,
  nodeInWords,
  placedIn,
  removeItems,
} from '@inkwell-twin/core/web';
import type { BoardPlace } from '../../content/board-place';
import { type HeadAct, PartRoom } from '../../content/part-room';
import { Note } from '../../shared/note';
import { shortcuts } from '../../shared/shortcuts';
import { counted } from '../../shared/words';
import { ImpactNote } from '../keep/impact-note';
import { widthOnStage } from '../stage/paint';
import { Stage } from '../stage/stage';
import { BoardClipboard } from './board-clipboard';
import { BoardRoom } from './board-room';
import { carriedBy } from './carried-by';
import { Contents } from './contents';
import { FootBar } from './foot-bar';
import { HandTool } from './hand-tool';
import { HeldPoints } from './held-points';
import { ParametersPane } from './parameters-pane';
import { PictureString } from './picture-string';
import { ShownParts } from './shown-parts';
import { Slip } from './slip/slip';

/** How wide the face is from which on the slip lies in columns, pixels; what it takes then, and as a share of a face that is narrower. */
const [TRAY, WIDE_FOOT, NARROW_FOOT] = [600, 240, 0.5];
/** The share of the stage that is taken for the foot at most: the board stays large enough to be seen. */
const MOST_FOOT = 0.58;
/** Pixels between what stands above each other at the foot. */
const GAP = 10;

/** A board of a master: what is on it, the slip of what is selected, and what may be drawn. */
@Component({
  selector: 'twin-board-face',
  imports: [Contents, FootBar, ImpactNote, Note, ParametersPane, PictureString, Slip, Stage],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './board-face.html',
  styleUrl: './board-face.css',
  providers: [BoardRoom, BoardClipboard, HandTool, HeldPoints],
  host: {
    '(drop)': 'dropped($event)',
    '(document:paste)': 'clipboard.pasted($event)',
    '(document:copy)': 'clipboard.copied($event, false)',
    '(document:cut)': 'clipboard.copied($event, true)',
    '(keyup.space)': 'pan(false)',
  },
})
export class BoardFace {
  protected readonly room = inject(PartRoom);
  protected readonly at = inject(BoardRoom);
  protected readonly hand = inject(HandTool);
  protected readonly points = inject(HeldPoints);
  protected readonly clipboard = inject(BoardClipboard);
  protected readonly showing = inject(ShownParts);
  private readonly stage = viewChild(Stage);
  private readonly floor = viewChild<ElementRef<HTMLElement>>('floor');
  private readonly file = viewChild.required<ElementRef<HTMLInputElement>>('file');

  protected readonly master = this.room.master;
  protected readonly board = this.at.board;
  protected readonly selection = this.at.selection;
  protected readonly fixed = this.room.fixed;
  protected readonly highlighted = this.room.highlighted;
  /** What lies open beside the stage. */
  protected readonly side = signal<'contents' | 'parameters' | null>(null);
  /** Pixels of the screen to a millimetre, and where the pointer is on the board. */
  protected readonly scale = signal(1);
  protected readonly pointer = signal<Point | null>(null);
  /** Whether a bead of the pictures’ string lies open: its slip stands where that of the picture would. */
  protected readonly beadOpen = signal(false);
  protected readonly counted = counted;

  protected readonly usedBy = computed(() => {
    const [master, board, items] = [this.master(), this.board(), this.at.items()];
    return master && board && items.length ? carriedBy(master, board, items, this.room.copies()) : [];
  });
  /** How many things can't be computed. */
  private readonly wrongCount = computed(() => {
    const master = this.master();
    return master ? drawnMaster(master, widthOnStage).problems.length : 0;
  });
  private readonly acts = computed((): HeadAct[] => {
    const count = this.wrongCount();
    const flip = (label: string, side: 'contents' | 'parameters'): HeadAct => ({
      label,
      pressed: this.side() === side,
      press: () => this.side.update((now) => (now === side ? null : side)),
    });
    return [
      flip('Contents', 'contents'),
      { ...flip('Parameters', 'parameters'), count, countTitle: `${counted(count, 'thing')} can’t be computed` },
      ...(this.fixed()
        ? []
        : [
            {
              label: 'Add pictures',
              title: 'Also by dropping or pasting pictures',
              press: () => this.file().nativeElement.click(),
            },
          ]),
    ];
  });
  private readonly head = computed(() => {
    const [master, board] = [this.master(), this.board()];
    // As it comes to be: a parameter may say how wide it is.
    const drawn = master && board && boardOfMaster(master, board, widthOnStage).board;
    const words = drawn ? `${Number(drawn.width.toFixed(1))} × ${Number(drawn.height.toFixed(1))} mm` : '';
    return { acts: this.acts(), words, key: this.key };
  });

  /** The board as it is drawn: texts, tables, charts and solids on it as they are now. */
  protected readonly drawnBoard = computed(() => {
    const board = this.at.stagedBoard() ?? this.board();
    return board && this.showing.put()(board);
  });
  /** What of a board can't be drawn, in words. */
  protected readonly undrawn = computed(() => {
    const [board, wrong] = [this.board(), this.showing.wrong()];
    return placedIn(board?.items ?? []).flatMap((item) => (wrong[item.id] ? [`${nodeInWords(item)}: ${wrong[item.id]}`] : []));
  });
  /** The last frame of a text that ends on this board before the text does, and how many more it would fill. */
  protected readonly goesOn = computed(() => {
    const [master, board, more] = [this.master(), this.board(), this.showing.more()];
    if (!master || !board) return null;
    for (const [text, count] of Object.entries(more)) {
      const last = count ? chainOf(master, text).at(-1) : undefined;
      if (last && placedIn(board.items).some(({ id }) => id === last.id)) return { frame: last, count };
    }
    return null;
  });
  /** Adds boards like this one, each with a frame like the last. */
  protected addFrames({ frame, count }: { frame: PlacedItem; count: number }): void {
    const [master, board] = [this.master(), this.board()];
    if (!master || !board) return;
    let after = board.id;
    const patches = Array.from({ length: count }, (_, i): Patch => {
      const id = newId();
      const node = { ...board, id, name: `${board.name} ${i + 2}`.slice(0, 200), items: [{ ...frame, id: newId() }] };
      const patch: Patch = { op: 'insert', parent: master.id, list: 'boards', after, node };
      after = id;
      return patch;
    });
    this.run({ label: `${counted(count, 'board')} added for the rest of the text`, patches });
  }

  private readonly size = signal({ width: 0, height: 0 });
  /** Whether the slip has room for several columns below the board. */
  protected readonly wide = computed(() => this.size().width >= TRAY);
  private readonly slip = viewChild<unknown, ElementRef<HTMLElement>>(Slip, { read: ElementRef });
  private readonly string = viewChild<unknown, ElementRef<HTMLElement>>(PictureString, { read: ElementRef });
  /** What the string of a picture and the slip above it take at the foot of the stage, pixels. */
  protected readonly taken = signal(0);
  /** What the slip may take at the foot of the stage, pixels: the board is laid above that. */
  protected readonly foot = computed(() => (this.wide() ? WIDE_FOOT : Math.round(NARROW_FOOT * this.size().height)));

  constructor() {
    const resized = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      this.size.set({ width, height });
    });
    effect(() => {
      const floor = this.floor()?.nativeElement;
      resized.disconnect();
      if (floor) resized.observe(floor);
    });
    const stands = new ResizeObserver(() => {
      const heights = [this.slip(), this.string()].map((one) => one?.nativeElement.offsetHeight ?? 0);
      const all = heights.reduce((sum, height) => sum + (height && height + GAP), 0);
      this.taken.set(Math.min(all, Math.round(MOST_FOOT * this.size().height)));
    });
    effect(() => {
      stands.disconnect();
      for (const one of [this.slip(), this.string()]) if (one) stands.observe(one.nativeElement);
    });
    this.room.head.set(this.head);
    this.room.chosenObjects = () => ({ part: this.board()?.id ?? '', objects: this.selection() });
    this.at.stage = this.stage;
    inject(DestroyRef).onDestroy(() => {
      resized.disconnect();
      stands.disconnect();
      this.room.head.set(null);
    });
    effect(() => this.showing.show(this.master()));
    const part = this.room.part('boards');
    const id = computed(() => part()?.id);
    effect(() => {
      id();
      untracked(() => this.lookInto(''));
      untracked(() => this.hand.arm(null));
    });
    effect(() => {
      const aim = this.room.wanted();
      if (aim?.of === 'board') untracked(() => this.goTo(aim as BoardPlace));
    });
  }

  private goTo({ box, items }: BoardPlace): void {
    if (items.length) this.selection.set(items);
    // The board that one was sent to is laid out first.
    if (box) setTimeout(() => this.stage()?.show(box));
  }

  protected dropped(event: DragEvent): void {
    event.preventDefault();
    void this.clipboard.bring([...(event.dataTransfer?.files ?? [])]);
  }
  protected added(event: Event): void {
    const input = event.target as HTMLInputElement;
    void this.clipboard.bring([...(input.files ?? [])]).then(() => (input.value = ''));
  }

  protected run(command: Command): void {
    this.at.run(command);
  }
  protected arm(id: string | null): void {
    if (id) this.points.of.set(null);
    this.hand.arm(id);
  }
  protected lookInto(symbol: string): void {
    this.at.lookInto(symbol);
    this.points.of.set(null);
  }
  protected map({ matrix, turned }: { matrix: Matrix; turned: boolean }): void {
    const master = this.master();
    if (master) this.run(mapItems(master, this.selection(), matrix, turned ? 'turned' : 'size changed'));
  }
  protected moveGuide({ index, at }: { index: number; at: number | null }): void {
    const board = this.board();
    if (!board) return;
    const guides = (board.guides ?? []).flatMap((guide, i) => (i !== index ? [guide] : at === null ? [] : [{ ...guide, at }]));
    const label = `${board.name}: a guide ${at === null ? 'taken away' : 'moved'}`;
    this.run({ label, patches: [{ op: 'set', node: board.id, attribute: 'guides', value: guides.length ? guides : undefined }] });
  }
  protected move({ dx, dy }: { dx: number; dy: number }): void {
    const master = this.master();
    if (master && this.selection().length && (dx || dy)) this.run(moveItems(master, this.selection(), dx, dy));
  }
  protected zoom(factor: number): void {
    this.stage()?.zoom(factor);
  }
  protected whole(): void {
    this.stage()?.whole();
  }
  protected pan(on: boolean): void {
    this.stage()?.hold(on);
  }
  protected takePoint(): void {
    this.stage()?.removePoint();
  }
  private remove(): void {
    if (this.stage()?.removePoint()) return;
    const master = this.master();
    if (master && this.selection().length) this.run(removeItems(master, this.selection()));
  }

  private readonly key = shortcuts({
    Escape: () => {
      if (this.hand.tool()) return this.arm(null);
      if (this.points.of()) return this.points.of.set(null);
      this.selection.set([]);
    },
    Delete: () => this.remove(),
    Backspace: () => this.remove(),
  });
  /** On the board: by a millimetre, with Shift by ten. */
  protected readonly boardKey = shortcuts({
    Enter: () => this.hand.finish(),
    Space: () => this.pan(true),
    ArrowLeft: () => this.move({ dx: -1, dy: 0 }),
    ArrowRight: () => this.move({ dx: 1, dy: 0 }),
    ArrowUp: () => this.move({ dx: 0, dy: 1 }),
    ArrowDown: () => this.move({ dx: 0, dy: -1 }),
    'Shift+ArrowLeft': () => this.move({ dx: -10, dy: 0 }),
    'Shift+ArrowRight': () => this.move({ dx: 10, dy: 0 }),
    'Shift+ArrowUp': () => this.move({ dx: 0, dy: 10 }),
    'Shift+ArrowDown': () => this.move({ dx: 0, dy: -10 }),
  });
}
