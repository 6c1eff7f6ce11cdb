import { Injectable, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Subject, catchError, EMPTY, switchMap, throttleTime } from 'rxjs';
import type { EventView, WorkView } from '@inkwell-twin/api';
import { Api } from './api.service';
import { ServerEvents } from './events.service';

/** Milliseconds between two looks at what is under way. */
const PAUSE = 1_000;

/** How far a job is, as the server told last. */
interface Progress {
  readonly done: number;
  readonly total: number;
  /** What it is at: the file that is being checked. */
  readonly message: string;
}

/** Jobs that are under way or wait, of everybody, with how far they are. */
@Injectable({ providedIn: 'root' })
export class AtWork {
  private readonly api = inject(Api);
  private readonly asked = new Subject<void>();
  readonly jobs = signal<readonly WorkView[]>([]);
  /** How many there are in all: not all of them are in the list. */
  readonly total = signal(0);
  /** How far the demo is, while it is being loaded. */
  readonly demo = signal<{ readonly done: number; readonly total: number } | null>(null);
  readonly progress = signal<ReadonlyMap<string, Progress>>(new Map());
  /** The first that is under way, else the first that waits. */
  readonly first = computed(() => this.jobs()[0]);

  constructor() {
    this.asked
      .pipe(
        throttleTime(PAUSE, undefined, { leading: true, trailing: true }),
        switchMap(() => this.api.call('work').pipe(catchError(() => EMPTY))),
        takeUntilDestroyed(),
      )
      .subscribe(({ jobs, total, demo }) => {
        this.jobs.set(jobs);
        this.demo.set(demo);
        this.total.set(total);
        const known = new Set(jobs.map(({ job }) => job));
        this.progress.update((all) => new Map([...all].filter(([id]) => known.has(id))));
      });
    inject(ServerEvents)
      .all.pipe(takeUntilDestroyed())
      .subscribe((event) => this.told(event));
    this.asked.next();
  }

  private told(event: EventView): void {
    if (event.kind === 'present' || event.kind === 'draft') return;
    if (event.kind === 'job') {
      const { id, done, total, message } = event;
      this.progress.update((all) => new Map(all).set(id, { done, total, message }));
    }
    this.asked.next();
  }

  /** How much of a job is done, percent; nothing where that can't be told. */
  percent(job: string): number | undefined {
    const { done, total } = this.progress().get(job) ?? { done: 0, total: 0 };
    return total > 1 ? Math.round((100 * done) / total) : undefined;
  }

  /** @param fail told why it could not be stopped */
  stop(job: string, fail: (message: string) => void): void {
    this.api.call('cancel', { id: job }).subscribe({
      next: () => this.asked.next(),
      error: (error: Error) => fail(error.message),
    });
  }
}
