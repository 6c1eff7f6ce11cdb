// Longer than most: one protocol, whose acts share one state.
import type { DraftView } from '@inkwell-twin/api';
import {
  type Clash,
  type Command,
  type Master,
  type Step,
  applyPatches,
  changesBetween,
  journalHash,
  journalHashes,
  rebaseSteps,
  stepOf,
} from '@inkwell-twin/core/web';
import type { DraftAct, DraftServer, Outbox, Resting, There, Trouble } from './draft-acts';
import { applied, commonLength, withUnsent } from './unsent';

export type Saving = 'kept' | 'keeping' | 'away' | 'refused' | 'meeting';

/** Two sides that changed the same, waiting for someone to choose. */
export interface Meeting {
  readonly clashes: readonly Clash[];
  /** What the sides are called, where they are not one's own and somebody else's. */
  readonly sides?: Readonly<Record<'mine' | 'theirs', string>>;
  /** Goes on with what was chosen, by the clash's key. */
  readonly settle: (choices: ReadonlyMap<string, 'mine' | 'theirs'>) => void;
}

const PAUSES = [400, 800, 1600, 3000, 5000];

/** Steps and patches that are sent in one go: what is more goes in several, so that nobody else waits for all of it. */
const [MOST_STEPS, MOST_PATCHES] = [100, 10_000];

interface Waiting {
  readonly act: DraftAct;
  /** Resolves once the act is in the browser's own store, with what forgets it there. */
  readonly kept: Promise<() => Promise<void>>;
}

/**
 * One person's draft of one master, as it is in this window, and the way of every act to the server: in order, again when the
 * server was away, and carried over onto what is there when it does not fit. Nothing is dropped before it was acknowledged.
 */
export class DraftJournal {
  /** Of the master: what was done in another one builds on nothing that is here. */
  life = '';
  base = 0;
  /** The document at the base. */
  head: Master | null = null;
  document: Master | null = null;
  steps: readonly Step[] = [];
  position = 0;
  saving: Saving = 'kept';
  problem = '';
  meeting: Meeting | null = null;
  /** What was kept from earlier and waits for a decision. */
  offered: {
    readonly steps: readonly Step[];
    readonly position: number;
    readonly updatedAt: string;
    readonly unsent: number;
  } | null = null;

  /**
   * Makes a step of what is being typed and is none yet. Asked before anything of others comes in: words that are made a step
   * after it would take back whatever else changed there.
   */
  unfinished: () => void = () => undefined;

  private hashes: string[] = [];
  /** How many steps the server has acknowledged, as far as this window knows. */
  private acknowledged = 0;
  private waiting: Waiting[] = [];
  private working: Promise<void> = Promise.resolve();
  private isWorking = false;
  private isFollowing = false;
  private followsAgain = false;
  private there: DraftView | null = null;
  private forgetOffered: () => Promise<void> = () => Promise.resolve();

  constructor(
    private readonly server: DraftServer,
    private readonly outbox: Outbox,
    private readonly troubleOf: (error: unknown) => Trouble,
    private readonly changed: () => void,
    private readonly pause: (ms: number) => Promise<void> = (ms) => new Promise((done) => setTimeout(done, ms)),
  ) {}

  get hash(): string {
    return this.hashes[this.position]!;
  }

  /**
   * Opens on what the server has and what an earlier window left unsent.
   * @param left acts that were never acknowledged, oldest first
   */
  open(
    { life, base, document, draft }: There,
    left: readonly DraftAct[] = [],
    forget: () => Promise<void> = () => Promise.resolve(),
  ): void {
    this.start({ life, base, document }, [], 0);
    this.saving = 'kept';
    this.problem = '';
    this.meeting = null;
    this.forgetOffered = forget;
    const whole = withUnsent(life, base, document, draft, left);
    this.offered = whole.steps.length ? { ...whole, updatedAt: draft?.updatedAt ?? '' } : null;
    this.there = draft;
    if (!whole.steps.length && left.length) void forget();
    // Where all of it was undone there is nothing to decide: it can be redone.
    if (this.offered?.position === 0) return this.resume();
    this.changed();
  }

  /** Takes up what was kept, and sends what of it the server does not have yet. */
  resume(): void {
    const { offered, there } = this;
    if (!offered) return;
    this.offered = null;
    this.start(this.resting, offered.steps, offered.position);
    const common = commonLength(this.hashes, journalHashes(this.life, this.base, (there?.steps ?? []) as Step[]));
    this.acknowledged = Math.min(common, there?.position ?? 0);
    if (offered.unsent) this.sendRest(this.acknowledged);
    const { forgetOffered } = this;
    void this.settled().then(() => (this.saving === 'kept' ? forgetOffered() : undefined));
    this.changed();
  }

  /** Forgets what was kept, and what is here. */
  discard(): Promise<void> {
    this.offered = null;
    for (const { kept } of this.waiting) void kept.then((forget) => forget());
    this.waiting = [];
    this.start(this.resting, [], 0);
    this.saving = 'kept';
    this.changed();
    return this.forgetOffered();
  }

