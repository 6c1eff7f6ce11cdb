import { ChangeDetectionStrategy, Component, DestroyRef, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import type { AnswerOf, CopyView, DeskRow } from '@inkwell-twin/api';
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
  protected readonly shelf = signal('');
  protected readonly problem = signal('');
  protected readonly adding = signal(false);
  protected readonly busy = signal('');
  protected readonly brought = signal<Brought | null>(null);
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
      next: ({ masters, shelf }) => {
        this.rows.set(masters);
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

  protected started(id: string): void {
    void this.router.navigate(['/masters', id]);
  }

  protected pick(event: Event): void {
    const picker = event.target as HTMLInputElement;
    if (picker.files?.[0]) this.bringIn(picker.files[0]);
    picker.value = '';
  }

  protected dropped(event: DragEvent): void {
    event.preventDefault();
    this.dragging.set(false);
    const file = event.dataTransfer?.files[0];
    if (file) this.bringIn(file);
  }

  protected bringIn(file: File): void {
    this.busy.set(file.name);
    this.problem.set('');
    this.brought.set(null);
    this.api.bringIn(file).subscribe({
      next: (brought) => {
        this.busy.set('');
        this.brought.set(brought);
        this.load();
      },
      error: (error: Error) => {
        this.busy.set('');
        this.problem.set(`${file.name}: ${error.message}`);
      },
    });
  }
}
