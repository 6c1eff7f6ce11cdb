import { ChangeDetectionStrategy, Component, DestroyRef, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import type { AnswerOf, CopyView, DeskRow, Identified } from '@inkwell-twin/api';
import { filter, throttleTime } from 'rxjs';
import { Api } from '../services/api.service';
import { ServerEvents } from '../services/events.service';
import { Thread } from '../shared/thread';
import { TopBar } from '../shared/top-bar';
import { VerdictMark } from '../shared/verdict-mark';
import { counted } from '../shared/words';
import { needsOf } from './needs';
import { NewMaster } from './new-master';

type Brought = AnswerOf<'bringIn'>;
type Known = Identified & { readonly file: File };
const VERDICTS = ['in step', 'accepted', 'behind', 'touched', 'crossed', 'gone', 'unreadable', 'not checked'] as const;

/** The home view: all masters and how their copies stand. */
@Component({
  selector: 'twin-desk',
  imports: [RouterLink, Thread, TopBar, VerdictMark, NewMaster],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './desk.html',
  styleUrl: './desk.css',
})
export class Desk {
  private readonly api = inject(Api);
  private readonly router = inject(Router);

  protected readonly rows = signal<readonly DeskRow[] | null>(null);
  protected readonly damaged = signal<AnswerOf<'desk'>['damaged']>([]);
  protected readonly shelf = signal('');
  protected readonly problem = signal('');
  protected readonly adding = signal(false);
  protected readonly busy = signal('');
  protected readonly brought = signal<Brought | null>(null);
  protected readonly identified = signal<Known | null>(null);
  protected readonly dragging = signal(false);
  protected readonly needs = computed(() => needsOf(this.rows() ?? []));
  protected readonly counted = counted;

  constructor() {
    this.load();
    const events = inject(ServerEvents);
    events.all
      .pipe(
        filter(({ kind }) => kind !== 'job'),
        throttleTime(250, undefined, { leading: true, trailing: true }),
        takeUntilDestroyed(inject(DestroyRef)),
      )
      .subscribe(() => this.load());
  }

  protected load(): void {
    this.api.call('desk').subscribe({
      next: ({ masters, damaged, shelf }) => {
        this.rows.set(masters);
        this.damaged.set(damaged);
        this.shelf.set(shelf);
        this.problem.set('');
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
        if (found.kind === 'other') return this.bringIn(file);
        this.busy.set('');
        this.identified.set({ ...found, file });
      },
      error: (error: Error) => this.failed(file, error),
    });
  }

  protected bringIn(file: File): void {
    this.begin(file);
    this.api.send('bringIn', file).subscribe({
      next: (brought) => {
        this.busy.set('');
        this.brought.set(brought);
        this.load();
      },
      error: (error: Error) => this.failed(file, error),
    });
  }

  private begin(file: File): void {
    this.busy.set(file.name);
    this.problem.set('');
    this.brought.set(null);
    this.identified.set(null);
  }

  private failed(file: File, error: Error): void {
    this.busy.set('');
    this.problem.set(`${file.name}: ${error.message}`);
  }
}
