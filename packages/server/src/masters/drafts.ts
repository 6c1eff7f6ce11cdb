import { Failure, type Master, Step, applyPatches, journalHashes, journalStart } from '@inkwell-twin/core';
import { BoundedCache } from '../compute/cache';
import { Refusal } from '../compute/refusal';
import { type Database, type Queryable, lockInTransaction } from '../database/database';
import { type DraftData, type Session, dataOf, isThere, stateOf, weightOf, whyNot, withSteps } from './draft-state';
import { type MasterStore, revisionOf } from './store';

/** Who edits. There are no accounts yet: an id that the browser keeps, and the name that goes with it. */
export interface Person {
  readonly id: string;
  readonly name: string;
}

interface DraftRow {
  person: string;
  base: number;
  position: number;
  version: number;
  updated_at: Date;
}

const KEPT_BYTES = 192 * 1024 * 1024;

/**
 * Drafts as journals, one for each person and master: what was acknowledged is on disk and survives whatever happens to
 * browser and server. A step names the position and the hash that it builds on; one that does not fit is refused with what is
 * there. The applied draft is kept in memory, so that a step costs what it touches.
 */
export class Drafts {
  private readonly sessions = new BoundedCache<Session>(KEPT_BYTES);

  constructor(
    private readonly database: Database,
    private readonly masters: MasterStore,
  ) {}

  /** A person's draft, or one that nobody has claimed. */
  async find(master: string, person: string): Promise<DraftData | null> {
    const session = await this.open(this.database, master, person, false);
    return session && dataOf(session);
  }

  /**
   * Adds steps that build on `hash` at `position`; what had been undone beyond it is forgotten. Every step is tried out before
   * it is kept. Steps that are there already, because an answer was lost on its way, are acknowledged again.
   * @throws Refusal with what is there when they do not fit
   */
  async add(
    master: string,
    person: Person,
    { base, position, hash, steps }: { base: number; position: number; hash: string; steps: readonly Step[] },
  ): Promise<{ position: number; hash: string }> {
    const fits = (session: Session) =>
      session.base === base && session.position === position && session.hashes[position] === hash;
    // Tried out before anything is locked, so that many steps hold up nobody; what came in between is tried again.
    const before = (await this.open(this.database, master, person.id, false)) ?? (await this.start(this.database, master, base));
    const tried = fits(before) ? { before, next: withSteps(before, steps) } : null;
    return this.changing(master, person, async (client) => {
      const there = await this.open(client, master, person.id, true);
      if (there && there.base === base && isThere(there, position, hash, steps)) {
        const reached = position + steps.length;
        return { session: there, answer: { position: reached, hash: there.hashes[reached]! } };
      }
      const session = there ?? (await this.start(client, master, base));
      if (!fits(session)) throw new Refusal(whyNot(session, base), there && dataOf(there));
      const same = tried?.before.version === session.version && tried.before.life === session.life;
      const next = same ? tried.next : withSteps(session, steps);
      return { session: { ...next, version: await this.keep(client, master, person, next, position) }, answer: stateOf(next) };
    });
  }

  /** Undo and redo: how many of the steps are done; `hash` is that of the journal there. @throws Refusal */
  async moveTo(
    master: string,
    person: Person,
    { position, hash }: { position: number; hash: string },
  ): Promise<{ position: number; hash: string }> {
    return this.changing(master, person, async (client) => {
      const there = await this.open(client, master, person.id, true);
      if (!there || there.hashes[position] !== hash)
        throw new Refusal('The draft has other steps than this window shows. Nothing of it is lost.', there && dataOf(there));
      let { document } = there;
      if (position < there.position)
        for (let i = there.position; i > position; i--) document = applyPatches(document, there.steps[i - 1]!.inverse).master;
      else for (let i = there.position; i < position; i++) document = applyPatches(document, there.steps[i]!.forward).master;
      const next = { ...there, position, document };
      return { session: { ...next, version: await this.keep(client, master, person, next) }, answer: stateOf(next) };
    });
  }

