import { type Master, type Step, journalHash, journalStart, setAttribute, stepOf } from '@inkwell-twin/core';
import { type PartName, RunningWorkshop, pause } from './running';

const KILLS = Number(process.env['INKWELL_KILLS'] ?? 200);
const WRITERS = 4;

/** Numbers that look random and are the same for the same seed (xorshift). */
function dice(seed: number): () => number {
  let state = seed >>> 0 || 1;
  return () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return (state >>> 0) / 2 ** 32;
  };
}

/** What one person did on one master and was told is kept. */
class Writer {
  steps = 0;
  updates = 0;
  readonly recipes = new Map<string, string>();
  private base = 1;
  private journal: Step[] = [];
  private hash = '';
  private now!: Master;
  readonly problems: string[] = [];
  over = false;

  constructor(
    private readonly workshop: RunningWorkshop,
    readonly master: string,
    private readonly person: string,
    private readonly roll: () => number,
  ) {}

  /** A call that is sent again until it is answered one way or the other. */
  private async ask<T>(method: string, path: string, body?: unknown): Promise<{ status: number; body: T }> {
    for (;;) {
      try {
        const answer = await this.workshop.call<T>(method, path, body, this.person);
        if (answer.status !== 503) return answer;
      } catch {
        /* the server is away */
      }
      await pause(100);
    }
  }

  async work(): Promise<void> {
    this.hash = journalStart(this.master, 1);
    this.now = await this.document();
    while (!this.over) {
      const chance = this.roll();
      if (chance < 0.75) await this.step();
      else if (chance < 0.9) await this.update();
      else await this.derive();
      await pause(20);
    }
  }
  private async document(): Promise<Master> {
    return (await this.ask<{ document: Master }>('GET', `/api/masters/${this.master}/revisions/${this.base}`)).body.document;
  }

  private async step(): Promise<void> {
    const { label, patches } = setAttribute(this.now, 'board-1', 'name', `Name ${this.steps}`);
    const { step, master } = stepOf(this.now, label, patches);
    const body = { base: this.base, position: this.journal.length, hash: this.hash, steps: [step] };
    const { status } = await this.ask('POST', `/api/masters/${this.master}/draft/steps`, body);
    if (status !== 200) return void this.problems.push(`a step was answered ${status}`);
    this.steps++;
    this.journal.push(step);
    this.hash = journalHash(this.hash, step);
    this.now = master;
  }

  private async update(): Promise<void> {
    if (!this.journal.length) return;
    const body = { base: this.base, position: this.journal.length, hash: this.hash, message: `Update ${this.updates}` };
    const { status, body: answer } = await this.ask<{ rev: number }>('POST', `/api/masters/${this.master}/update`, body);
    // Asked again after a lost answer, an update that was done is refused: the head tells.
    const { body: view } = await this.ask<{ head: number }>('GET', `/api/masters/${this.master}`);
    if (view.head !== this.base + 1)
      return void this.problems.push(`an update was answered ${status} ${JSON.stringify(answer)}, the head is r${view.head}`);
    this.updates++;
    this.base = view.head;
    this.journal = [];
    this.hash = journalStart(this.master, this.base);
  }

  private async derive(): Promise<void> {
    const label = `copy ${this.recipes.size}`;
    const { status, body } = await this.ask<{ recipe: string }>('POST', `/api/masters/${this.master}/copies`, {
      target: 'svg',
      label,
    });
    if (status === 200) this.recipes.set(body.recipe, label);
    else this.problems.push(`a derivation was answered ${status}`);
  }

  /** Looks whether all that was acknowledged is there. */
  async judge(): Promise<{ lost: number; forgotten: number }> {
    const { body } = await this.ask<{ head: number; copies: { recipe: string; verdict: string }[] }>(
      'GET',
      `/api/masters/${this.master}`,
    );
    let lost = body.head === this.updates + 1 ? 0 : 1;
    const { body: draft } = await this.ask<{ draft: { steps: Step[] } | null }>('GET', `/api/masters/${this.master}/draft`);
    const kept = draft.draft?.steps ?? [];
    lost += this.journal.filter((step, i) => JSON.stringify(step) !== JSON.stringify(kept[i])).length;
    const copies = new Set(body.copies.filter(({ verdict }) => verdict !== 'not checked').map(({ recipe }) => recipe));
    const forgotten = [...this.recipes].filter(([recipe]) => !copies.has(recipe));
    for (const [recipe, label] of forgotten) {
      const { body: desk } = await this.ask<{ notices: { message: string }[] }>('GET', '/api/summary');
      const copy = body.copies.find((one) => one.recipe === recipe);
      console.log(`forgotten: ${label} of ${this.master}: ${JSON.stringify(copy ?? 'no copy')} ${JSON.stringify(desk.notices)}`);
    }
    return { lost, forgotten: forgotten.length };
  }
}

/** Server, worker and PostgreSQL are killed at random moments under load; then everything that was acknowledged is looked for. */
export async function benchmarkKills(): Promise<Record<string, number>> {
  const seed = Number(process.env['INKWELL_KILLS_SEED'] ?? 20261125);
  const roll = dice(seed);
  const workshop = await RunningWorkshop.start();
  try {
    const writers: Writer[] = [];
    for (let i = 0; i < WRITERS; i++) {
      const { body } = await workshop.call<{ id: string }>('POST', '/api/masters', {
        title: `Panel ${i}`,
        purpose: 'panel',
        owner: '',
      });
      writers.push(new Writer(workshop, body.id, `writer-number-${i}`, dice(seed + i + 1)));
    }
    await workshop.idle();
    const working = Promise.all(writers.map((writer) => writer.work()));
    const killed: Record<PartName, number> = { server: 0, worker: 0, PostgreSQL: 0 };
    for (let i = 0; i < KILLS; i++) {
      await pause(100 + roll() * 900);
      const part = (['server', 'worker', 'PostgreSQL'] as const)[Math.floor(roll() * 3)]!;
      killed[part]++;
      await workshop.kill(part);
    }
    for (const writer of writers) writer.over = true;
    await working;
    await workshop.isWell();
    // A job whose try was cut short by PostgreSQL's own end may wait for its next.
    await workshop.idle();
    await pause(2_000);
    await workshop.idle();
    const judged = await Promise.all(writers.map((writer) => writer.judge()));
    const sum = (value: (i: number) => number) => writers.reduce((total, _, i) => total + value(i), 0);
    for (const { problems, master } of writers) for (const problem of problems) console.log(`${master}: ${problem}`);
    return {
      'kills: seed': seed,
      'kills of the server': killed.server,
      'kills of the worker': killed.worker,
      'kills of PostgreSQL': killed.PostgreSQL,
      'kills: steps acknowledged': sum((i) => writers[i]!.steps),
      'kills: updates acknowledged': sum((i) => writers[i]!.updates),
      'kills: derivations acknowledged': sum((i) => writers[i]!.recipes.size),
      'kills: acknowledged and lost': sum((i) => judged[i]!.lost),
      'kills: jobs forgotten': sum((i) => judged[i]!.forgotten),
      'kills: answers that made no sense': sum((i) => writers[i]!.problems.length),
    };
  } finally {
    await workshop.stop();
  }
}
