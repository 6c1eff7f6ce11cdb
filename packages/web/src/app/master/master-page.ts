// Longer than most: one page on one session; what of it stands alone has a file of its own.
import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router } from '@angular/router';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { type Observable, firstValueFrom } from 'rxjs';
import type { CopyView } from '@inkwell-twin/api';
import type { Master } from '@inkwell-twin/core/web';
import type { Place } from '../content/face';
import { Api } from '../services/api.service';
import { DraftSession } from '../services/draft-session';
import { type Findable, FindableThings } from '../services/findable';
import { Impact } from '../services/impact.service';
import { shortcuts } from '../shared/shortcuts';
import { Thread } from '../shared/thread';
import { TopBar } from '../shared/top-bar';
import { counted, timeInWords } from '../shared/words';
import { CopiesLane } from './copies/copies-lane';
import { DerivePanel } from './derive/derive-panel';
import { AnotherForm } from './history/another-form';
import { type Act, findableHere } from './findable-here';
import { Here } from './here';
import { HistoryPanel } from './history/history-panel';
import { KeepLane } from './keep/keep-lane';
import { type Leaving, LeavingPanel } from './leaving';
import { MatchLane } from './match/match-lane';
import { MasterState } from './master-state';
import { MeetingPanel } from './meeting/meeting-panel';
import { OlderPanel } from './older-panel';
import { LaneEdge } from './lane-edge';
import { type Edge, LaneWidths, type Layout, type Wide } from './lane-widths';
import { LaneKey } from '../shared/lane-key';

/** The first part that a copy is made from; none where it is made from all. */
const partOfCopy = (copy: CopyView | null | undefined): string | undefined =>
  copy && copy.scope.of !== 'master' ? copy.scope.ids[0] : undefined;

/** A master and its copies, side by side, on a line of revisions. */
@Component({
  selector: 'twin-master-page',
  imports: [
    AnotherForm,
    Button,
    CopiesLane,
    DerivePanel,
    Dialog,
    FormsModule,
    Here,
    HistoryPanel,
    InputText,
    KeepLane,
    LaneEdge,
    LaneKey,
    LeavingPanel,
    MatchLane,
    MeetingPanel,
    OlderPanel,
    Thread,
    TopBar,
  ],
  providers: [DraftSession, Impact, LaneWidths, MasterState],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './master-page.html',
  styleUrl: './master-page.css',
  host: { '(document:keydown)': 'key($event)' },
})
export class MasterPage {
  readonly id = input.required<string>();
  /** The copy to show first, from the address. */
  readonly copy = input<string>();
  /** The object to show first, from the address. */
  readonly object = input<string>();
  /** The revision to look at first, from the address. */
  readonly rev = input<string>();

  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly state = inject(MasterState);
  protected readonly session = inject(DraftSession);
  private readonly keep = viewChild(KeepLane);

