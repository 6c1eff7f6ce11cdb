import { Failure, asFailure } from '@inkwell-twin/core';
import type { Tasks } from '../compute/tasks';
import { askByOrders, deriveOrdered, orderedCopies } from '../copies/orders';
import type { Database } from '../database/database';
import { type JobData, type Jobs, aboutOf, forgetUnmade, forgetUnmadeOf } from './jobs';

/** What a job works with. */
interface WorkInput<D extends JobData = JobData> {
  readonly data: D;
  readonly jobs: Jobs;
  readonly database: Database;
  readonly compute: <K extends keyof Tasks>(task: K, input: Parameters<Tasks[K]>[1]) => Promise<Awaited<ReturnType<Tasks[K]>>>;
  readonly announce: (
    done: number,
    total: number,
    state: 'running' | 'done' | 'failed' | 'cancelled',
    message: string,
  ) => Promise<void>;
  /** Whether somebody waits for something that comes before this. */
  readonly pressed: () => Promise<boolean>;
  readonly log: (what: string, error: unknown) => void;
  /** How often this job was tried before. */
  readonly tries: number;
}

/** Tries that something which nobody foresaw gets: a connection that broke in a way of its own goes better the next time, a defect does not. */
const UNFORESEEN = 3;

/**
 * Whether something may go better another time: the database or the disk were away, or nobody foresaw it. Everything else says
 * something about the document or the file and would come out the same.
 * @param tries how often it was tried before
 */
export const isPassing = (code: string, tries: number): boolean =>
  code === 'unavailable' || code === 'no-room' || (code === 'unexpected' && tries + 1 < UNFORESEEN);

type Work<D extends JobData> = (input: WorkInput<D>) => Promise<void>;

const derive: Work<JobData & { kind: 'derive' }> = async ({ data, compute, database, announce }) => {
  await announce(0, 1, 'running', data.label);
  try {
    await compute('derive', { master: data.master, recipe: data.recipe });
  } catch (error) {
    const { code } = asFailure(error);
    // Nobody waits for it any more. What failed otherwise stays on the list, to be tried again or given up.
    if (code === 'withdrawn' || code === 'cancelled') await forgetUnmade(database, data.recipe);
    if (code === 'withdrawn') return announce(1, 1, 'done', '');
    if (code === 'cancelled') await announce(0, 1, 'cancelled', `${data.label}: stopped`);
    throw error;
  }
  await announce(1, 1, 'done', '');
};

/**
 * Variant by variant, with progress: those that have no copy yet, so that a job which was cut off goes on where it was. One that
 * fails does not keep the others; it stays on the list, with what is wrong. As soon as somebody waits for something else, the
 * rest goes back on the list.
 */
const series: Work<JobData & { kind: 'series' }> = async ({ data, compute, database, jobs, announce, pressed, log, tries }) => {
  const { master } = data;
  const [all] = await database.rows<{ total: number }>(
    'select count(*)::integer as total from recipe where series = $1 and withdrawn_at is null',
    [data.series],
  );
  const rows = await database.rows<{ id: string; label: string }>(
    `select id, label from recipe
      where series = $1 and withdrawn_at is null and not exists (select from copy where copy.recipe = recipe.id and state = 'live')
        and not exists (select from notice where notice.master = recipe.master and about = 'derive ' || recipe.id)
      order by created_at, id`,
    [data.series],
  );
  const total = all?.total ?? 0;
  for (const [i, { id, label }] of rows.entries()) {
    const done = total - rows.length + i;
    if (i && (await pressed())) {
      await jobs.series(master, data.series, data.label);
      return;
    }
    await announce(done, total, 'running', label);
    try {
      await compute('derive', { master, recipe: id });
    } catch (error) {
      const { code, message } = asFailure(error);
      if (code === 'cancelled') {
        await forgetUnmadeOf(database, data.series);
        await announce(done, total, 'cancelled', `${data.label}: stopped after ${done} of ${total}`);
      }
      if (code === 'cancelled' || code === 'no-room' || isPassing(code, tries)) throw error;
      // Withdrawn meanwhile, or given up: nobody waits for it.
      if (code === 'withdrawn' || code === 'not-found') continue;
      if (code === 'unexpected') log(`deriving ${label}`, error);
      await jobs.notice(master, aboutOf({ kind: 'derive', master, recipe: id, label }), `${label}: ${message}`);
    }
    // The list is looked at while it grows, now and then.
    if (i % 20 === 19) await jobs.event({ kind: 'copies', master });
  }
  await announce(total, total, 'done', '');
};

/**
 * Copy by copy, with progress; one that fails does not keep the others from being checked. As soon as somebody waits for
 * something else, the rest goes back on the list.
 */
const check: Work<JobData & { kind: 'check' }> = async ({ data, compute, database, jobs, announce, pressed, log, tries }) => {
  const rows = await database.rows<{ id: string; file: string }>(
    'select id, file from copy_now where master = $1 and id = any ($2) order by created_at, recipe',
    [data.master, data.copies],
  );
  const failures: string[] = [];
  for (const [done, { id, file }] of rows.entries()) {
    if (done && (await pressed())) {
      const rest = rows.slice(done).map((row) => row.id);
      await jobs.check(data.master, rest, undefined, data.label);
      break;
    }
    await announce(done, rows.length, 'running', file);
    try {
      await compute('check', { copy: id });
    } catch (error) {
      const { code, message } = asFailure(error);
      if (code === 'cancelled') await announce(done, rows.length, 'cancelled', `Stopped after ${done} of ${rows.length}`);
      if (code === 'cancelled' || isPassing(code, tries)) throw error;
      // Derived again or withdrawn meanwhile: there is nothing left to check.
      if (code === 'not-found') continue;
      log(`checking ${file}`, error);
      failures.push(`${file}: ${message}`);
    }
  }
  if (failures.length) throw new Failure('check-failed', failures.join(' '));
  await announce(rows.length, rows.length, 'done', '');
};

const stand: Work<JobData & { kind: 'stand' }> = async ({ data, compute, jobs }) => {
  const unknown = await compute('stand', { master: data.master });
  if (unknown.length) await jobs.check(data.master, unknown);
};

/** How each ordered copy stands is found first; only then it is known which are to be written again. */
const orders: Work<JobData & { kind: 'orders' }> = async ({ data: { master }, compute, database, jobs }) => {
  await askByOrders(database, jobs, master);
  const copies = await orderedCopies(database, master);
  if (!copies.length) return;
  const unknown = new Set(await compute('stand', { master }));
  for (const { id } of copies) if (unknown.has(id)) await compute('check', { copy: id });
  await deriveOrdered(database, jobs, master);
};

const file: Work<JobData & { kind: 'file' }> = async ({ data, compute, jobs }) => {
  const aside = await compute('file', { master: data.master });
  if (aside) await jobs.notice(data.master, 'set aside', aside);
};

const picture: Work<JobData & { kind: 'picture' }> = async ({ data, compute }) => {
  await compute('picture', { master: data.master });
};

/** How each kind of job is done. */
export const WORK = { derive, series, check, stand, orders, file, picture } as Readonly<
  Record<JobData['kind'], (input: WorkInput) => Promise<void>>
>;
