import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  linkedSignal,
  signal,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router } from '@angular/router';
import { type AnswerOf, type DeskRow, type EventView, type Summary } from '@inkwell-twin/api';
import { type Observable, Subject, debounceTime, throttleTime } from 'rxjs';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { SelectButton } from 'primeng/selectbutton';
import { Skeleton } from 'primeng/skeleton';
import { Api } from '../services/api.service';
import { ServerEvents } from '../services/events.service';
import { FindableThings } from '../services/findable';
import { Latest } from '../shared/latest';
import { TopBar } from '../shared/top-bar';
import { counted } from '../shared/words';
import { Arrivals } from './arrivals';
import { Arrived } from './arrived';
import { DeriveManyForm } from './derive-many-form';
import { DescribeForm } from './describe-form';
import { FoundPanel } from './found-panel';
import { type Lie, lieOfLast, rememberLie } from './lie';
import { NewMaster } from './new-master';
import { Notices } from './notices';
import { OutsidePanel } from './outside-panel';
import { type Fate, Row } from './row';
import { Today } from './today';
import { Pick } from '../shared/pick';
import { Who } from './who';

const VERDICTS = ['in step', 'accepted', 'behind', 'touched', 'crossed', 'gone', 'unreadable', 'not checked'] as const;

/** The home view: all masters and how their copies stand. */
@Component({
  selector: 'twin-desk',
  imports: [
    Arrived,
    Button,
    DeriveManyForm,
    DescribeForm,
    FormsModule,
    FoundPanel,
    InputText,
    NewMaster,
    Notices,
    OutsidePanel,
    Pick,
    Row,
    SelectButton,
    Skeleton,
    Today,
    TopBar,
    Who,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  providers: [Arrivals],
  templateUrl: './desk.html',
  styleUrl: './desk.css',
})
export class Desk {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly arrivals = inject(Arrivals);

  protected readonly rows = signal<readonly DeskRow[] | null>(null);
  protected readonly summary = signal<Summary | null>(null);
  /** The cursor of the next page; null when all are here. */
  protected readonly next = signal<string | null>(null);
  protected readonly find = signal('');
  /** What is shown: the masters at work, what was set aside, or what was thrown away. */
  protected readonly state = signal<'live' | 'aside' | 'thrown'>('live');
  protected readonly asideShown = computed(() => this.state() !== 'live');
  protected readonly lie = signal(lieOfLast());
  /** Rows chosen to do something with all of them; null while nobody chooses. */
  protected readonly chosen = signal<ReadonlySet<string> | null>(null);
  protected readonly chosenRows = computed(() => [
    ...new Map((this.rows() ?? []).filter(({ id }) => this.chosen()?.has(id)).map((row) => [row.id, row])).values(),
  ]);
  /** Counts how often descriptions were written out from here. */
  protected readonly written = signal(0);
  protected readonly said = signal('');
  protected writeOut(): void {
    this.outside(this.api.call('writeDescriptions', {}, { masters: [...this.chosen()!] }), 'written out');
  }
  protected alwaysOut(): void {
    const asked = this.api.call('orderDescriptions', {}, { masters: [...this.chosen()!], on: true });
    this.outside(asked, 'written out from now on');
  }
  private outside(asked: Observable<AnswerOf<'writeDescriptions'>>, words: string): void {
    const count = this.chosen()!.size;
    asked.subscribe({
      next: ({ failed }) => {
        this.said.set(
          `${counted(count - failed.length, 'description')} ${words}. ${failed.map(({ message }) => message).join(' ')}`,
        );
        this.written.update((some) => some + 1);
      },
      error: (error: Error) => this.problem.set(error.message),
    });
  }
  protected readonly many = signal<'' | 'derive' | 'describe'>('');
  protected readonly shelf = signal('');
  protected readonly problem = signal('');
  /** Whether the address asks for a new master. */
  readonly new = input<string>();
  protected readonly adding = linkedSignal(() => this.new() !== undefined);
  protected readonly dragging = signal(false);
  protected readonly found = viewChild(FoundPanel);
  protected readonly descriptions = viewChild(OutsidePanel);
  /** Whether what else there is to know lies open. */
  protected readonly moreOpen = signal(false);
  /** What else there is to know, in few words. */
  protected readonly more = computed(() => {
    const parts = [
      [this.summary()?.notices.length ?? 0, 'notice'],
      [this.found()?.found().length ?? 0, 'older master on the shelf', 'older masters on the shelf'],
      [this.descriptions()?.list().length ?? 0, 'description to settle', 'descriptions to settle'],
    ] as const;
    return parts.flatMap(([count, one, many]) => (count ? [counted(count, one, many)] : [])).join(' · ');
  });
  protected readonly counted = counted;
  private readonly searching = new Subject<string>();
  protected readonly stale = new Subject<void>();
  private readonly latest = new Latest();

  constructor() {
    const things = inject(FindableThings);
    things.offered.set(() => [{ group: 'Do', name: 'New master', act: () => this.adding.set(true) }]);
    inject(DestroyRef).onDestroy(() => {
      things.offered.set(() => []);
      this.latest.forget();
    });
    this.arrivals.came = () => this.load();
    this.load();
    const gone = takeUntilDestroyed<unknown>(inject(DestroyRef));
    inject(ServerEvents)
      .all.pipe(gone)
      .subscribe((event) => this.told(event as EventView));
    this.searching.pipe(debounceTime(200), gone).subscribe(() => this.load());
    this.stale.pipe(throttleTime(1000, undefined, { leading: true, trailing: true }), gone).subscribe(() =>
      // The next change asks again; until then the numbers stay.
      this.api.call('summary').subscribe({ next: (summary) => this.summary.set(summary), error: () => undefined }),
    );
  }

  /** A single change is asked for by itself: neither the other rows nor any document. */
  private told(event: EventView): void {
    if (event.kind === 'again') return this.load();
    if (event.kind === 'job' || event.kind === 'present' || event.kind === 'draft') return;
    this.stale.next();
    this.refreshRow(event.master);
  }

  private refreshRow(id: string): void {
    const known = this.rows()?.some((row) => row.id === id);
    // One that is new comes at the end of the list, if that is in sight.
    const { order, group, verdict, keyword, place } = this.lie();
    const plain = order === 'begun' && group === 'none' && !verdict && !keyword && !place;
    if (!known && (this.next() !== null || this.find() || this.asideShown() || !plain)) return;
    const answer = {
      next: (row: DeskRow) =>
        this.rows.update((rows) =>
          known
            ? (rows?.map((one) => (one.id === id ? { ...row, group: one.group } : one)) ?? null)
            : [...(rows ?? []).filter((one) => one.id !== id), row],
        ),
      error: () => this.rows.update((rows) => rows?.filter((row) => row.id !== id) ?? null),
    };
    this.latest.ask(this.api.call('deskRow', { id }, undefined, { state: this.state() }), answer, id, id);
  }

  protected load(after: string | null = null): void {
    const query: Record<string, string> = {};
    if (after) query['after'] = after;
    if (this.find()) query['find'] = this.find();
    if (this.asideShown()) query['state'] = this.state();
    const { order, group, verdict, keyword, place } = this.lie();
    Object.assign(query, { order, group }, verdict ? { verdict } : {}, keyword ? { keyword } : {}, place ? { place } : {});
    this.latest.ask(this.api.call('desk', {}, undefined, query), {
      next: ({ masters, next, shelf, ...summary }) => {
        this.rows.update((rows) => (after ? [...(rows ?? []), ...masters] : masters));
        this.next.set(next);
        this.summary.set(summary);
        this.shelf.set(shelf);
        this.problem.set('');
      },
      error: (error: Error) => this.problem.set(error.message),
    });
  }

  protected search(event: Event): void {
    this.find.set((event.target as HTMLInputElement).value.trim());
    this.searching.next(this.find());
  }

  protected show(state: 'live' | 'aside' | 'thrown'): void {
    this.state.set(state);
    this.chosen.set(null);
    this.rows.set(null);
    this.load();
  }

  /** How the rows lie: in which order, laid together by what, and which of them. */
  protected lay(wish: Partial<Lie>): void {
    this.lie.update((lie) => ({ ...lie, ...wish }));
    rememberLie(this.lie());
    if (wish.dense === undefined) this.load();
  }

  protected readonly none: ReadonlySet<string> = new Set();
  protected readonly densities = [
    { value: false, label: 'roomy' },
    { value: true, label: 'dense' },
  ];
  /** Whether copies are being asked for that are behind. */
  protected readonly deriving = signal(false);

  /** @param masters ids; null for all */
  protected deriveBehind(masters: readonly string[] | null): void {
    this.deriving.set(true);
    this.api.call('deriveBehind', {}, { masters: masters && [...masters] }).subscribe({
      next: ({ count }) => {
        this.deriving.set(false);
        this.said.set(count ? `${counted(count, 'copy', 'copies')} will be derived again.` : 'None of their copies is behind.');
      },
      error: (error: Error) => {
        this.deriving.set(false);
        this.problem.set(error.message);
      },
    });
  }
  protected readonly verdicts = [
    { value: '', label: 'all masters' },
    ...VERDICTS.map((verdict) => ({ value: verdict, label: `a copy ${verdict}` })),
  ];
  protected readonly orders = [
    { value: 'begun', label: 'oldest first' },
    { value: 'changed', label: 'last changed first' },
    { value: 'name', label: 'name' },
    { value: 'trouble', label: 'what needs someone' },
  ] as const;
  protected readonly groups = [
    { value: 'none', label: 'nothing' },
    { value: 'folder', label: 'folder' },
    { value: 'keyword', label: 'keyword' },
    { value: 'owner', label: 'owner' },
  ] as const;
  protected readonly nameless = computed(
    () => ({ none: '', folder: 'on the shelf itself', keyword: 'without keywords', owner: 'no owner' })[this.lie().group],
  );
  protected readonly ofAll = computed(() => {
    const [all, { verdict, keyword, place, group }] = [this.summary(), this.lie()];
    if (this.find() || verdict || keyword || place || group === 'keyword') return 'those found';
    return String(this.state() === 'live' ? all?.total : this.state() === 'aside' ? all?.aside : all?.thrown);
  });
  protected only(name: string): void {
    this.lay(this.lie().group === 'folder' ? { place: name } : { keyword: name });
  }
  protected chooseShown(): void {
    this.chosen.set(new Set((this.rows() ?? []).map(({ id }) => id)));
  }

  protected choose(id: string): void {
    this.chosen.update((chosen) => {
      const next = new Set(chosen);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  }
  protected done(): void {
    this.many.set('');
    this.chosen.set(null);
    this.load();
  }

  protected act(id: string, what: Fate): void {
    this.api.call(what, { id }).subscribe({
      next: () => {
        this.rows.update((rows) => rows?.filter((row) => row.id !== id) ?? null);
        this.stale.next();
        if (this.asideShown() && !this.rows()?.length) this.show('live');
      },
      error: (error: Error) => this.problem.set(error.message),
    });
  }

  /** From a bar of the thread to the copy it stands for. */
  protected openCopy(master: string, copy: string): void {
    void this.router.navigate(['/masters', master], { queryParams: { copy } });
  }

  protected started(id: string): void {
    void this.router.navigate(['/masters', id]);
  }

  protected pick(event: Event): void {
    const picker = event.target as HTMLInputElement;
    this.arrivals.receive([...(picker.files ?? [])]);
    picker.value = '';
  }

  protected over(event: DragEvent): void {
    event.preventDefault();
    this.dragging.set(true);
  }

  /** A drop anywhere on the Desk counts; leaving it is leaving the window, not passing over what stands on it. */
  protected left(event: DragEvent): void {
    if (!(event.currentTarget as Node).contains(event.relatedTarget as Node | null)) this.dragging.set(false);
  }

  protected dropped(event: DragEvent): void {
    event.preventDefault();
    this.dragging.set(false);
    this.arrivals.receive([...(event.dataTransfer?.files ?? [])]);
  }
}