  /**
   * Puts other steps in the place of a draft, for one that was carried over onto a newer revision.
   * @param replaces the hash of the draft that goes, at its position
   * @throws Refusal when that is not what is there
   */
  async replace(
    master: string,
    person: Person,
    { base, replaces, steps }: { base: number; replaces: string; steps: readonly Step[] },
  ): Promise<{ position: number; hash: string }> {
    const begun = await this.start(this.database, master, base);
    let tried: Session | null = null;
    try {
      tried = withSteps(begun, steps);
    } catch {
      // Whether that is to be told depends on what is there by then: it is tried again.
    }
    return this.changing(master, person, async (client) => {
      const there = await this.open(client, master, person.id, true);
      if (!there || there.hashes[there.position] !== replaces) {
        // The answer to the same request may have been lost.
        const hashes = journalHashes((await this.masters.load(master, client)).life, base, steps);
        if (there?.base === base && there.hashes[there.position] === hashes.at(-1))
          return { session: there, answer: stateOf(there) };
        throw new Refusal('The draft has other steps than this window shows. Nothing of it is lost.', there && dataOf(there));
      }
      const head = await headOf(client, master);
      if (base !== head) throw new Refusal(`This master is at r${head} by now. Nothing of the draft is lost.`, dataOf(there));
      const start = await this.start(client, master, base);
      const next: Session = { ...(tried?.life === start.life ? tried : withSteps(start, steps)), version: there.version };
      if (!steps.length) {
        await client.query('delete from draft where master = $1 and person = $2', [master, person.id]);
        return { session: null, answer: stateOf(next) };
      }
      return { session: { ...next, version: await this.keep(client, master, person, next, 0) }, answer: stateOf(next) };
    });
  }

  /** Throws a person's draft away, and one that nobody has claimed if that is what they saw. */
  async discard(master: string, person: string, client: Queryable = this.database): Promise<void> {
    this.sessions.delete(keyOf(master, person));
    const { rowCount } = await client.query('delete from draft where master = $1 and person = $2', [master, person]);
    if (!rowCount) await client.query("delete from draft where master = $1 and person = ''", [master]);
  }

  /**
   * The master as a person's draft leaves it, locked until the transaction ends.
   * @throws Refusal when the draft is not as it was seen, Failure `nothing-to-update` where there is none
   */
  async result(
    client: Queryable,
    master: string,
    person: string,
    seen: { base: number; position: number; hash: string },
  ): Promise<{ document: Master; labels: string[] }> {
    const there = await this.open(client, master, person, true);
    if (!there) throw new Failure('nothing-to-update', 'There are no changes to update with.');
    if (there.base !== seen.base)
      throw new Refusal(`Your draft rests on r${there.base}, not on r${seen.base}. It is kept.`, dataOf(there));
    if (there.position !== seen.position || there.hashes[there.position] !== seen.hash)
      throw new Refusal('The draft has other changes than this window shows. Nothing of it is lost.', dataOf(there));
    return { document: there.document, labels: there.steps.slice(0, there.position).map(({ label }) => label) };
  }

  /** Runs a change in a transaction and keeps what came of it in memory, once it is on disk and only then. */
  private async changing<T>(
    master: string,
    person: Person,
    change: (client: Queryable) => Promise<{ session: Session | null; answer: T }>,
  ): Promise<T> {
    const key = keyOf(master, person.id);
    try {
      const { session, answer } = await this.database.transaction(change);
      if (session) this.sessions.set(key, { ...session, unclaimed: false }, weightOf(session));
      else this.sessions.delete(key);
      return answer;
    } catch (error) {
      // The index of a master goes over to what came of it; after an error it is rebuilt from what is on disk.
      if (!(error instanceof Refusal)) this.sessions.delete(key);
      throw error;
    }
  }

