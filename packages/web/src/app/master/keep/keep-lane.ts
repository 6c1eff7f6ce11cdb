import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  type Signal,
  computed,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { Tab, TabList, TabPanel, Tabs } from 'primeng/tabs';
import type { CopyView } from '@inkwell-twin/api';
import { type Command, type Master, PART_LISTS, type PartList, pathTo } from '@inkwell-twin/core/web';
import type { BoardPlace } from '../../content/board-place';
import type { Aim, PartFace, Place } from '../../content/face';
import { gathered } from '../../content/gathered/parts';
import { type FaceHead, type PartIn, PartRoom } from '../../content/part-room';
import { DraftSession } from '../../services/draft-session';
import { Impact } from '../../services/impact.service';
import { Late } from '../../shared/late';
import { Note } from '../../shared/note';
import { counted } from '../../shared/words';
import { ShownParts } from '../board/shown-parts';
import { DraftOffer } from './draft-offer';
import { FilesPane } from './files-pane';
import { ImpactNote } from './impact-note';
import { PicturesIn } from './pictures-in';
import { RulesPane } from './rules-pane';
import { LaneKey } from '../../shared/lane-key';

/** What a master is opened at, by its purpose. */
const FIRST: Readonly<Record<string, PartList>> = { series: 'tables', part: 'solids', text: 'texts' };
const FACES = new Map(Object.values(gathered).map((face): [PartList, PartFace] => [face.list, face]));

/** The master itself: one of its parts, with the face that it has, and what there is to say of a draft. */
@Component({
  selector: 'twin-keep-lane',
  imports: [DraftOffer, FilesPane, ImpactNote, LaneKey, Late, Note, RulesPane, Tab, TabList, TabPanel, Tabs],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './keep-lane.html',
  styleUrl: './keep-lane.css',
  providers: [PicturesIn, ShownParts, { provide: PartRoom, useFactory: () => inject(KeepLane).room }],
  host: { '(keydown)': 'head()?.key($event)', '(dragover)': 'over($event)', '(drop)': '$event.preventDefault()' },
})
export class KeepLane {
  /** Its key was pressed here: it wants the room. */
  readonly widened = output<void>();
  protected readonly session = inject(DraftSession);
  private readonly impact = inject(Impact);
  private readonly picturesIn = inject(PicturesIn);
  readonly copies = input.required<readonly CopyView[]>();
  /** How many linked files are not as they were last seen. */
  readonly troubled = input(0);
  /** The folder of the master's file on the shelf. */
  readonly folder = input.required<string>();
  /** What a derivation takes, while one is prepared. */
  readonly highlighted = input<ReadonlySet<string> | null>(null);
  /** The part that a derivation is of, while one is prepared. */
  readonly boardName = input<string | null>(null);
  /** An earlier revision to look at instead of the draft; nothing of it can be changed. */
  readonly past = input<Master | null>(null);
  readonly chosen = output<string>();

