import { Injectable, computed, inject, signal } from '@angular/core';
import type { MasterView } from '@inkwell-twin/api';
import { type Command, type Master, type Step, applyPatches, stepOf } from '@inkwell-twin/core/web';
import { Observable, Subject, catchError, concatMap, defer, retry, throwError, timer } from 'rxjs';
import { Api, ApiError } from './api.service';

type Saving = 'kept' | 'keeping' | 'away' | 'refused';

/**
 * The draft of the open master: the document as it is now, the list of steps for undo and redo, and the journal that carries
 * every step to the server, in order, as it is made.
 */
@Injectable()
export class DraftSession {
  private readonly api = inject(Api);
  private readonly journal = new Subject<() => Observable<unknown>>();

  readonly id = signal('');
  readonly base = signal(0);
  private readonly head = signal<Master | null>(null);
  readonly document = signal<Master | null>(null);
  readonly steps = signal<readonly Step[]>([]);
  readonly position = signal(0);
  /** A draft that the server kept from earlier, waiting for a decision. */
  readonly offered = signal<{ steps: readonly Step[]; position: number; updatedAt: string } | null>(null);
  readonly saving = signal<Saving>('kept');
  readonly problem = signal('');

  readonly changes = computed(() => this.position());
  readonly canUndo = computed(() => this.position() > 0);
  readonly canRedo = computed(() => this.position() < this.steps().length);

  constructor() {
    this.journal
      .pipe(
        concatMap((send) => {
          this.saving.set('keeping');
          return defer(send).pipe(
            retry({
              delay: (error: unknown, count) => {
                if (!(error instanceof ApiError) || !error.offline) return throwError(() => error);
                this.saving.set('away');
                return timer(Math.min(4000, 400 * count));
              },
            }),
            catchError((error: unknown) => {
              this.saving.set('refused');
              this.problem.set((error as Error).message);
              return [];
            }),
          );
        }),
      )
      .subscribe(() => this.saving.set('kept'));
  }

  open(view: MasterView): void {
    const master = view.document as unknown as Master;
    this.id.set(view.id);
    this.base.set(view.head);
    this.head.set(master);
    this.document.set(master);
    this.steps.set([]);
    this.position.set(0);
    this.problem.set('');
    this.saving.set('kept');
    const { draft } = view;
    this.offered.set(
      draft && draft.steps.length ? { steps: draft.steps as Step[], position: draft.position, updatedAt: draft.updatedAt } : null,
    );
  }

  /** Takes up the draft that was kept. */
  resume(): void {
    const draft = this.offered();
    const head = this.head();
    if (!draft || !head) return;
    this.document.set(
      applyPatches(
        head,
        draft.steps.slice(0, draft.position).flatMap(({ forward }) => forward),
      ).master,
    );
    this.steps.set(draft.steps);
    this.position.set(draft.position);
    this.offered.set(null);
  }

  discard(): Observable<unknown> {
    this.offered.set(null);
    this.document.set(this.head());
    this.steps.set([]);
    this.position.set(0);
    return this.api.call('discardDraft', { id: this.id() });
  }

  /** Does a command: the document changes at once, the step goes into the journal. */
  do(command: Command): void {
    const now = this.document();
    if (!now || !command.patches.length || this.offered()) return;
    try {
      const { master, step } = stepOf(now, command.label, command.patches);
      const position = this.position();
      this.document.set(master);
      this.steps.set([...this.steps().slice(0, position), step]);
      this.position.set(position + 1);
      this.problem.set('');
      const body = { base: this.base(), position, steps: [step as never] };
      this.journal.next(() => this.api.call('addSteps', { id: this.id() }, body));
    } catch (error) {
      this.problem.set((error as Error).message);
    }
  }

  undo(): void {
    if (this.canUndo()) this.moveTo(this.position() - 1, this.steps()[this.position() - 1]!.inverse);
  }

  redo(): void {
    if (this.canRedo()) this.moveTo(this.position() + 1, this.steps()[this.position()]!.forward);
  }

  private moveTo(position: number, patches: Step['forward']): void {
    this.document.set(applyPatches(this.document()!, patches).master);
    this.position.set(position);
    this.journal.next(() => this.api.call('moveDraft', { id: this.id() }, { position }));
  }

  update(message: string, author: string): Observable<{ rev: number }> {
    return this.api.call('update', { id: this.id() }, { base: this.base(), position: this.position(), message, author });
  }
}