  /** A draft from memory if that is the latest, or else from its rows. */
  private async open(client: Queryable, master: string, person: string, lock: boolean): Promise<Session | null> {
    const select = async (): Promise<DraftRow | undefined> =>
      (
        await client.query<DraftRow>(
          `select person, base, position, version::float8, updated_at from draft
            where master = $1 and person in ($2, '') order by person desc limit 1 ${lock ? 'for update' : ''}`,
          [master, person],
        )
      ).rows[0];
    let row = await select();
    if (!row && lock) {
      // There is no row to lock yet: two who begin the same draft at once take turns by its name.
      await lockInTransaction(client, `draft ${keyOf(master, person)}`);
      row = await select();
    }
    if (!row) return null;
    if (lock && row.person !== person)
      await client.query("update draft set person = $2 where master = $1 and person = ''", [master, person]);
    const known = this.sessions.get(keyOf(master, row.person));
    if (known?.version === row.version) return known;
    const found = await client.query<{ step: unknown }>(
      'select step from draft_step where master = $1 and person = $2 order by seq',
      [master, lock ? person : row.person],
    );
    const steps = Step.array().parse(found.rows.map(({ step }) => step));
    const start = await this.start(client, master, row.base);
    let { document } = start;
    for (const step of steps.slice(0, row.position)) document = applyPatches(document, step.forward).master;
    const session: Session = {
      life: start.life,
      version: row.version,
      base: row.base,
      position: row.position,
      steps,
      hashes: journalHashes(start.life, row.base, steps),
      document,
      updatedAt: row.updated_at.toISOString(),
      unclaimed: row.person === '' && !lock,
    };
    if (!lock) this.sessions.set(keyOf(master, row.person), session, weightOf(session));
    return session;
  }

  /** An empty draft on a revision. */
  private async start(client: Queryable, master: string, base: number): Promise<Session> {
    const loaded = await this.masters.load(master, client);
    return {
      life: loaded.life,
      version: 0,
      base,
      position: 0,
      steps: [],
      hashes: [journalStart(loaded.life, base)],
      document: base <= loaded.head.rev && base > 0 ? revisionOf(loaded, base).master : loaded.head.master,
      updatedAt: '',
      unclaimed: false,
    };
  }

  /**
   * Writes a draft's row and, where it changed, its steps from a position on: in one statement.
   * @returns the version that the row has now
   */
  private async keep(
    client: Queryable,
    master: string,
    person: Person,
    { base, position, version, steps }: Session,
    changedFrom?: number,
  ): Promise<number> {
    if (version === 0) {
      const head = await headOf(client, master);
      if (base !== head)
        throw new Refusal(
          `Your changes start from r${base}, but this master is at r${head} by now. Nothing of them is lost.`,
          null,
        );
    }
    const from = changedFrom ?? steps.length;
    const { rows } = await client.query<{ version: number }>(
      `with gone as (delete from draft_step where master = $1 and person = $2 and seq >= $6 + coalesce(array_length($7::text[], 1), 0)),
            kept as (insert into draft (master, person, name, base, position, version) values ($1, $2, $3, $4, $5, nextval('draft_version'))
                     on conflict (master, person) do update
                        set name = $3, base = $4, position = $5, version = nextval('draft_version'), updated_at = now()
                     returning version),
            added as (insert into draft_step (master, person, seq, step)
                      select $1, $2, $6::integer + place - 1, step::json
                        from unnest($7::text[]) with ordinality as given (step, place)
                      on conflict (master, person, seq) do update set step = excluded.step)
       select version::float8 from kept`,
      [master, person.id, person.name, base, position, from, steps.slice(from).map((step) => JSON.stringify(step))],
    );
    return rows[0]!.version;
  }
}

const keyOf = (master: string, person: string): string => `${master} ${person}`;

async function headOf(client: Queryable, master: string): Promise<number> {
  const { rows } = await client.query<{ head: number }>('select head from master where id = $1 for share', [master]);
  if (!rows[0]) throw new Failure('not-found', 'There is no such master on this Desk.');
  return rows[0].head;
}