  protected readonly counted = counted;
  private readonly shownId = signal('');
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
    return lists.flatMap((list) => (master?.[list] ?? []).map(({ id, name }) => ({ id, name, list })));
  });
  protected readonly part = computed(() => {
    const parts = this.parts();
    return parts.find(({ id, name }) => (this.boardName() ? name === this.boardName() : id === this.shownId())) ?? parts[0];
  });
  /** The face of the part, alone in a list: another face is made anew. */
  protected readonly faces = computed(() => {
    const face = FACES.get(this.part()?.list as PartList);
    return face ? [face] : [];
  });
  /** The part of a list that one looks at; the last one, once it is another list’s. */
  private partOf<L extends PartList>(list: L, within: () => Master | null): Signal<PartIn<L> | undefined> {
    let last: PartIn<L> | undefined;
    return computed(() => {
      const part = this.part();
      if (part?.list !== list) return last;
      return (last = (within()?.[list] as readonly PartIn<L>[] | undefined)?.find(({ id }) => id === part.id));
    });
  }

  /** Copies that hold now and would not after an update; those that do not hold anyway are no news. */
  private readonly outdated = computed(() =>
    this.copies().filter(
      ({ id, verdict }) => this.impact.outdated().has(id) && (verdict === 'in step' || verdict === 'accepted'),
    ),
  );
  protected readonly wanted = signal<Aim | null>(null);
  /** What there is to say of what was done. */
  protected readonly said = signal('');
  private readonly ofFace = signal<Signal<FaceHead> | null>(null);
  protected readonly head = computed(() => this.ofFace()?.() ?? null);
  /** Whether the files that the master keeps are listed. */
  protected readonly files = signal(false);
  /** Whether it is held against the house rules. */
  readonly rules = signal(false);

  readonly room: PartRoom = {
    masterId: this.session.id,
    master: this.shown,
    part: (list) => this.partOf(list, this.shown),
    before: (list) => this.partOf(list, this.session.head),
    copies: this.copies,
    outdated: this.outdated,
    isChanged: computed(() => this.session.changes() > 0 && !this.highlighted() && !this.past()),
    fixed: computed(() => this.fixed() || this.highlighted() !== null),
    highlighted: this.highlighted,
    wanted: this.wanted,
    head: this.ofFace,
    chosenObjects: () => ({ part: '', objects: [] }),
    unfinished: () => undefined,
    run: (command) => this.run(command),
    showPart: (part) => this.showPart(part),
    undo: () => this.session.undo(),
    redo: () => this.session.redo(),
    say: (words) => this.said.set(words),
    fail: (words) => this.session.problem.set(words),
    showRules: () => this.rules.set(true),
  };

  constructor() {
    this.session.unfinished = () => this.room.unfinished();
    inject(DestroyRef).onDestroy(() => (this.session.unfinished = () => undefined));
  }

  protected over(event: DragEvent): void {
    if (event.dataTransfer?.types.includes('Files')) event.preventDefault();
  }

  protected run(command: Command): void {
    if (!this.fixed()) this.session.do(command);
  }

  /** Puts a picture that lies on the shelf on the board that one looks at, or the first, linked. */
  protected async link(path: string): Promise<void> {
    const boards = this.session.document()?.boards ?? [];
    const board = boards.find(({ id }) => id === this.part()?.id) ?? boards[0];
    if (!board) return this.said.set('A picture stands on a board, and this master has none.');
    try {
      const { command, ids, words } = await this.picturesIn.link(this.session.id(), path, board);
      if (command) this.run(command(this.session.document()!));
      if (ids.length) this.goToItems(board.id, ids);
      this.said.set(words);
    } catch (error) {
      this.said.set((error as Error).message);
    }
  }

  protected show(id: string): void {
    this.shownId.set(id);
    this.wanted.set(null);
    this.chosen.emit(id);
  }

  /** Goes to a place of the master. */
  goTo({ part, at }: Place): void {
    this.showPart(part);
    this.wanted.set(at);
  }
  private goToItems(part: string, items: readonly string[]): void {
    const at: BoardPlace = { of: 'board', box: null, items };
    this.goTo({ part, at });
  }

  /** Shows a node, in whichever part it is; called from the history. */
  pick(node: string): void {
    const path = this.shown() && pathTo(this.shown()!, node);
    const part = path?.[1];
    if (part && path) this.goToItems(part.id, 'kind' in path.at(-1)! ? [node] : []);
  }

  /** The id of the part that one looks at. */
  get seenPart(): string {
    return this.part()?.id ?? '';
  }

  /** The objects that are chosen on the board that one looks at; none where one looks at something else. */
  get chosenObjects(): readonly string[] {
    const { part, objects } = this.room.chosenObjects();
    return part === this.seenPart ? objects : [];
  }

  /** Shows a part by its name or id. */
  showPart(name: string): void {
    const part = this.parts().find((one) => one.name === name || one.id === name);
    if (part) this.shownId.set(part.id);
  }
}
