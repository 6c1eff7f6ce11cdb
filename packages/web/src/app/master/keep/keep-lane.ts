import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { NgTemplateOutlet } from '@angular/common';
import { Button } from 'primeng/button';
import { Tab, TabList, TabPanel, Tabs } from 'primeng/tabs';
import type { CopyView } from '@inkwell-twin/api';
import {
  type Box,
  type Command,
  type Correction,
  type Item,
  type Master,
  PART_LISTS,
  type PartList,
  type Patch,
  type PictureItem,
  type PlacedItem,
  allItems,
  chainOf,
  itemKind,
  newId,
  nodeInWords,
  placedIn,
  applyPatches,
  moveItems,
  removeItems,
  setAttributes,
} from '@inkwell-twin/core/web';
import { DraftSession } from '../../services/draft-session';
import { Impact } from '../../services/impact.service';
import { VerdictMark } from '../../shared/verdict-mark';
import { counted, timeInWords } from '../../shared/words';
import { TableFace } from '../../content/grid/table-face';
import { SolidFace } from '../../content/mesh/solid-face';
import { ProseFace } from '../../content/prose/prose-face';
import { Stage } from '../stage/stage';
import { shortcuts } from '../../shared/shortcuts';
import { Contents } from './contents';
import { PicturesIn } from './pictures-in';
import { PictureString } from './picture-string';
import { ShownParts } from './shown-parts';
import { Slip } from './slip';
import { carriedBy } from './carried-by';

/** What a master is opened at, by its purpose. */
const FIRST: Readonly<Record<string, PartList>> = { series: 'tables', part: 'solids', text: 'texts' };

/** How far the slip reaches into the stage, and how much of its object it may hide before it moves, pixels. */
const [SLIP, NUISANCE] = [292, 40];