  /**
   * Takes up what another window of the same person did meanwhile. What is on its way from here is not touched: the server
   * refuses what doesn't fit, and then both are brought together.
   */
  async follow(): Promise<void> {
    if (this.isFollowing) return void (this.followsAgain = true);
    this.isFollowing = true;
    try {
      do {
        this.followsAgain = false;
        const before = this.hash;
        const there = await this.server.look();
        this.unfinished();
        if (this.waiting.length || this.isWorking || this.meeting || this.hash !== before) continue;
        if (this.offered) {
          this.open(there, [], this.forgetOffered);
          continue;
        }
        this.start(there, (there.draft?.steps ?? []) as Step[], there.draft?.position ?? 0);
        this.changed();
      } while (this.followsAgain);
    } catch (error) {
      // A server that is away tells again when it is back.
      if (this.troubleOf(error) === 'refused') this.refuse(error);
    } finally {
      this.isFollowing = false;
    }
  }

  private get resting(): Resting {
    return { life: this.life, base: this.base, document: this.head! };
  }

  private start({ life, base, document: head }: Resting, steps: readonly Step[], position: number): void {
    this.life = life;
    this.base = base;
    this.head = head;
    this.steps = steps;
    this.hashes = journalHashes(this.life, base, steps);
    this.position = position;
    this.document = applied(head, steps.slice(0, position));
    this.acknowledged = position;
  }

  /** Does a command: the document changes at once, the step goes on its way. @throws what the patches throw */
  do({ label, patches }: Command): void {
    if (!this.document || !patches.length || this.offered || this.meeting) return;
    const { master, step } = stepOf(this.document, label, patches);
    const { position, base, hash } = this;
    this.document = master;
    this.steps = [...this.steps.slice(0, position), step];
    this.hashes = [...this.hashes.slice(0, position + 1), journalHash(hash, step)];
    this.position = position + 1;
    this.problem = '';
    this.send({ kind: 'add', base, position, hash, steps: [step] });
  }

  undo(): void {
    if (this.position > 0) this.moveTo(this.position - 1, this.steps[this.position - 1]!.inverse);
  }

  redo(): void {
    if (this.position < this.steps.length) this.moveTo(this.position + 1, this.steps[this.position]!.forward);
  }

  private moveTo(position: number, patches: Step['forward']): void {
    if (this.meeting) return;
    this.document = applyPatches(this.document!, patches).master;
    this.position = position;
    this.send({ kind: 'move', position, hash: this.hashes[position]! });
  }

  private send(act: DraftAct): void {
    // In the browser's own store first, in the same moment in which it shows.
    const kept = this.outbox.keep(act).catch(() => () => Promise.resolve());
    this.waiting.push({ act, kept });
    this.saving = this.saving === 'away' ? 'away' : 'keeping';
    this.changed();
    this.begin();
  }

  /** Resolves when nothing is on its way any more. */
  async settled(): Promise<void> {
    while (this.isWorking) await this.working;
  }

  private begin(): void {
    if (this.isWorking) return;
    this.isWorking = true;
    this.working = this.work();
  }

  private async work(): Promise<void> {
    await Promise.resolve();
    try {
      for (let tries = 0; this.waiting.length;) {
        const { act, kept } = this.waiting[0]!;
        try {
          await this.server.send(act);
          tries = 0;
          this.acknowledge(act, kept);
        } catch (error) {
          const trouble = this.troubleOf(error);
          if (trouble === 'refused') return this.refuse(error);
          if (trouble === 'conflict' && !(await this.meet())) return;
          if (trouble === 'away') {
            this.saving = 'away';
            this.changed();
            await this.pause(PAUSES[Math.min(tries++, PAUSES.length - 1)]!);
          }
        }
      }
    } finally {
      // In the same moment in which nothing was left to send, so that whatever comes now begins anew.
      this.isWorking = false;
      // Someone may have chosen in the very moment in which this ended.
      if (this.waiting.length && !this.meeting) this.begin();
    }
  }

  private acknowledge(act: DraftAct, kept: Waiting['kept']): void {
    if (act.kind === 'add') this.acknowledged = act.position + act.steps.length;
    if (this.waiting[0]?.act === act) this.waiting.shift();
    void kept.then((forget) => forget());
    this.saving = this.waiting.length ? 'keeping' : 'kept';
    this.changed();
  }

  private refuse(error: unknown): void {
    this.saving = 'refused';
    this.problem = (error as Error).message;
    this.waiting = [];
    this.changed();
  }

