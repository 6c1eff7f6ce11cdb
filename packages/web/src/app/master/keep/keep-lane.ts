import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { NgTemplateOutlet } from '@angular/common';
import { Button } from 'primeng/button';
import { Tab, TabList, TabPanel, Tabs } from 'primeng/tabs';
import type { CopyView } from '@inkwell-twin/api';
import {
  type Board,
  type Box,
  Clip,
  type Command,
  type Correction,
  Failure,
  type Grip,
  type Matrix,
  type Outline,
  addItem,
  axesAround,
  boxesOf,
  breakAt,
  copyItems,
  drawnMaster,
  invert,
  joinBoxes,
  joinOutlines,
  mapItems,
  multiply,
  pasteItems,
  pathTo,
  transformOutline,
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
  itemKinds,
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
import { LostPart } from '../../shared/lost-part';
import { VerdictMark } from '../../shared/verdict-mark';
import { counted, timeInWords } from '../../shared/words';
import { TableFace } from '../../content/grid/table-face';
import { SolidFace } from '../../content/mesh/solid-face';
import { ProseFace } from '../../content/prose/prose-face';
import type { DrawnShape } from '../stage/drawing-hand';
import { widthOnStage } from '../stage/paint';
import { Stage } from '../stage/stage';
import { shortcuts } from '../../shared/shortcuts';
import { Contents } from './contents';
import { FilesPane } from './files-pane';
import { DRAWING_TOOLS, drawnItem } from './drawing';
import { newItem } from './new-item';
import { ParametersPane } from './parameters-pane';
import { type CameIn, PicturesIn } from './pictures-in';
import { PictureString } from './picture-string';
import { ShownParts } from './shown-parts';
import { RulesPane } from './rules-pane';
import { Slip } from './slip';
import { carriedBy } from './carried-by';

/** What a master is opened at, by its purpose. */
const FIRST: Readonly<Record<string, PartList>> = { series: 'tables', part: 'solids', text: 'texts' };

/** What objects go by on the clipboard. */
const CLIP = 'application/x-inkwell-items+json';

/** How wide the lane is from which on the slip lies in columns, pixels; what it takes then, and as a share of a lane that is narrower. */
const [TRAY, WIDE_FOOT, NARROW_FOOT, HEAD] = [880, 268, 0.5, 40];

/** The master itself: its boards, what is on them, and the slip of what is selected. */
@Component({
  selector: 'twin-keep-lane',
  imports: [
    Button,
    Contents,
    FilesPane,
    LostPart,
    NgTemplateOutlet,
    ParametersPane,
    PictureString,
    ProseFace,
    RulesPane,
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
    '(document:copy)': 'copied($event, false)',
    '(document:cut)': 'copied($event, true)',
    '(keyup.space)': 'pan(false)',
  },
})
export class KeepLane {
  protected readonly session = inject(DraftSession);
  private readonly impact = inject(Impact);
  private readonly picturesIn = inject(PicturesIn);
  protected readonly showing = inject(ShownParts);
  readonly copies = input.required<readonly CopyView[]>();
  /** How many linked files are not as they were last seen. */
  readonly troubled = input(0);
  /** The folder of the master's file on the shelf. */
  readonly folder = input.required<string>();
  /** What a derivation takes, while one is prepared. */
  readonly highlighted = input<ReadonlySet<string> | null>(null);
  readonly boardName = input<string | null>(null);
  /** An earlier revision to look at instead of the draft; nothing of it can be changed. */
  readonly past = input<Master | null>(null);
  readonly chosen = output<string>();

  private readonly stage = viewChild(Stage);
  private readonly words = viewChild(ProseFace);
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
  /** The symbol that one looks into, in the place of a board. */
  private readonly symbolId = signal<string | null>(null);
  protected readonly symbol = computed(() => this.shown()?.symbols.find(({ id }) => id === this.symbolId()) ?? null);
  protected readonly symbolFrame = computed((): Box | null => {
    const [master, symbol] = [this.shown(), this.symbol()];
    if (!master || !symbol) return null;
    const box = joinBoxes(
      boxesOf(
        master,
        symbol.items.map(({ id }) => id),
        widthOnStage,
      ).map((one) => one.box),
    );
    const [x, y] = symbol.anchor;
    return box.minX <= box.maxX ? box : { minX: x - 20, minY: y - 20, maxX: x + 20, maxY: y + 20 };
  });
  protected readonly board = computed((): Board | undefined => {
    const [symbol, frame] = [this.symbol(), this.symbolFrame()];
    if (!symbol || !frame) return this.shown()?.boards.find(({ id }) => id === this.wanted());
    const { id, name, items } = symbol;
    return {
      id,
      name,
      width: Math.max(1, frame.maxX - frame.minX),
      height: Math.max(1, frame.maxY - frame.minY),
      background: null,
      items,
    };
  });
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
  /** Changes that are only being tried: they are seen, and no more. */
  private readonly trial = signal<readonly Patch[] | null>(null);
  protected tryPatches(patches: readonly Patch[] | null): void {
    this.trial.set(patches);
  }
  protected tryCorrections(corrections: readonly Correction[] | null): void {
    const ids = this.pictures().map(({ id }) => id);
    this.trial.set(corrections && ids.length ? setAttributes(ids, 'corrections', [...corrections], '').patches : null);
  }
  /** The document with what is being tried; null where nothing is, or it can't be. */
  protected readonly staged = computed(() => {
    const [master, trial] = [this.shown(), this.trial()];
    try {
      return master && trial ? applyPatches(master, trial).master : null;
    } catch {
      return null;
    }
  });
  protected readonly stagedBoard = computed(() => {
    const [staged, board] = [this.staged(), this.board()];
    const inside = staged?.symbols.find(({ id }) => id === board?.id);
    return inside && board ? { ...board, items: inside.items } : staged?.boards.find(({ id }) => id === board?.id);
  });
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

  private readonly room = signal({ width: 0, height: 0 });
  /** Whether the slip has room for several columns below the board. */
  protected readonly wide = computed(() => this.room().width >= TRAY);
  /** What the slip may take at the foot of the stage, pixels: the board is laid above that. */
  protected readonly foot = computed(() =>
    this.wide() ? WIDE_FOOT : Math.round(NARROW_FOOT * Math.max(0, this.room().height - HEAD)),
  );
  private readonly resized = new ResizeObserver(([entry]) => {
    const { width, height } = entry!.contentRect;
    this.room.set({ width, height });
  });

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    this.resized.observe(host);
    this.session.unfinished = () => this.words()?.flush();
    inject(DestroyRef).onDestroy(() => {
      this.resized.disconnect();
      this.session.unfinished = () => undefined;
    });
    effect(() => this.showing.show(this.shown()));
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
  protected pasted({ clipboardData, target }: ClipboardEvent): void {
    const typing =
      target instanceof HTMLElement && (/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || target.isContentEditable);
    const clip = clipboardData?.getData(CLIP);
    if (clip && !typing) return this.lay(clip);
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
    this.lie(await this.picturesIn.bring(this.session.id(), files, board));
  }

  private lie({ command, ids, words }: CameIn): void {
    if (command) this.run(command(this.session.document()!));
    if (ids.length) this.selection.set(ids);
    this.said.set(words);
  }

  /** Whether the files that the master keeps are listed. */
  protected readonly files = signal(false);
  /** Whether it is held against the house rules. */
  readonly rules = signal(false);

  /** Puts a picture that lies on the shelf on the board that one looks at, linked. */
  protected async link(path: string): Promise<void> {
    const board = this.board() ?? this.session.document()?.boards[0];
    if (!board) return this.said.set('A picture stands on a board, and this master has none.');
    try {
      this.lie(await this.picturesIn.link(this.session.id(), path, board));
    } catch (error) {
      this.said.set((error as Error).message);
    }
  }

  protected readonly parameters = signal(false);
  /** How many things can't be computed. */
  protected readonly wrongCount = computed(() => {
    const master = this.shown();
    return master ? drawnMaster(master, widthOnStage).problems.length : 0;
  });

  /** What is drawn by hand next. */
  private readonly toolId = signal<string | null>(null);
  protected readonly tool = computed(() => DRAWING_TOOLS.find(({ id }) => id === this.toolId()) ?? null);
  protected arm(id: string | null): void {
    this.toolId.set(id);
    if (id) {
      this.pointsOf.set(null);
      this.selection.set([]);
      this.stage()?.focus();
    }
  }
  protected drawn(shape: DrawnShape): void {
    const [tool, master, board] = [this.tool(), this.session.document(), this.board()];
    if (!tool || !master || !board) return;
    const item = drawnItem(tool, shape, master);
    if (!item) return;
    this.toolId.set(null);
    this.run(addItem(board, item));
    this.selection.set([item.id]);
  }

  /** Ends a line that is drawn; where nothing was drawn yet, the shape is put into the middle. */
  private finish(): void {
    const [tool, master, board] = [this.tool(), this.session.document(), this.board()];
    if (!tool || this.stage()?.finish() || !master || !board) return;
    if (!itemKinds().find(({ id }) => id === tool.kind)?.fresh) return;
    const item = newItem(tool.kind, master, board);
    this.toolId.set(null);
    this.run(addItem(board, item));
    this.selection.set([item.id]);
  }

  protected map({ matrix, turned }: { matrix: Matrix; turned: boolean }): void {
    const master = this.session.document();
    if (master) this.run(mapItems(master, this.selection(), matrix, turned ? 'turned' : 'size changed'));
  }

  protected moveGuide({ index, at }: { index: number; at: number | null }): void {
    const board = this.board();
    if (!board) return;
    const guides = (board.guides ?? []).flatMap((guide, i) => (i !== index ? [guide] : at === null ? [] : [{ ...guide, at }]));
    const label = `${board.name}: a guide ${at === null ? 'taken away' : 'moved'}`;
    this.run({ label, patches: [{ op: 'set', node: board.id, attribute: 'guides', value: guides.length ? guides : undefined }] });
  }

  /** The object whose points are taken hold of. */
  protected readonly pointsOf = signal<string | null>(null);
  protected readonly grip = signal<Grip | null>(null);
  /** That object, and what maps its own axes onto the board. */
  private readonly pointed = computed(() => {
    const [master, id, board] = [this.shown(), this.pointsOf(), this.board()];
    const path = master && id && board ? pathTo(master, id) : undefined;
    const item = path?.at(-1);
    if (!path || !item || !('kind' in item) || !path.some((node) => node.id === board!.id)) return null;
    const outlines = itemKind(item).byPoints?.outlines(item as never) ?? null;
    const around = axesAround(path);
    return outlines && { item, outlines, at: item.transform ? multiply(around, item.transform) : around };
  });
  protected readonly pointsName = computed(() => (this.pointed() ? nodeInWords(this.pointed()!.item) : ''));
  protected readonly heldPoints = computed((): readonly Outline[] | null => {
    const pointed = this.pointed();
    return pointed && !this.fixed() ? pointed.outlines.map((one) => transformOutline(one, pointed.at)) : null;
  });
  protected reshape(outlines: readonly Outline[]): void {
    const pointed = this.pointed();
    const back = pointed && invert(pointed.at);
    if (!pointed || !back) return;
    const { item } = pointed;
    const own = outlines.map((one) => transformOutline(one, back));
    const what = `${nodeInWords(item)}: shape changed`;
    if (!own.length) return this.run(removeItems(this.session.document()!, [item.id]));
    const changed = itemKind(item).byPoints?.take(item as never, own);
    if (!changed) return this.session.problem.set('This is one line and can’t be broken in two. Draw a line or a curve instead.');
    const patches = Object.entries(changed).map(([attribute, value]): Patch => ({ op: 'set', node: item.id, attribute, value }));
    this.run({ label: what, patches });
  }
  protected takePoint(): void {
    this.stage()?.removePoint();
  }
  protected breakHere(): void {
    const [outlines, grip] = [this.heldPoints(), this.grip()];
    if (outlines && grip) this.reshape(breakAt(outlines, grip));
  }
  protected join(): void {
    const outlines = this.heldPoints();
    if (outlines) this.reshape(joinOutlines(outlines));
  }

  protected lookInto(symbol: string): void {
    this.symbolId.set(symbol);
    this.selection.set([]);
    this.pointsOf.set(null);
  }
  protected lookOut(): void {
    this.lookInto('');
  }

  /** Takes what is selected up, for this board or another. */
  protected copied(event: ClipboardEvent, away: boolean): void {
    const master = this.session.document();
    const target = event.target as HTMLElement;
    if (
      !master ||
      !this.selection().length ||
      /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) ||
      target.isContentEditable ||
      !this.board()
    )
      return;
    // Words that are marked somewhere on the page are what is meant.
    if (getSelection()?.toString()) return;
    const clip = copyItems(master, this.selection());
    if (!clip || !event.clipboardData) return;
    event.preventDefault();
    event.clipboardData.setData(CLIP, JSON.stringify(clip));
    event.clipboardData.setData('text/plain', clip.items.map(nodeInWords).join('\n'));
    this.laid = 0;
    if (away && !this.fixed()) this.remove();
  }
  /** How often what was taken up was laid down here: each a little farther. */
  private laid = 0;
  private lay(text: string): void {
    const [master, board] = [this.session.document(), this.board()];
    if (!master || !board || this.fixed()) return;
    try {
      const by = ++this.laid * 5;
      const { command, ids, left } = pasteItems(master, board, Clip.parse(JSON.parse(text)), [by, -by]);
      this.run(command);
      this.selection.set(ids);
      this.said.set(left.length ? `Not laid down: ${left.join('; ')}.` : '');
    } catch (error) {
      this.said.set(error instanceof Failure ? error.message : 'What was taken up can’t be read here.');
    }
  }

  protected show(id: string): void {
    this.symbolId.set(null);
    this.pointsOf.set(null);
    this.toolId.set(null);
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

  /** Shows an object, on whichever board it is; called from the history. */
  pick(node: string): void {
    const path = this.shown() && pathTo(this.shown()!, node);
    const part = path?.[1];
    if (!part) return;
    this.showBoard(part.id);
    if ('kind' in path.at(-1)!) this.selection.set([node]);
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
    this.trial.set(null);
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

  protected pan(on: boolean): void {
    this.stage()?.hold(on);
  }

  private remove(): void {
    if (this.stage()?.removePoint()) return;
    const master = this.session.document();
    if (master && this.selection().length) this.run(removeItems(master, this.selection()));
  }

  protected readonly key = shortcuts({
    Escape: () => {
      if (this.tool()) return this.arm(null);
      if (this.pointsOf()) return this.pointsOf.set(null);
      this.selection.set([]);
    },
    Delete: () => this.remove(),
    Backspace: () => this.remove(),
  });
  /** On the board: by a millimetre, with Shift by ten. */
  protected readonly boardKey = shortcuts({
    Enter: () => this.finish(),
    Space: () => this.pan(true),
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