  protected readonly view = this.state.view;
  protected readonly problem = this.state.problem;
  protected readonly job = this.state.job;
  protected readonly stamp = this.state.stamp;
  protected readonly present = this.state.present;
  protected readonly overtaken = this.state.overtaken;
  protected readonly working = this.state.working;
  protected readonly recipe = signal<string | null>(null);
  protected readonly deriving = signal(false);
  protected readonly highlighted = signal<ReadonlySet<string> | null>(null);
  protected readonly derivedBoard = signal<string | null>(null);
  /** The master as the row of a variant has it that one points at. */
  protected readonly varied = signal<Master | null>(null);
  /** The board that one looked at when a copy was asked for. */
  protected readonly seenBoard = signal('');
  /** The objects that were chosen there. */
  protected readonly chosenObjects = signal<readonly string[]>([]);
  /** How the lanes share the room: one with nothing in it gives its own away. */
  private readonly lanes = inject(LaneWidths);
  protected readonly wide = this.lanes.wide;
  protected readonly layout = computed((): Layout =>
    this.lanes.layout(this.deriving(), this.historyOf() !== null, this.selected() !== null || this.historyOf() !== null),
  );
  /** The copy of the address that was gone to last. */
  private followed: string | undefined;
  protected readonly edges = computed(() => this.lanes.edges(this.layout()));
  protected widthOf = (edge: Edge): string | null => this.lanes.inCss(this.layout(), edge);
  /** What was withdrawn last, as long as that can be undone here. */
  protected readonly withdrawn = signal<{ readonly words: string; readonly undo: () => void } | null>(null);
  protected readonly updating = signal(false);
  protected readonly looked = signal<number | null>(null);
  /** The document at the revision that one looks at. */
  protected readonly past = signal<Master | null>(null);
  protected readonly another = signal(false);
  /** The revision that is being given a name. */
  protected readonly naming = signal(0);
  /** The revision that one looks at beside what the master is now. */
  protected readonly historyOf = computed(() => {
    const [revision, past, now] = [this.revision(), this.past(), this.session.document()];
    return revision && past && now && revision.rev === this.looked() ? { revision, past, now } : null;
  });
  protected readonly leaving = signal(false);
  protected readonly confirming = signal(false);
  protected answerLeaving: ((way: Leaving) => void) | null = null;
  protected message = '';
  protected readonly counted = counted;
  protected readonly time = timeInWords;

  protected readonly selected = computed(() => this.view()?.copies.find(({ recipe }) => recipe === this.recipe()) ?? null);
  protected readonly revision = computed(() => {
    const revisions = this.view()?.revisions ?? [];
    return revisions.find(({ rev }) => rev === this.looked()) ?? revisions.at(-1);
  });
  constructor() {
    effect(() => {
      const id = this.id();
      untracked(() => this.open(id));
    });
    const things = inject(FindableThings);
    effect(() => {
      const view = this.view();
      if (view?.id === this.id()) untracked(() => things.opened({ id: view.id, title: view.title }));
    });
    things.offered.set(() => this.findable());
    inject(DestroyRef).onDestroy(() => things.offered.set(() => []));
    effect(() => {
      const [copy, object] = [this.copy(), this.object()];
      // What is asked for by the address while the master lies open is gone to; the first of it is, when it is opened.
      if (untracked(() => this.view()?.id !== this.id())) return;
      untracked(() => {
        if (copy && copy !== this.followed) this.choose(copy);
        if (object) this.keep()?.pick(object);
      });
    });
    effect(() => {
      const rev = Number(this.rev());
      const view = this.view();
      if (view?.id === this.id() && Number.isInteger(rev) && rev > 0)
        untracked(() => this.looked.set(rev < view.head ? rev : null));
    });
    effect(() => {
      const rev = this.looked();
      const id = this.id();
      this.past.set(null);
      if (rev === null) return;
      this.api.call('revision', { id, rev }).subscribe({
        next: ({ document }) => this.looked() === rev && this.past.set(document as Master),
        error: (error: Error) => this.problem.set(error.message),
      });
    });
  }

  private open(id: string): void {
    this.state.open(id, {
      seen: ({ copies }) => {
        this.followed = this.copy();
        this.recipe.set(copies.find((copy) => copy.id === this.copy())?.recipe ?? null);
      },
      ready: () => {
        const [board, object] = [partOfCopy(this.selected()), this.object()];
        if (board) setTimeout(() => this.keep()?.showPart(board));
        if (object) setTimeout(() => this.keep()?.pick(object));
      },
    });
  }

  /** The address says which copy is looked at: it can be kept, sent, and come back to. */
  private sayInAddress(copy: string | null): void {
    this.followed = copy ?? undefined;
    void this.router.navigate([], { queryParams: { copy }, queryParamsHandling: 'replace', replaceUrl: true });
  }

  protected carryOver(): void {
    this.session.carryOver().catch((error: Error) => this.problem.set(error.message));
  }

