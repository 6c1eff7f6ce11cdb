import type PgBoss from 'pg-boss';
import { Failure, asFailure } from '@inkwell-twin/core';
import type { Compute } from '../compute/compute';
import type { Database } from '../database/database';
import { Listener } from '../database/listener';
import { CHANNELS, type JobData, type Jobs, aboutOf, bossOn } from './jobs';
import type { Queue } from './queues';
import { WORK, isPassing } from './work';

/** Milliseconds after which a lane looks for work even when nobody called. */
const LOOK_AGAIN = 2_000;
/** Milliseconds between looks for jobs whose worker is gone, and for old ones to throw away. */
const TEND = 3_000;
/** Seconds of work that one part of a job may take. */
const PART_LIMIT = 240;
/** Seconds until what a full disk stopped is tried again. */
const WHEN_THERE_IS_ROOM = 15;
/** Names the locks by which workers show that they live. */
const ALIVE = 20261125;

type FetchedJob = PgBoss.Job<JobData> & { readonly priority: number; readonly retryCount: number; readonly retryLimit: number };

/**
 * Does the jobs: two lanes, one of which only ever takes small ones. A worker holds a lock in the database as long as it
 * lives; a job whose worker has lost it goes back on the list a few seconds later.
 */
export class JobRunner {
  private readonly listener: Listener;
  private readonly active = new Map<string, AbortController>();
  private readonly wakers = new Set<() => void>();
  private lanes: Promise<void>[] = [];
  private tending: NodeJS.Timeout | undefined;
  private worker = 0;
  /** Jobs whose worker was missed when we looked last. */
  private missed: ReadonlySet<string> = new Set();
  private closed = false;

  constructor(
    private readonly database: Database,
    private readonly jobs: Jobs,
    private readonly compute: Compute,
    private readonly log: (what: string, error: unknown) => void,
  ) {
    this.listener = new Listener(
      database.url,
      { [CHANNELS.wake]: () => this.wake(), [CHANNELS.cancel]: (id) => this.active.get(id)?.abort() },
      () =>
        void this.showAlive().then(
          () => this.wake(),
          () => undefined,
        ),
    );
  }

  async open(): Promise<void> {
    const [row] = await this.database.rows<{ number: number }>("select nextval('worker_number')::integer as number");
    this.worker = row!.number;
    await this.listener.open();
    await this.showAlive();
    await this.tend();
    this.tending = setInterval(() => void this.tend().catch((error: unknown) => this.log('tending the jobs', error)), TEND);
    const lanes: readonly (readonly Queue[])[] = [['small'], ['large', 'small']];
    this.lanes = lanes.map((queues) => this.lane(queues));
  }

  private showAlive(): Promise<void> {
    return this.listener.ask('select pg_advisory_lock($1, $2)', [ALIVE, this.worker]);
  }

  private wake(): void {
    for (const waker of this.wakers) waker();
  }

  private pause(ms: number): Promise<void> {
    return new Promise((done) => {
      const end = () => {
        clearTimeout(timer);
        this.wakers.delete(end);
        done();
      };
      const timer = setTimeout(end, ms);
      this.wakers.add(end);
    });
  }

  private async lane(queues: readonly Queue[]): Promise<void> {
    while (!this.closed) {
      // Asked before looking, so that a call between looking and waiting is not lost.
      const called = this.pause(LOOK_AGAIN);
      const found = await this.take(queues).catch((error: unknown) => void this.log('looking for a job', error));
      if (found) await this.run(found.queue, found.job);
      else await called;
    }
  }

  /** The next job, with this worker's name on it in the same transaction. */
  private async take(queues: readonly Queue[]): Promise<{ queue: Queue; job: FetchedJob } | undefined> {
    for (const queue of queues) {
      const job = await this.database.transaction(async (client) => {
        const db = { executeSql: (sql: string, values: unknown[]) => client.query(sql, values) };
        const [first] = await bossOn(client).fetch<JobData>(queue, { includeMetadata: true, db });
        if (first)
          await client.query(
            `insert into job_holder (job, queue, worker) values ($1, $2, $3)
             on conflict (job) do update set worker = $3, at = now()`,
            [first.id, queue, this.worker],
          );
        return first as FetchedJob | undefined;
      });
      if (job) return { queue, job };
    }
    return undefined;
  }

  private async run(queue: Queue, job: FetchedJob): Promise<void> {
    const stop = new AbortController();
    this.active.set(job.id, stop);
    try {
      const failure = await this.work(queue, job, stop.signal);
      await this.over(queue, job, failure);
    } catch (error) {
      // The database went away in the middle, or something that nobody foresaw: the job goes back on the list.
      if (!this.closed) this.log(`job ${job.data.kind} ${job.data.label}`, error);
      await this.giveBack(queue, job, error);
    } finally {
      this.active.delete(job.id);
    }
  }