  /**
   * Carries what is not acknowledged over onto what is there instead.
   * @returns whether the way is free again; not where someone has to choose first
   */
  private async meet(): Promise<boolean> {
    this.saving = 'meeting';
    this.changed();
    let there: There;
    try {
      there = await this.server.look();
    } catch (error) {
      if (this.troubleOf(error) === 'refused') {
        this.refuse(error);
        return false;
      }
      await this.pause(PAUSES[1]!);
      return true;
    }
    this.unfinished();
    const { draft } = there;
    // From here on without a pause, so that what was done while we asked is carried over too.
    const sameBase = draft?.base === this.base && there.life === this.life;
    const theirs = sameBase ? (draft.steps.slice(0, draft.position) as Step[]) : [];
    const common = sameBase
      ? Math.min(commonLength(this.hashes, journalHashes(this.life, this.base, theirs)), this.position)
      : Math.min(this.acknowledged, this.position);
    const before = applied(this.head!, this.steps.slice(0, common));
    const after = sameBase ? applied(this.head!, theirs) : there.document;
    return this.bringTogether(before, after, this.steps.slice(common, this.position), (rebased) => {
      this.start(sameBase ? this.resting : there, [...theirs, ...rebased], theirs.length + rebased.length);
      this.acknowledged = theirs.length;
      this.replaceWaiting(rebased.length ? this.restFrom(theirs.length) : []);
    });
  }

  /** Carries the whole draft over onto the head, after somebody else updated. Puts it in the place of the one that is there. */
  async carryOver(): Promise<void> {
    let newest: Resting;
    do {
      await this.settled();
      newest = await this.server.newest();
      // Where someone has to choose first, nothing can be done until then.
      this.unfinished();
    } while (this.isWorking);
    if (newest.base === this.base && newest.life === this.life) return;
    const mine = this.steps.slice(0, this.position);
    const replaces = this.hash;
    await new Promise<void>((done, fail) => {
      this.bringTogether(this.head!, newest.document, mine, (rebased) => {
        this.isWorking = true;
        this.working = this.putOver(newest, replaces, mine.length, rebased).then(done, fail);
      });
      // Where someone has to choose first, that is all for now.
      if (this.meeting) done();
    });
  }

  /** Puts a draft that was carried over in the place of the one that is there. What is done meanwhile waits, and is carried over after it. */
  private async putOver(newest: Resting, replaces: string, count: number, rebased: readonly Step[]): Promise<void> {
    const before = this.document!;
    try {
      await this.server.replace({ base: newest.base, replaces, steps: rebased });
      this.unfinished();
      const later = this.steps.slice(count, this.position);
      this.bringTogether(before, applied(newest.document, rebased), later, (carried) => {
        this.start(newest, [...rebased, ...carried], rebased.length + carried.length);
        this.acknowledged = rebased.length;
        this.replaceWaiting(this.restFrom(rebased.length));
      });
    } finally {
      this.isWorking = false;
      if (this.waiting.length && !this.meeting) this.begin();
    }
  }

  /**
   * Takes in what came about elsewhere from an earlier state of this master, as one step: what both changed is settled first.
   * @param before the state that both began from
   * @returns once it is done
   */
  takeIn(before: Master, elsewhere: Master, label: string): Promise<void> {
    this.unfinished();
    const { step } = stepOf(before, label, changesBetween(before, elsewhere));
    return new Promise((done) => {
      this.bringTogether(
        before,
        this.document!,
        [step],
        (steps) => {
          for (const { forward } of steps) this.do({ label, patches: forward });
          done();
        },
        { mine: 'In the file', theirs: 'Here' },
      );
    });
  }

  /** @returns false where someone has to choose first */
  private bringTogether(
    before: Master,
    after: Master,
    mine: readonly Step[],
    go: (rebased: readonly Step[]) => void,
    sides?: Meeting['sides'],
  ): boolean {
    const { steps, clashes } = rebaseSteps(before, after, mine);
    if (!clashes.length) {
      go(steps);
      return true;
    }
    this.meeting = {
      clashes,
      ...(sides ? { sides } : {}),
      settle: (choices) => {
        const decided = new Map(clashes.map(({ key }) => [key, choices.get(key) ?? 'theirs'] as const));
        this.meeting = null;
        go(rebaseSteps(before, after, mine, decided).steps);
        this.changed();
        this.begin();
      },
    };
    this.changed();
    return false;
  }

  private restFrom(position: number): DraftAct[] {
    const acts: DraftAct[] = [];
    for (let at = position; at < this.position;) {
      let [to, patches] = [at, 0];
      while (to < this.position && to - at < MOST_STEPS && patches < MOST_PATCHES) {
        const { forward, inverse } = this.steps[to++]!;
        patches += forward.length + inverse.length;
      }
      acts.push({ kind: 'add', base: this.base, position: at, hash: this.hashes[at]!, steps: this.steps.slice(at, to) });
      at = to;
    }
    return acts;
  }

  private sendRest(position: number): void {
    this.replaceWaiting(this.restFrom(position));
    this.begin();
  }

  /** Other acts in the place of those that waited: these are kept before those are forgotten. */
  private replaceWaiting(acts: readonly DraftAct[]): void {
    const old = this.waiting;
    this.waiting = acts.map((act) => ({ act, kept: this.outbox.keep(act).catch(() => () => Promise.resolve()) }));
    void Promise.all(this.waiting.map(({ kept }) => kept)).then(() => {
      for (const { kept } of old) void kept.then((forget) => forget());
    });
    this.saving = acts.length ? 'keeping' : 'kept';
    this.changed();
  }
}