  /** Asked before one leaves: with changes that are in no revision, somebody says what becomes of them. */
  mayLeave(): boolean | Promise<boolean> {
    if (!this.session.changes() || this.session.offered()) return true;
    this.answerLeaving?.('stay');
    return new Promise<Leaving>((answer) => {
      this.answerLeaving = answer;
      this.leaving.set(true);
    }).then(async (way) => {
      this.leaving.set(false);
      this.answerLeaving = null;
      if (way === 'update') await this.update();
      if (way === 'discard') await this.session.discard().catch((error: Error) => this.problem.set(error.message));
      return way === 'keep' || (way !== 'stay' && !this.problem());
    });
  }

  /** The first update of a master of an older native version is confirmed: it brings another file. */
  protected askUpdate(): void {
    const older = this.view()?.older;
    if (older && !older.updated) this.confirming.set(true);
    else void this.update();
  }

  protected update(): Promise<void> {
    this.updating.set(true);
    this.problem.set('');
    return this.session
      .update(this.message)
      .then(async () => {
        this.message = '';
        this.looked.set(null);
        await this.state.reopen();
        this.state.refresh();
      })
      .catch((error: Error) => {
        this.problem.set(error.message);
        this.state.refresh();
      })
      .finally(() => this.updating.set(false));
  }

  /** What another program made of the file on the shelf is taken into one's draft, or the file is set aside. */
  protected async settleOutside(way: 'taken' | 'set aside', sha: string): Promise<void> {
    try {
      const sha256 = way === 'taken' ? await this.session.takeOutside() : sha;
      await firstValueFrom(this.api.call('settleOutside', { id: this.id() }, { sha256, way }));
      this.state.refresh();
    } catch (error) {
      this.problem.set((error as Error).message);
    }
  }

  protected dismiss(id: string): void {
    const error = (failure: Error) => this.problem.set(failure.message);
    this.api.call('dismiss', { id }).subscribe({ next: () => this.state.refresh(), error });
  }

  /** What can be gone to and done here, by name. */
  private findable(): Findable[] {
    const { session } = this;
    const head = this.view()?.head ?? 0;
    const acts: readonly Act[] = [
      ['Derive a copy', '', () => this.derive()],
      ['Start another master from this one', '', () => this.another.set(true)],
      ['Give the newest revision a name', '', () => this.naming.set(head)],
      ['Hold it against the house rules', '', () => this.keep()?.rules.set(true)],
      ['Give all room to the master', '1', () => this.setWide('keep')],
      ['Master and copies side by side', '2', () => this.setWide('even')],
      ['Give the room to the match', '3', () => this.setWide('match')],
      ...(session.canUndo() ? [['Undo', 'Ctrl Z', () => session.undo()] as const] : []),
      ...(session.canRedo() ? [['Redo', 'Ctrl Shift Z', () => session.redo()] as const] : []),
      ...(session.changes() && session.mayUpdate()
        ? [[`Update master (r${head + 1})`, '', () => this.askUpdate()] as const]
        : []),
    ];
    const to = { part: (id: string) => this.keep()?.showPart(id), object: (id: string) => this.pick(id) };
    return findableHere(session.document(), acts, to);
  }

  /** Letters that a title takes room for. */
  protected fit = (title: string): number => Math.min(48, Math.max(6, title.length + 1));

  protected retitle(event: Event): void {
    const field = event.target as HTMLInputElement;
    const [document, title] = [this.session.document(), field.value.trim()];
    if (!document || !title || title === document.title) {
      if (document) field.value = document.title;
      return;
    }
    this.session.do({ label: `Called ${title}`, patches: [{ op: 'set', node: document.id, attribute: 'title', value: title }] });
  }

  protected nameRevision(rev: number, event: Event): void {
    const name = (event.target as HTMLInputElement).value.trim();
    this.api.call('nameRevision', { id: this.id(), rev }, { name }).subscribe({
      next: () => {
        this.naming.set(0);
        this.state.refresh();
      },
      error: (error: Error) => this.problem.set(error.message),
    });
  }