  private async work(queue: Queue, { id, data, priority, retryCount }: FetchedJob, signal: AbortSignal): Promise<Failure | null> {
    const large = queue === 'large';
    const shown = data.kind === 'derive' || data.kind === 'series' || data.kind === 'check';
    return WORK[data.kind]({
      data,
      jobs: this.jobs,
      database: this.database,
      compute: (task, input) => this.compute.run(task, input, { queueKey: data.master, large, signal, limit: PART_LIMIT }),
      announce: (done, total, state, message) =>
        shown ? this.jobs.announce(id, data, done, total, state, message) : Promise.resolve(),
      pressed: () => this.jobs.isPressed(queue, priority),
      log: this.log,
      tries: retryCount,
    }).then(
      () => null,
      (error: unknown) => {
        const failure = asFailure(error);
        // A full disk has its own, longer wait; the others go back on the list.
        if (isPassing(failure.code, retryCount) && failure.code !== 'no-room') throw error;
        if (failure.code === 'unexpected') this.log(`job ${data.kind} ${data.label}`, error);
        return failure;
      },
    );
  }

  private async over(queue: Queue, job: FetchedJob, failure: Failure | null): Promise<void> {
    const { data, id } = job;
    const { jobs } = this;
    if (failure?.code === 'no-room') {
      // Kept on the list until there is room; the old file stands meanwhile.
      await jobs.notice(data.master, aboutOf(data), `${data.label}: ${failure.message} It is tried again by itself.`);
      await jobs.send(data, `again ${aboutOf(data)} ${data.master}`, this.database, WHEN_THERE_IS_ROOM);
      await jobs.announce(id, data, 0, 1, 'failed', `${data.label}: ${failure.message}`);
    } else if (failure && failure.code !== 'cancelled') {
      await jobs.notice(data.master, aboutOf(data), `${data.label}: ${failure.message}`);
      await jobs.announce(id, data, 1, 1, 'failed', `${data.label}: ${failure.message}`);
    } else if (!failure) await jobs.notice(data.master, aboutOf(data), null);
    await bossOn(this.database).complete(queue, id, failure?.toJSON() ?? {});
    await this.database.query('delete from job_holder where job = $1', [id]);
    await jobs.event({ kind: 'copies', master: data.master });
  }

  /** Tries until the database is back; if this process ends before, the lost lock does the same. */
  private async giveBack(queue: Queue, { id, data, retryCount, retryLimit }: FetchedJob, error: unknown): Promise<void> {
    for (let tries = 0; tries < 60 && (tries < 2 || !this.closed); tries++) {
      try {
        await bossOn(this.database).fail(queue, id, { message: asFailure(error).message });
        await this.database.query('delete from job_holder where job = $1', [id]);
        if (retryCount >= retryLimit)
          await this.jobs.notice(
            data.master,
            aboutOf(data),
            `${data.label}: ${asFailure(error).message} It was tried again and again and given up.`,
          );
        return;
      } catch {
        await this.pause(1_000);
      }
    }
  }

  /** Puts jobs of lost workers back on the list, tells of those that were tried too often, throws old ones away. */
  private async tend(): Promise<void> {
    const lost = await this.database.rows<{ id: string; name: Queue; data: JobData; last: boolean }>(
      `select job.id, job.name, job.data, job.retry_count >= job.retry_limit as last from pgboss.job
         left join job_holder on job_holder.job = job.id
        where job.state = 'active' and job.name in ('small', 'large')
          and case when job_holder.job is null then job.started_on < now() - interval '10 seconds'
              else not exists (select from pg_locks where locktype = 'advisory' and granted and classid = $1::oid
                                and objid = job_holder.worker::oid and objsubid = 2
                                and database = (select oid from pg_database where datname = current_database())) end`,
      [ALIVE],
    );
    // A worker that just lost its connection has lost its lock too, and gets it again: only who is missed twice is gone.
    const missed = lost.filter(({ id }) => !this.active.has(id));
    const gone = missed.filter(({ id }) => this.missed.has(id));
    this.missed = new Set(missed.map(({ id }) => id));
    for (const { id, name, data, last } of gone) {
      await bossOn(this.database).fail(name, id, { message: 'its worker was lost' });
      if (!last) continue;
      const words = `${data.label}: its worker was lost over it each time that it was tried. It was given up.`;
      await this.jobs.notice(data.master, aboutOf(data), words);
      await this.jobs.announce(id, data, 1, 1, 'failed', words);
    }
    await this.database.query(
      "delete from pgboss.job where state >= 'completed' and completed_on < now() - interval '1 hour' and name in ('small', 'large')",
    );
    await this.database.query(
      'delete from job_holder where not exists (select from pgboss.job where job.id = job_holder.job and state = $1)',
      ['active'],
    );
    if (gone.length) this.wake();
  }

  /** Stops at the part it is at: what was begun goes back on the list. */
  async close(): Promise<void> {
    this.closed = true;
    clearInterval(this.tending);
    for (const stop of this.active.values()) stop.abort(new Failure('unavailable', 'The worker was stopped.'));
    this.wake();
    await Promise.all(this.lanes);
    await this.listener.close();
  }
}
