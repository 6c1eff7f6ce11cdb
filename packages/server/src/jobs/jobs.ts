import PgBoss from 'pg-boss';
import type { EventView } from '@inkwell-twin/api';
import { Failure } from '@inkwell-twin/core';
import type { Database, Queryable } from '../database/database';
import type { HereWord } from '../presence';
import { QUEUES, type Queue, queueFor } from './queues';

/** What a job is to do. `label` says it to people. */
export type JobData =
  | { readonly kind: 'derive'; readonly master: string; readonly recipe: string; readonly label: string }
  | { readonly kind: 'series'; readonly master: string; readonly series: string; readonly label: string }
  | { readonly kind: 'check'; readonly master: string; readonly copies: readonly string[]; readonly label: string }
  | { readonly kind: 'file' | 'picture' | 'stand' | 'orders'; readonly master: string; readonly label: string };

/** Who waits for a person's click comes before what only keeps things up to date. */
const RANK: Record<JobData['kind'], number> = {
  derive: 400,
  series: 300,
  check: 200,
  stand: 200,
  orders: 150,
  file: 100,
  picture: 0,
};
/** Of a check that a person asked for. */
const ASKED = 300;
/** So many jobs of one master push its next ones back at most. */
const PUSHED_BACK = 99;
/**
 * How often a job is tried again whose worker was lost or whose database went away, and seconds between; what is wrong in
 * itself is not. Enough for a bad quarter of an hour, few enough for one that ends every worker that takes it.
 */
const RETRIES = 60;
const RETRY_DELAY = 1;
/** Seconds after which a job is taken for lost, whatever its worker says. */
const EXPIRES = 3_600;

export const CHANNELS = { wake: 'inkwell_job', cancel: 'inkwell_cancel', event: 'inkwell_event', here: 'inkwell_here' } as const;
/** PostgreSQL takes notifications of up to 8000 bytes. */
const LONGEST = 6_000;

const checkKey = (master: string, copies: readonly string[]): string => `check ${master} ${copies.join(' ')}`.slice(0, 2_000);

/** Deletes a recipe that gave no copy, and that nobody waits for any more. */
export const forgetUnmade = (client: Queryable, recipe: string): Promise<unknown> =>
  client.query('delete from recipe where id = $1 and not exists (select from copy where recipe = $1)', [recipe]);

/** Deletes the variants of a series that gave no copy, likewise, and what was said of those that failed. */
export const forgetUnmadeOf = (client: Queryable, series: string): Promise<unknown> =>
  client.query(
    `with gone as (
       delete from recipe where series = $1 and not exists (select from copy where copy.recipe = recipe.id) returning id, master)
     delete from notice using gone where notice.master = gone.master and notice.about = 'derive ' || gone.id`,
    [series],
  );

/** What a notice about a job is about: the same for the same thing to do. */
export const aboutOf = (data: JobData): string =>
  data.kind === 'derive' ? `derive ${data.recipe}` : data.kind === 'series' ? `series ${data.series}` : data.kind;

/** The queue library asks by our own connections, so that errors, limits and transactions are the same everywhere. */
export const bossOn = (client: Queryable): PgBoss =>
  new PgBoss({ db: { executeSql: (sql: string, values: unknown[]) => client.query(sql, values) } });

/**
 * Asks for work. A job is a row: it outlives every process, and is done by whichever worker is there. One key for each thing
 * to do: what is asked for again while it still waits is done once.
 */
export class Jobs {
  constructor(private readonly database: Database) {}

  derive(master: string, recipe: string, label: string, client?: Queryable): Promise<string> {
    return this.send({ kind: 'derive', master, recipe, label }, `derive ${recipe}`, client);
  }
  /** Derives the variants of a series that are not there yet. */
  series(master: string, series: string, label: string, client?: Queryable): Promise<string> {
    return this.send({ kind: 'series', master, series, label }, `series ${series}`, client);
  }
  check(master: string, copies: readonly string[], client?: Queryable, label = 'Checking'): Promise<string> {
    return this.send({ kind: 'check', master, copies, label }, checkKey(master, copies), client);
  }
  /** A check that a person waits for: it comes before those that only keep things up to date. */
  checkNow(master: string, copies: readonly string[]): Promise<string> {
    const data = { kind: 'check', master, copies, label: 'Checking' } as const;
    return this.send(data, `asked: ${checkKey(master, copies)}`, this.database, 0, ASKED);
  }
  /** Whether anything waits that comes before whatever has a rank like this one, however far that was pushed back. */
  async isPressed(queue: Queue, rank: number): Promise<boolean> {
    const [row] = await this.database.rows<{ pressed: boolean }>(
      "select exists (select from pgboss.job where name = $1 and state = 'created' and start_after <= now() and priority > $2) as pressed",
      [queue, Math.ceil(rank / 100) * 100],
    );
    return row!.pressed;
  }
  /** Finds again how each copy of a master stands, then checks those whose verdict is not known. */
  stand(master: string, client?: Queryable): Promise<string> {
    return this.send({ kind: 'stand', master, label: 'Looking through' }, `stand ${master}`, client);
  }
  /** Carries out standing orders: what is written with each update of a master. */
  orders(master: string, client?: Queryable): Promise<string> {
    return this.send({ kind: 'orders', master, label: 'Standing orders' }, `orders ${master}`, client);
  }
  writeFile(master: string, client?: Queryable): Promise<string> {
    return this.send({ kind: 'file', master, label: 'Writing the master’s file' }, `file ${master}`, client);
  }
  picture(master: string, client?: Queryable): Promise<string> {
    return this.send({ kind: 'picture', master, label: 'Drawing its picture' }, `picture ${master}`, client);
  }

