import { Injectable, computed, inject, signal } from '@angular/core';
import { type Command, type Master, type Patch, type Step, applyPatches, changesBetween } from '@inkwell-twin/core/web';
import { firstValueFrom } from 'rxjs';
import { Api, ApiError } from './api.service';
import type { DraftServer, Resting, There } from './draft-acts';
import { DraftJournal, type Meeting, type Saving } from './draft-journal';
import { BrowserOutbox } from './outbox';
import { Person } from './person';
import { redraws } from './redraw';

/** The draft of the open master as signals: the document as it is now, its steps, and how far they are kept. */
@Injectable()
export class DraftSession {
  private readonly api = inject(Api);
  private readonly person = inject(Person);
  private readonly redraw = redraws();
  private journal: DraftJournal | null = null;
  /** The newest document that came from the server, so that only what changed since has to come. */
  private known: Resting | null = null;

  /** The master that was asked for last. */
  private opening = '';

  readonly id = signal('');
  /** Of the master: brought in again, it is another one. */
  readonly life = signal('');
  readonly base = signal(0);
  /** The document at the base. */
  readonly head = signal<Master | null>(null);
  readonly document = signal<Master | null>(null);
  readonly steps = signal<readonly Step[]>([]);
  readonly position = signal(0);
  readonly offered = signal<DraftJournal['offered']>(null);
  readonly saving = signal<Saving>('kept');
  readonly meeting = signal<Meeting | null>(null);
  readonly problem = signal('');
  /** Makes a step of words that are being typed; of whoever shows them. */
  unfinished: () => void = () => undefined;

  readonly changes = computed(() => this.position());
  // While changes are on their way too: what was typed last starts off with the very click on the button, which waits for it.
  readonly mayUpdate = computed(() => !this.meeting() && (this.saving() === 'kept' || this.saving() === 'keeping'));
  /** The revision that the last step went back to, where it did nothing else; 0 for another step or none. */
  private readonly backAt = computed(() => backTo(this.steps()[this.position() - 1]));
  /** The revision whose changes would be taken back next, where none of one's own are left to be; 0 for none. */
  readonly takesBack = computed(() => {
    const at = this.backAt() || (this.position() === 0 ? this.base() : 0);
    return at > 1 && !this.offered() && !this.meeting() && !this.walking() ? at : 0;
  });
  readonly canUndo = computed(() => ((this.position() > 0 && !this.backAt()) || this.takesBack() > 0) && !this.meeting());
  readonly canRedo = computed(() => {
    const next = this.steps()[this.position()];
    return !this.meeting() && (this.walking() || this.backAt() > 0 || (next !== undefined && !backTo(next)));
  });
  /** The undo whose revision is being fetched; null where none is. */
  private readonly walk = signal<object | null>(null);
  private readonly walking = computed(() => this.walk() !== null);

  /** Opens a master: its document, one's draft, and what an earlier window left unsent. */
  async open(id: string): Promise<void> {
    this.opening = id;
    const [same, length, position] = [this.id() === id, this.steps().length, this.position()];
    const server = this.serverOf(id);
    const outbox = new BrowserOutbox(this.person.id, id);
    // Where the browser gives no store (a private window, a full disk), the server alone keeps the draft.
    const left = await outbox
      .open()
      .then(() => outbox.left())
      .catch(() => ({ acts: [], forget: () => Promise.resolve() }));
    const there = await server.look();
    // One went on to another master meanwhile.
    if (this.opening !== id) return;
    if (same) this.unfinished();
    // What was changed while this looked stays; that it rests on an older revision is told and settled like any other.
    if (same && this.id() === id && (this.steps().length !== length || this.position() !== position)) return;
    const journal = new DraftJournal(server, outbox, troubleOf, () => this.show(journal));
    journal.unfinished = () => journal === this.journal && this.unfinished();
    this.journal = journal;
    this.id.set(id);
    journal.open(there, left.acts, left.forget);
  }

  private serverOf(id: string): DraftServer {
    const { api } = this;
    const at = async (life: string, rev: number): Promise<Resting> => {
      const document = (await this.later(id, life, rev)) ?? (await whole(life, rev));
      const resting = { life, base: rev, document };
      if (this.known?.life !== life || this.known.base < rev) this.known = resting;
      return resting;
    };
    const whole = async (life: string, rev: number) =>
      (await firstValueFrom(api.call('revision', { id, rev }, undefined, { life }))).document as Master;
    const master = () => firstValueFrom(api.call('master', { id }));
    const newest = async () => {
      const { life, head } = await master();
      return at(life, head);
    };
    return {
      send: (act) =>
        act.kind === 'add'
          ? firstValueFrom(
              api.call('addSteps', { id }, { base: act.base, position: act.position, hash: act.hash, steps: act.steps as never }),
            )
          : firstValueFrom(api.call('moveDraft', { id }, { position: act.position, hash: act.hash })),
      replace: ({ base, replaces, steps }) =>
        firstValueFrom(api.call('replaceDraft', { id }, { base, replaces, steps: steps as never })),
      look: async (): Promise<There> => {
        const [{ draft }, { life, head }] = await Promise.all([firstValueFrom(api.call('draft', { id })), master()]);
        // A draft rests on the revision that it was begun on; its steps can be read on no other.
        return { ...(await at(life, draft?.base ?? head)), draft };
      },
      newest,
    };
  }