/** The master itself: its boards, what is on them, and the slip of what is selected. */
@Component({
  selector: 'twin-keep-lane',
  imports: [
    Button,
    Contents,
    NgTemplateOutlet,
    PictureString,
    ProseFace,
    Slip,
    SolidFace,
    Stage,
    Tab,
    TabList,
    TabPanel,
    TableFace,
    Tabs,
    VerdictMark,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './keep-lane.html',
  styleUrl: './keep-lane.css',
  providers: [PicturesIn, ShownParts],
  host: {
    '(keydown)': 'key($event)',
    '(dragover)': 'over($event)',
    '(drop)': 'dropped($event)',
    '(document:paste)': 'pasted($event)',
  },
})
export class KeepLane {
  protected readonly session = inject(DraftSession);
  private readonly impact = inject(Impact);
  private readonly picturesIn = inject(PicturesIn);
  protected readonly showing = inject(ShownParts);
  readonly copies = input.required<readonly CopyView[]>();
  /** What a derivation takes, while one is prepared. */
  readonly lit = input<ReadonlySet<string> | null>(null);
  readonly boardName = input<string | null>(null);
  /** An earlier revision to look at instead of the draft; nothing of it can be changed. */
  readonly past = input<Master | null>(null);
  readonly chosen = output<string>();

  private readonly stage = viewChild(Stage);
  /** The part that one looks at. */
  protected readonly boardId = signal('');
  protected readonly selection = signal<readonly string[]>([]);
  protected readonly contents = signal(false);
  protected readonly counted = counted;
  protected readonly time = timeInWords;

  protected readonly shown = computed(() => this.past() ?? this.session.document());
  /** Whether nothing may be changed now: a draft waits for a decision, or it is the past that one sees. */
  protected readonly fixed = computed(
    () => this.session.offered() !== null || this.session.meeting() !== null || this.past() !== null,
  );
  /** The parts of the master in the row at the top: what it is for first, then boards, tables, solids, texts. */
  protected readonly parts = computed(() => {
    const master = this.shown();
    const first = FIRST[master?.purpose ?? ''] ?? 'boards';
    const lists = [first, ...PART_LISTS.filter((list) => list !== first)];
    return lists.flatMap((list) => (master?.[list] ?? []).map(({ id, name }) => ({ id, name })));
  });
  private readonly wanted = computed(() => {
    const parts = this.parts();
    return (parts.find(({ id, name }) => (this.boardName() ? name === this.boardName() : id === this.boardId())) ?? parts[0])?.id;
  });
  protected readonly board = computed(() => this.shown()?.boards.find(({ id }) => id === this.wanted()));
  protected readonly table = computed(() => this.shown()?.tables?.find(({ id }) => id === this.wanted()));
  protected readonly solid = computed(() => this.shown()?.solids?.find(({ id }) => id === this.wanted()));
  protected readonly prose = computed(() => this.shown()?.texts?.find(({ id }) => id === this.wanted()));
  protected readonly proseBefore = computed(() => this.session.head()?.texts?.find(({ id }) => id === this.wanted()));
  protected readonly outdatedTexts = computed(() => this.outdated().map(({ label }) => label));
  protected readonly items = computed((): Item[] => {
    const ids = new Set(this.selection());
    return ids.size ? [...allItems(this.board()?.items ?? [])].filter(({ id }) => ids.has(id)) : [];
  });
  protected readonly usedBy = computed(() => {
    const master = this.shown();
    const board = this.board();
    return master && board && this.items().length ? carriedBy(master, board, this.items(), this.copies()) : [];
  });
  /** Copies that hold now and would not after an update; those that do not hold anyway are no news. */
  protected readonly outdated = computed(() =>
    this.copies().filter(
      ({ id, verdict }) => this.impact.outdated().has(id) && (verdict === 'in step' || verdict === 'accepted'),
    ),
  );
  protected readonly untouched = computed(
    () => this.copies().filter(({ id, verdict }) => verdict === 'in step' && !this.impact.outdated().has(id)).length,
  );
  protected readonly size = computed(() => {
    const board = this.board();
    return board ? `${Number(board.width.toFixed(1))} × ${Number(board.height.toFixed(1))} mm` : '';
  });

  /** The selected pictures: their corrections stand on a string. */
  protected readonly pictures = computed(() => {
    const items = this.items();
    return items.every((item) => itemKind(item).paint !== undefined) ? (items as PictureItem[]) : [];
  });
  /** Whether a bead of their string lies open: its slip stands where that of the picture would. */
  protected readonly beadOpen = signal(false);
  /** Corrections that are only being tried. */
  protected readonly trial = signal<readonly Correction[] | null>(null);
  /** The document with what is being tried; null where nothing is. */
  protected readonly staged = computed(() => {
    const [master, trial] = [this.shown(), this.trial()];
    const ids = this.pictures().map(({ id }) => id);
    return master && trial && ids.length
      ? applyPatches(master, setAttributes(ids, 'corrections', [...trial], '').patches).master
      : null;
  });
  protected readonly stagedBoard = computed(() => this.staged()?.boards.find(({ id }) => id === this.board()?.id));
  /** The board as it is drawn: texts, tables, charts and solids on it as they are now. */
  protected readonly drawnBoard = computed(() => {
    const board = this.stagedBoard() ?? this.board();
    return board && this.showing.put()(board);
  });
  /** What of a board can't be drawn, in words. */
  protected readonly undrawn = computed(() => {
    const board = this.board();
    const wrong = this.showing.wrong();
    return board
      ? placedIn(board.items).flatMap((item) => (wrong[item.id] ? [`${nodeInWords(item)}: ${wrong[item.id]}`] : []))
      : [];
  });
  /** The last frame of a text that ends on this board before the text does, and how many more it would fill. */
  protected readonly goesOn = computed(() => {
    const [master, board, more] = [this.shown(), this.board(), this.showing.more()];
    if (!master || !board) return null;
    for (const [text, count] of Object.entries(more)) {
      const last = count ? chainOf(master, text).at(-1) : undefined;
      if (last && placedIn(board.items).some(({ id }) => id === last.id)) return { frame: last, count };
    }
    return null;
  });
  /** Adds boards like this one, each with a frame like the last. */
  protected addFrames({ frame, count }: { frame: PlacedItem; count: number }): void {
    const [master, board] = [this.shown(), this.board()];
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

  /** Whether the slip stands at the right: where it hides less of what it is about. It moves only for a good reason. */
  protected readonly atRight = signal(false);
  private settled: readonly string[] = [];

  constructor() {
    effect(() => this.showing.show(this.shown()));
    effect(() => {
      const ids = this.selection();
      const seen = ids.length ? this.stage()?.across(ids) : null;
      if (!seen) return;
      const hidden = (from: number, to: number) => Math.max(0, Math.min(seen.to, to) - Math.max(seen.from, from));
      const [left, right] = [hidden(0, SLIP), hidden(seen.width - SLIP, seen.width)];
      const now = untracked(this.atRight);
      const [here, there] = now ? [right, left] : [left, right];
      // Something else is selected: the better side. The same seen otherwise: the other side, where that is much better.
      if (ids !== this.settled ? there < here : here > NUISANCE && there < here / 2) this.atRight.set(!now);
      this.settled = ids;
    });
  }

  /** What there is to say of pictures that came in. */
  protected readonly said = signal('');

  protected over(event: DragEvent): void {
    if (event.dataTransfer?.types.includes('Files')) event.preventDefault();
  }
  protected dropped(event: DragEvent): void {
    event.preventDefault();
    void this.bring([...(event.dataTransfer?.files ?? [])]);
  }
  protected pasted({ clipboardData }: ClipboardEvent): void {
    void this.bring([...(clipboardData?.files ?? [])]);
  }
  protected added(event: Event): void {
    const input = event.target as HTMLInputElement;
    void this.bring([...(input.files ?? [])]).then(() => (input.value = ''));
  }

  /** Keeps pictures with the master and puts them on the board that one looks at. */
  private async bring(files: readonly File[]): Promise<void> {
    const [master, board] = [this.session.document(), this.board()];
    if (!files.length || !master || !board || this.fixed()) return;
    const { command, ids, words } = await this.picturesIn.bring(this.session.id(), files, board);
    if (command) this.run(command(this.session.document()!));
    if (ids.length) this.selection.set(ids);
    this.said.set(words);
  }

  protected show(id: string): void {
    this.boardId.set(id);
    this.cell.set(null);
    this.spot.set(null);
    this.paragraph.set(null);
    this.selection.set([]);
    this.chosen.emit(id);
  }

  /** Goes to a place; called from the Match lane. */
  goTo(box: Box, source: string | null): void {
    if (source) this.selection.set([source]);
    this.stage()?.show(box);
  }

  /** The cell of the table that one was sent to. */
  protected readonly cell = signal<{ readonly row: number; readonly column: number } | null>(null);
  /** Goes to a cell of a table; called from the Match lane. */
  goToCell(part: string, cell: { readonly row: number; readonly column: number }): void {
    this.showBoard(part);
    this.cell.set(cell);
  }

  /** The place of a solid that one was sent to. */
  protected readonly spot = signal<readonly [number, number, number] | null>(null);
  /** Goes to a place of a solid; called from the Match lane. */
  goToSpot(part: string, at: readonly [number, number, number]): void {
    this.showBoard(part);
    this.spot.set(at);
  }

  /** The paragraph of a text that one was sent to. */
  protected readonly paragraph = signal<{ readonly block: string } | null>(null);
  /** Goes to a paragraph of a text; called from the Match lane. */
  goToParagraph(part: string, block: string): void {
    this.showBoard(part);
    this.paragraph.set({ block });
  }

  /** The id of the part that one looks at. */
  get seenBoard(): string {
    return this.wanted() ?? '';
  }

  showBoard(name: string): void {
    const part = this.parts().find((one) => one.name === name || one.id === name);
    if (part) this.boardId.set(part.id);
  }

  protected run(command: Command): void {
    if (this.fixed()) return;
    this.session.do(command);
    const ids = new Set([...allItems(this.board()?.items ?? [])].map(({ id }) => id));
    if (this.selection().some((id) => !ids.has(id))) this.selection.set(this.selection().filter((id) => ids.has(id)));
  }

  protected move({ dx, dy }: { dx: number; dy: number }): void {
    const master = this.session.document();
    if (master && (dx || dy)) this.run(moveItems(master, this.selection(), dx, dy));
  }

  /** Moves the selection while the board has the keys. */
  private nudge(dx: number, dy: number): void {
    if (this.selection().length) this.move({ dx, dy });
  }

  private remove(): void {
    const master = this.session.document();
    if (master && this.selection().length) this.run(removeItems(master, this.selection()));
  }

  protected readonly key = shortcuts({
    Escape: () => this.selection.set([]),
    Delete: () => this.remove(),
    Backspace: () => this.remove(),
  });
  /** On the board: by a millimetre, with Shift by ten. */
  protected readonly boardKey = shortcuts({
    ArrowLeft: () => this.nudge(-1, 0),
    ArrowRight: () => this.nudge(1, 0),
    ArrowUp: () => this.nudge(0, 1),
    ArrowDown: () => this.nudge(0, -1),
    'Shift+ArrowLeft': () => this.nudge(-10, 0),
    'Shift+ArrowRight': () => this.nudge(10, 0),
    'Shift+ArrowUp': () => this.nudge(0, 10),
    'Shift+ArrowDown': () => this.nudge(0, -10),
  });

  protected discard(): void {
    this.session.discard().catch((error: Error) => this.session.problem.set(error.message));
  }
}
