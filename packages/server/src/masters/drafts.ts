import { Failure, type Master, Step, applyPatches } from '@inkwell-twin/core';
import type { Database, Queryable } from '../database/database';
import type { MasterStore } from './store';

export interface Draft {
  readonly base: number;
  readonly position: number;
  readonly steps: readonly Step[];
  readonly updatedAt: string;
}

/** Drafts as journals: what was acknowledged is on disk and survives whatever happens to browser and server. */
export class Drafts {
  constructor(
    private readonly database: Database,
    private readonly masters: MasterStore,
  ) {}

  async find(master: string, client: Queryable = this.database.pool): Promise<Draft | null> {
    const { rows } = await client.query('select base, position, updated_at from draft where master = $1', [master]);
    if (!rows[0]) return null;
    const steps = await client.query('select step from draft_step where master = $1 order by seq', [master]);
    return {
      base: rows[0].base,
      position: rows[0].position,
      steps: steps.rows.map(({ step }) => Step.parse(step)),
      updatedAt: rows[0].updated_at.toISOString(),
    };
  }

  /** The master as a draft leaves it. */
  async apply(master: string, { base, position, steps }: Draft): Promise<Master> {
    const loaded = await this.masters.load(master);
    const start = loaded.revisions[base - 1]?.master;
    if (!start) throw new Failure('conflict', `The draft rests on r${base}, which is not there.`);
    return applyPatches(
      start,
      steps.slice(0, position).flatMap(({ forward }) => forward),
    ).master;
  }

  /**
   * Adds steps after `position`; what had been undone beyond it is forgotten. Every step is tried out before it is kept.
   * @throws Failure `conflict` when the draft rests on another revision or has another length
   */
  async add(master: string, base: number, position: number, steps: readonly Step[]): Promise<number> {
    return this.database.transaction(async (client) => {
      await client.query('select id from master where id = $1 for update', [master]);
      const loaded = await this.masters.load(master);
      const draft = await this.find(master, client);
      if (base !== (draft?.base ?? loaded.head.rev))
        throw new Failure(
          'conflict',
          `Your changes start from r${base}, but the draft rests on r${draft?.base ?? loaded.head.rev}. Open the master again.`,
        );
      if (position > (draft?.steps.length ?? 0))
        throw new Failure('conflict', 'Steps before these are missing in the draft. Open the master again.');
      const kept: Draft = { base, position, steps: (draft?.steps ?? []).slice(0, position), updatedAt: '' };
      applyPatches(
        await this.apply(master, kept),
        steps.flatMap(({ forward }) => forward),
      );
      const next = position + steps.length;
      await client.query(
        'insert into draft (master, base, position) values ($1, $2, $3) on conflict (master) do update set position = $3, updated_at = now()',
        [master, base, next],
      );
      await client.query('delete from draft_step where master = $1 and seq >= $2', [master, position]);
      for (const [i, step] of steps.entries())
        await client.query('insert into draft_step (master, seq, step) values ($1, $2, $3)', [
          master,
          position + i,
          JSON.stringify(step),
        ]);
      return next;
    });
  }

  /** Undo and redo: how many of the steps are done. */
  async moveTo(master: string, position: number): Promise<number> {
    const draft = await this.find(master);
    if (!draft || position > draft.steps.length)
      throw new Failure('conflict', 'The draft is not as long as that. Open the master again.');
    await this.database.pool.query('update draft set position = $2, updated_at = now() where master = $1', [master, position]);
    return position;
  }

  async discard(master: string, client: Queryable = this.database.pool): Promise<void> {
    await client.query('delete from draft where master = $1', [master]);
  }
}