  /** The document at a revision from what is here already and what changed since; null where it has to come whole. */
  private async later(id: string, life: string, rev: number): Promise<Master | null> {
    const { known } = this;
    if (!known || known.life !== life || known.base > rev) return null;
    if (known.base === rev) return known.document;
    const { patches } = await firstValueFrom(this.api.call('changes', { id, from: known.base, to: rev }, undefined, { life }));
    try {
      return patches && applyPatches(known.document, patches as Patch[]).master;
    } catch {
      // What is here is not what the server has any more, as after a backup was put back.
      return null;
    }
  }

  private show(journal: DraftJournal): void {
    if (journal !== this.journal) return;
    this.life.set(journal.life);
    this.base.set(journal.base);
    this.head.set(journal.head);
    this.document.set(journal.document);
    this.steps.set(journal.steps);
    this.position.set(journal.position);
    this.offered.set(journal.offered);
    this.saving.set(journal.saving);
    this.meeting.set(journal.meeting);
    this.problem.set(journal.problem);
  }

  /** Takes up the draft that was kept. */
  resume(): void {
    this.journal?.resume();
  }

  /** Takes in what another program made of this master in its file on the shelf. @returns which file that was */
  async takeOutside(): Promise<string> {
    const [id, journal] = [this.id(), this.journal];
    const { base, sha256, document } = await firstValueFrom(this.api.call('outside', { id }));
    const before = (await firstValueFrom(this.api.call('revision', { id, rev: base }))).document as Master;
    await journal?.takeIn(before, document as Master, 'Taken in from the file on the shelf');
    return sha256;
  }

  /** Another window of the same person changed this draft. */
  follow(): void {
    void this.journal?.follow();
  }

  async discard(): Promise<void> {
    const forgotten = this.journal?.discard();
    await firstValueFrom(this.api.call('discardDraft', { id: this.id() }));
    await forgotten;
  }

  do(command: Command): void {
    try {
      this.journal?.do(command);
    } catch (error) {
      this.problem.set((error as Error).message);
    }
    this.redraw();
  }

  /** Takes back the last step; with none left, the last revision, and then the one before: as a step that can be redone. */
  undo(): void {
    const rev = this.takesBack();
    if (rev) return void this.backTo(rev - 1);
    if (this.canUndo()) this.journal?.undo();
    this.redraw();
  }

  private async backTo(rev: number): Promise<void> {
    const [id, journal, before] = [this.id(), this.journal, this.document()];
    const walk = {};
    this.walk.set(walk);
    try {
      const { document } = await firstValueFrom(this.api.call('revision', { id, rev }));
      this.unfinished();
      // What was changed while this looked comes first.
      if (this.walk() !== walk || journal !== this.journal || before !== this.document() || !before) return;
      const patches = changesBetween(before, document as Master);
      this.do({ label: backLabel(rev), patches });
    } catch (error) {
      this.problem.set((error as Error).message);
    } finally {
      if (this.walk() === walk) this.walk.set(null);
    }
  }

  redo(): void {
    if (!this.canRedo()) return;
    // What is still on its way is taken back before it came.
    if (this.walking()) return this.walk.set(null);
    // Forward again from an earlier revision is to take that step back.
    if (this.backAt()) this.journal?.undo();
    else this.journal?.redo();
    this.redraw();
  }

  /** Carries one's changes over onto what somebody else made of the master. */
  async carryOver(): Promise<void> {
    await this.journal?.carryOver();
  }

  /**
   * Makes the next revision of all that was changed, once what is on its way is with the server.
   * @returns its number
   * @throws where no master is open, or the changes could not be sent
   */
  async update(message: string): Promise<number> {
    const { journal } = this;
    if (!journal) throw new Error('No master is open.');
    await journal.settled();
    if (journal.saving !== 'kept') throw new Error(journal.problem || 'Not updated: your changes could not be sent.');
    const body = { base: journal.base, position: journal.position, hash: journal.hash, message };
    return (await firstValueFrom(this.api.call('update', { id: this.id() }, body))).rev;
  }
}

/** What a step is called that goes back to a revision; how it is known again. */
const backLabel = (rev: number): string => `Back to r${rev}`;
const backTo = (step: Step | undefined): number => Number(/^Back to r(\d+)$/.exec(step?.label ?? '')?.[1] ?? 0);

const troubleOf = (error: unknown) => {
  if (!(error instanceof ApiError)) return 'refused';
  if (error.offline) return 'away';
  return error.code === 'conflict' ? 'conflict' : 'refused';
};
