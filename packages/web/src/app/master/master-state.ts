import { DestroyRef, Injectable, computed, effect, inject, signal, untracked } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { firstValueFrom } from 'rxjs';
import { type EventView, type MasterView, type PresentView, publicPerson } from '@inkwell-twin/api';
import { Api, ApiError } from '../services/api.service';
import { DraftSession } from '../services/draft-session';
import { ServerEvents } from '../services/events.service';
import { Impact } from '../services/impact.service';
import { Person } from '../services/person';
import { TAB } from '../services/tab';
import { Latest } from '../shared/latest';

/** How long after a server that is away is asked again, ms. */
const AGAIN = 1500;

/** What is told once a master comes. */
interface Opening {
  /** Its copies and revisions are here. */
  readonly seen: (view: MasterView) => void;
  /** Its document is here, too. */
  readonly ready: () => void;
}

/** The master that one works on, as the server has it: its copies and revisions, who is there, and what is being done. */
@Injectable()
export class MasterState {
  private readonly api = inject(Api);
  private readonly session = inject(DraftSession);
  private readonly impact = inject(Impact);
  private readonly events = inject(ServerEvents);
  private readonly me = inject(Person);
  private readonly latest = new Latest();
  private gone = false;

  readonly id = signal('');
  readonly view = signal<MasterView | null>(null);
  /** What could not be done, in words. */
  readonly problem = signal('');
  readonly job = signal<(EventView & { kind: 'job' }) | null>(null);
  /** Grows with every answer that may have changed a verdict. */
  readonly stamp = signal(0);
  /** The windows that look at this master now, this one included. */
  readonly present = signal<readonly PresentView[]>([]);
  /** Someone else updated since one's draft was begun. */
  readonly overtaken = computed(() => {
    const [view, { session }] = [this.view(), this];
    return !!view && session.id() === view.id && session.changes() > 0 && this.isBehind(view) && !session.meeting();
  });
  readonly working = computed(() => {
    const job = this.job();
    return job?.state === 'running' ? `${job.label} ${job.message}, ${job.done + 1} of ${job.total}` : '';
  });

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      this.gone = true;
      this.latest.forget();
      this.events.at('');
    });
    effect(() => {
      const head = this.session.head();
      if (!head) return;
      this.impact.document(head);
      untracked(() => this.impact.change(this.session.steps().slice(0, this.session.position())));
    });
    effect(() => this.impact.copies(this.view()?.copies ?? []));
    effect(() => this.impact.change(this.session.steps().slice(0, this.session.position())));
    this.events.all.pipe(takeUntilDestroyed()).subscribe((event) => this.hear(event));
  }

  private hear(event: EventView | { readonly kind: 'again' }): void {
    if (event.kind === 'again') {
      // What happened while nobody listened, to copies and to one's own draft, is looked for.
      this.session.follow();
      return this.refresh();
    }
    if (event.master !== this.id()) return;
    if (event.kind === 'present') return this.present.set(event.tabs);
    if (event.kind === 'draft') return this.draftMoved(event);
    if (event.kind !== 'job') return this.refresh();
    this.job.set(event);
    // A derivation that begins or failed shows in its row.
    if (this.view()?.derivations.some(({ job }) => job === event.id)) return this.refresh();
    if (event.state === 'failed') this.problem.set(event.message);
  }

  /** A draft changed in another window: one's own is followed, and of another's it is told whether there is one. */
  private draftMoved({ person, name, position, tab }: EventView & { kind: 'draft' }): void {
    if (person === publicPerson(this.me.id)) return tab === TAB ? undefined : this.session.follow();
    const view = this.view();
    const known = view?.others.includes(name || 'someone') ?? false;
    if (view && known !== position > 0) this.refresh();
  }

  open(id: string, opening: Opening): void {
    this.id.set(id);
    this.events.at(id);
    // Copies and document come side by side: what is waited for longest is the document.
    const view = firstValueFrom(this.api.call('master', { id })).then((view) => {
      if (this.id() !== id) return;
      this.take(view);
      opening.seen(view);
    });
    Promise.all([view, this.session.open(id)])
      .then(() => this.id() === id && opening.ready())
      .catch((error: Error) => this.failed(id, error, opening));
  }

  /** A server that is away is asked again until it is back or one has gone elsewhere. */
  private failed(id: string, error: Error, opening: Opening): void {
    this.problem.set(error.message);
    if (!(error instanceof ApiError) || !error.offline) return;
    setTimeout(() => {
      if (this.gone || this.id() !== id) return;
      this.problem.set('');
      this.open(id, opening);
    }, AGAIN);
  }

  private take(view: MasterView): void {
    this.view.set(view);
    this.stamp.update((stamp) => stamp + 1);
  }

  /** Fetches copies and revisions again. A newer head is shown at once where there is nothing of one's own; else it is offered. */
  refresh(): void {
    const id = this.id();
    const answer = {
      next: (view: MasterView) => {
        if (id !== this.id()) return;
        this.take(view);
        const { session } = this;
        const untouched = !session.changes() && !session.offered() && session.saving() === 'kept';
        if (session.id() === view.id && this.isBehind(view) && untouched) void this.reopen();
      },
    };
    this.latest.ask(this.api.call('master', { id }), answer, '', id);
  }

  reopen(): Promise<void> {
    return this.session.open(this.id()).catch((error: Error) => this.problem.set(error.message));
  }

  /** Whether what one works on is not what the master is by now. */
  private isBehind({ life, head }: MasterView): boolean {
    return head > this.session.base() || life !== this.session.life();
  }
}
