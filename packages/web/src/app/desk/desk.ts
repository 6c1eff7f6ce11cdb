import { ChangeDetectionStrategy, Component, DestroyRef, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import type { AnswerOf, CopyView, DeskRow, EventView, Identified, LookView, Summary } from '@inkwell-twin/api';
import { Subject, debounceTime, throttleTime } from 'rxjs';
import { InputText } from 'primeng/inputtext';
import { Api } from '../services/api.service';
import { ServerEvents } from '../services/events.service';
import { Thread } from '../shared/thread';
import { TopBar } from '../shared/top-bar';
import { VerdictMark } from '../shared/verdict-mark';
import { counted } from '../shared/words';
import { LookPanel } from './look-panel';
import { needsOf } from './needs';
import { NewMaster } from './new-master';

/** What came in, and how it was asked for. */
type Brought = AnswerOf<'bringIn'> & { readonly file: File; readonly ppi: number };
type Wishes = Readonly<Record<string, string | number>>;
type Looked = LookView & { readonly file: File };
const wishesOf = ({ settings }: Looked): Record<string, string> =>
  Object.fromEntries(settings.map(({ name, value }) => [name, value]));
type Known = Identified & { readonly file: File };
const VERDICTS = ['in step', 'accepted', 'behind', 'touched', 'crossed', 'gone', 'unreadable', 'not checked'] as const;

/** The home view: all masters and how their copies stand. */
@Component({
  selector: 'twin-desk',
  imports: [InputText, LookPanel, RouterLink, Thread, TopBar, VerdictMark, NewMaster],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './desk.html',
  styleUrl: './desk.css',
})
export class Desk {
  private readonly api = inject(Api);
  private readonly router = inject(Router);

  protected readonly rows = signal<readonly DeskRow[] | null>(null);
  protected readonly summary = signal<Summary | null>(null);
  /** The cursor of the next page; null when all are here. */
  protected readonly next = signal<string | null>(null);
  protected readonly find = signal('');
  /** Whether what was set aside is shown instead. */
  protected readonly asideShown = signal(false);
  protected readonly deleting = signal<string | null>(null);
  protected readonly shelf = signal('');
  protected readonly problem = signal('');
  protected readonly adding = signal(false);
  protected readonly busy = signal('');
  protected readonly brought = signal<Brought | null>(null);
  protected readonly looked = signal<Looked | null>(null);
  protected readonly identified = signal<Known | null>(null);
  protected readonly dragging = signal(false);
  protected readonly needs = computed(() => needsOf(this.summary()?.attention ?? []));
  protected readonly counted = counted;
  private readonly searching = new Subject<string>();
  private readonly stale = new Subject<void>();

  constructor() {
    this.load();
    const gone = takeUntilDestroyed<unknown>(inject(DestroyRef));
    inject(ServerEvents)
      .all.pipe(gone)
      .subscribe((event) => this.told(event as EventView));
    this.searching.pipe(debounceTime(200), gone).subscribe(() => this.load());
    this.stale
      .pipe(throttleTime(1000, undefined, { leading: true, trailing: true }), gone)
      .subscribe(() => this.api.call('summary').subscribe((summary) => this.summary.set(summary)));
  }

  /** A single change is asked for by itself: neither the other rows nor any document. */
  private told(event: EventView): void {
    if (event.kind === 'again') return this.load();
    if (event.kind === 'job') return;
    this.stale.next();
    this.refreshRow(event.master);
  }

  private refreshRow(id: string): void {
    const known = this.rows()?.some((row) => row.id === id);
    // One that is new comes at the end of the list, if that is in sight.
    if (!known && (this.next() !== null || this.find() || this.asideShown())) return;
    this.api.call('deskRow', { id }).subscribe({
      next: (row) =>
        this.rows.update((rows) =>
          known ? rows!.map((one) => (one.id === id ? row : one)) : [...(rows ?? []).filter((one) => one.id !== id), row],
        ),
      error: () => this.rows.update((rows) => rows?.filter((row) => row.id !== id) ?? null),
    });
  }

  protected load(after: string | null = null): void {
    const query: Record<string, string> = {};
    if (after) query['after'] = after;
    if (this.find()) query['find'] = this.find();
    if (this.asideShown()) query['state'] = 'aside';
    this.api.call('desk', {}, undefined, query).subscribe({
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

  protected showAside(shown: boolean): void {
    this.asideShown.set(shown);
    this.rows.set(null);
    this.load();
  }

  protected dismiss(id: string): void {
    this.api.call('dismiss', { id }).subscribe(() => this.stale.next());
  }

  protected act(id: string, what: 'setAside' | 'bringBack' | 'deleteMaster'): void {
    this.deleting.set(null);
    this.api.call(what, { id }).subscribe({
      next: () => {
        this.rows.update((rows) => rows?.filter((row) => row.id !== id) ?? null);
        this.stale.next();
        if (what !== 'setAside' && !this.rows()?.length) this.showAside(false);
      },
      error: (error: Error) => this.problem.set(error.message),
    });
  }

  protected countsOf(copies: readonly CopyView[]): { verdict: (typeof VERDICTS)[number]; count: number }[] {
    return VERDICTS.map((verdict) => ({
      verdict,
      count: copies.filter((copy) => copy.verdict === verdict).length,
    })).filter(({ count }) => count);
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
    if (picker.files?.[0]) this.receive(picker.files[0]);
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
    const file = event.dataTransfer?.files[0];
    if (file) this.receive(file);
  }

  /** What we know is named, with the way to its master; what we do not know becomes a master. */
  private receive(file: File): void {
    this.begin(file);
    this.api.send('identify', file).subscribe({
      next: (found) => {
        if (found.kind === 'other') return this.look(file);
        this.busy.set('');
        this.identified.set({ ...found, file });
      },
      error: (error: Error) => this.failed(file, error),
    });
  }

  /** What says little of itself is shown as it would be read, to be confirmed; all else comes in as it is. */
  protected look(file: File, wishes: Readonly<Record<string, string>> = {}): void {
    this.busy.set(file.name);
    this.api.send('look', file, '', wishes).subscribe({
      next: ({ look }) => {
        if (!look) return this.bringIn(file);
        this.busy.set('');
        this.looked.set({ ...look, file });
      },
      error: (error: Error) => this.failed(file, error),
    });
  }

  protected decide(looked: Looked, name: string, value: string): void {
    this.look(looked.file, { ...wishesOf(looked), [name]: value });
  }

  protected bringInAs(looked: Looked): void {
    this.bringIn(looked.file, wishesOf(looked));
  }

  /** @param wishes of parts that a master can't hold, and how its cells are read */
  protected bringIn(file: File, wishes: Wishes = {}): void {
    this.begin(file);
    this.api.send('bringIn', file, '', wishes).subscribe({
      next: (brought) => {
        this.busy.set('');
        this.brought.set({ ...brought, file, ppi: Number(wishes['ppi'] ?? 300) });
        this.load();
      },
      error: (error: Error) => this.failed(file, error),
    });
  }

  private begin(file: File): void {
    this.busy.set(file.name);
    this.problem.set('');
    this.brought.set(null);
    this.looked.set(null);
    this.identified.set(null);
  }

  private failed(file: File, error: Error): void {
    this.busy.set('');
    this.problem.set(`${file.name}: ${error.message}`);
  }
}