  /** @param after seconds to wait before it is begun */
  async send(data: JobData, key: string, client: Queryable = this.database, after = 0, rank = RANK[data.kind]): Promise<string> {
    const boss = bossOn(client);
    const { rows } = await client.query<{ objects: number; waiting: number }>(
      `select objects, (select count(*)::integer from pgboss.job where state < 'active' and data->>'master' = $1) as waiting
         from master where id = $1`,
      [data.master],
    );
    const { objects, waiting } = rows[0] ?? { objects: 0, waiting: 0 };
    const options = {
      singletonKey: key,
      priority: rank - Math.min(PUSHED_BACK, waiting),
      retryLimit: RETRIES,
      retryDelay: RETRY_DELAY,
      expireInSeconds: EXPIRES,
      startAfter: after,
    };
    for (let tries = 0; tries < 5; tries++) {
      const queue = queueFor(objects);
      const id = (await boss.send(queue, data, options)) ?? (await this.waitingJob(client, queue, key));
      if (!id) continue; // It began between the two questions: this is a new one.
      await client.query('select pg_notify($1, $2)', [CHANNELS.wake, queue]);
      return id;
    }
    throw new Failure('unavailable', 'The job could not be put on the list. Try again in a moment.');
  }

  private async waitingJob(client: Queryable, queue: Queue, key: string): Promise<string | undefined> {
    const { rows } = await client.query<{ id: string }>(
      "select id from pgboss.job where name = $1 and singleton_key = $2 and state = 'created'",
      [queue, key],
    );
    return rows[0]?.id;
  }

  /** Stops a job, whether it waits or is under way. @throws Failure `not-found` when it is over */
  async cancel(id: string): Promise<void> {
    const [job] = /^[0-9a-f-]{36}$/i.test(id)
      ? await this.database.rows<{ name: Queue; data: JobData; state: string }>(
          "select name, data, state from pgboss.job where id = $1 and state < 'completed'",
          [id],
        )
      : [];
    if (!job) throw new Failure('not-found', 'There is no such job any more.');
    await bossOn(this.database).cancel(job.name, id);
    await this.database.query('select pg_notify($1, $2)', [CHANNELS.cancel, id]);
    if (job.state === 'active') return;
    if (job.data.kind === 'derive') await forgetUnmade(this.database, job.data.recipe);
    if (job.data.kind === 'series') await forgetUnmadeOf(this.database, job.data.series);
    await this.announce(id, job.data, 0, 1, 'cancelled', 'Stopped before it began');
    await this.event({ kind: 'copies', master: job.data.master });
  }

  /** Stops what derives a recipe, whether it waits or is under way, together with what else its transaction does. */
  async forgetRecipe(client: Queryable, recipe: string): Promise<void> {
    const { rows } = await client.query<{ id: string; name: Queue }>(
      "select id, name from pgboss.job where state < 'completed' and data->>'kind' = 'derive' and data->>'recipe' = $1",
      [recipe],
    );
    for (const { id, name } of rows) {
      await bossOn(client).cancel(name, id);
      await client.query('select pg_notify($1, $2)', [CHANNELS.cancel, id]);
    }
  }

  announce(
    id: string,
    { master, label, kind }: JobData,
    done: number,
    total: number,
    state: 'running' | 'done' | 'failed' | 'cancelled',
    message: string,
  ): Promise<void> {
    const words = kind === 'derive' || kind === 'series' ? 'Deriving' : label;
    return this.event({ kind: 'job', id, master, label: words, done, total, state, message: message.slice(0, 2_000) });
  }

  /** Tells every process, and by it every browser. Lost when nobody listens: everything that counts is in rows. */
  async event(event: EventView): Promise<void> {
    const text = JSON.stringify(event);
    if (Buffer.byteLength(text) > LONGEST) return;
    await this.database.query('select pg_notify($1, $2)', [CHANNELS.event, text]);
  }

  /** Tells the other servers which windows are here. Lost when nobody listens, and said again by and by. */
  async here(word: HereWord): Promise<void> {
    await this.database.query('select pg_notify($1, $2)', [CHANNELS.here, JSON.stringify(word)]);
  }

  /** Keeps words for people about a master, in the place of older ones about the same; null takes them away. */
  async notice(master: string, about: string, message: string | null): Promise<void> {
    const { rowCount } =
      message === null
        ? await this.database.query('delete from notice where master = $1 and about = $2', [master, about])
        : await this.database.query(
            `insert into notice (master, about, message) select id, $2, $3 from master where id = $1
             on conflict (master, about) do update set message = $3, at = now() where notice.message <> $3`,
            [master, about, message],
          );
    if (rowCount) await this.event({ kind: 'notice', master, message: message ?? '' });
  }

  /** Whether anything waits or is under way. */
  async isIdle(): Promise<boolean> {
    const [row] = await this.database.rows<{ busy: boolean }>(
      "select exists (select from pgboss.job where state < 'completed' and start_after < now() + interval '5 seconds' and name = any ($1)) as busy",
      [[...QUEUES]],
    );
    return !row!.busy;
  }
}