  protected go(id: string): void {
    this.another.set(false);
    void this.router.navigate(['/masters', id]);
  }

  protected pick(node: string): void {
    this.keep()?.pick(node);
  }

  protected setAside(): void {
    this.api.call('setAside', { id: this.id() }).subscribe({
      next: () => this.home(),
      error: (error: Error) => this.problem.set(error.message),
    });
  }

  protected choose(copyId: string): void {
    const copy = this.view()?.copies.find(({ id }) => id === copyId);
    this.sayInAddress(copyId);
    this.recipe.set(copy?.recipe ?? null);
    this.deriving.set(false);
    this.highlighted.set(null);
    this.derivedBoard.set(null);
    this.varied.set(null);
    if (this.wide() === 'keep') this.setWide('even');
    const board = partOfCopy(copy);
    if (board) this.keep()?.showPart(board);
  }

  /** A tick of the thread: that revision is shown as it was; the newest again leads back to the draft. */
  protected look(rev: number): void {
    this.looked.set(rev === this.view()?.head || rev === this.looked() ? null : rev);
  }

  protected derive(): void {
    this.looked.set(null);
    this.seenBoard.set(this.keep()?.seenPart ?? '');
    this.chosenObjects.set(this.keep()?.chosenObjects ?? []);
    this.deriving.set(true);
  }

  protected stopDeriving(recipe?: string): void {
    this.deriving.set(false);
    this.highlighted.set(null);
    this.derivedBoard.set(null);
    this.varied.set(null);
    if (recipe) this.recipe.set(recipe);
  }

  protected goTo({ part, at }: Place): void {
    this.keep()?.goTo({ part: part || (partOfCopy(this.selected()) ?? ''), at });
  }

  protected setWide(wide: Wide): void {
    // In a narrow window the copies get room where the match gives it away.
    if (wide === 'even' && this.lanes.narrow()) {
      this.recipe.set(null);
      this.sayInAddress(null);
    }
    this.lanes.give(wide);
  }

  protected deriveBehind(): void {
    this.api.call('deriveBehind', {}, { masters: [this.id()] }).subscribe({
      next: () => this.state.refresh(),
      error: (error: Error) => this.problem.set(error.message),
    });
  }

  protected withdrew({ id, label }: CopyView): void {
    const undo = (): void => this.restore(this.api.call('restoreCopy', { id }));
    this.withdrawn.set({ words: `${label} is withdrawn; its file stays on the shelf.`, undo });
  }

  protected withdrawSeries({ id, label, count }: { readonly id: string; readonly label: string; readonly count: number }): void {
    this.api.call('withdrawSeries', { id }).subscribe({
      next: ({ copies }) => {
        const undo = (): void => this.restore(this.api.call('restoreSeries', { id }, { copies }));
        this.withdrawn.set({ words: `${label}: ${counted(count, 'variant')} withdrawn; the files stay on the shelf.`, undo });
        this.state.refresh();
      },
      error: (error: Error) => this.problem.set(error.message),
    });
  }

  private restore(asked: Observable<unknown>): void {
    this.withdrawn.set(null);
    asked.subscribe({ next: () => this.state.refresh(), error: (error: Error) => this.problem.set(error.message) });
  }

  protected cancelJob(): void {
    const job = this.job();
    // One that is over by then is told as that anyway.
    if (job) this.api.call('cancel', { id: job.id }).subscribe({ error: () => undefined });
  }

  /** Keys that work anywhere but where one types. */
  protected readonly key = shortcuts({
    '$mod+z': () => this.session.undo(),
    '$mod+Shift+z': () => this.session.redo(),
    '$mod+y': () => this.session.redo(),
    '1': () => this.setWide('keep'),
    '2': () => this.setWide('even'),
    '3': () => this.setWide('match'),
  });

  protected home(): void {
    void this.router.navigate(['/']);
  }
}
