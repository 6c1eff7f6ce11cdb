import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { MasterView } from '@inkwell-twin/api';
import { type Master, type Step, journalHashes, setAttribute, stepOf } from '@inkwell-twin/core';
import { atDepth, isLong } from '../../core/test/depth';
import { freshDatabase } from './database';
import { type Who, headersOf, until } from './harness';
import { Running, RunningServer } from './processes';

const CROWD = atDepth(
  { masters: 10, readers: 5, writers: 3, browsers: 3, windows: 4, rounds: 4 },
  { masters: 300, readers: 50, writers: 10, browsers: 50, windows: 4, rounds: 0 },
);
/** How long the long one goes on, ms; the usual one ends after so many rounds of each person. */
const LASTS = 180_000;
const LOOKS = 12;

let folder: string;
let server: RunningServer;
let worker: Running;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'inkwell-crowd-'));
  const place = { database: (await freshDatabase('crowd')).app, shelf: join(folder, 'shelf') };
  server = await RunningServer.on(place);
  worker = Running.worker(place);
  server.begin();
  await server.ready();
  worker.begin();
});
afterAll(async () => {
  await Promise.all([server.kill(), worker.kill()]);
  server.tidy();
  rmSync(folder, { recursive: true, force: true });
});

const person = (what: string, i: number): Who => ({ id: `${what}-of-the-crowd-${i}`, name: `${what} ${i}` });

/** Files of all kinds of content, none like another. */
const BROUGHT: readonly ((i: number) => readonly [name: string, text: string])[] = [
  (i) => [
    `plate ${i}.svg`,
    `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="50mm" viewBox="0 0 80 50">${Array.from(
      { length: 20 },
      (_, k) => `<rect x="${k * 3}" y="${(k * i) % 40}" width="2" height="5" fill="#2b4180"/>`,
    ).join('')}</svg>`,
  ],
  (i) => [`series ${i}.csv`, `time,load\n${Array.from({ length: 60 }, (_, k) => `${k},${((k * i) % 17) / 4}`).join('\n')}\n`],
  (i) => [`notes ${i}.txt`, Array.from({ length: 12 }, (_, k) => `Paragraph ${k} of note ${i}.`).join('\n\n')],
  (i) => [`wedge ${i}.obj`, `v 0 0 0\nv ${10 + i} 0 0\nv 0 10 0\nv 0 0 10\nf 1 3 2\nf 1 2 4\nf 2 3 4\nf 3 1 4\n`],
];

interface Answer {
  readonly what: string;
  readonly ms: number;
}
const answers: Answer[] = [];
/** What is asked again, as a browser does. */
const LATER = ['unavailable', 'busy', 'too-slow'];
/** Refusals that said what they were, by code. */
const told = new Map<string, number>();

/**
 * Asks, keeps how long it took, and fails where an answer is an error that says nothing.
 * @param refusals those that may be told; all where nothing is said
 */
async function ask<T>(
  what: string,
  method: string,
  path: string,
  body?: unknown,
  who?: Who,
  refusals?: readonly string[],
): Promise<T | null> {
  const start = performance.now();
  const response = await fetch(server.url + path, {
    method,
    headers: { ...(who ? headersOf(who) : {}), ...(body === undefined ? {} : { 'Content-Type': 'application/json' }) },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  const bytes = Buffer.from(await response.arrayBuffer());
  answers.push({ what, ms: performance.now() - start });
  const isJson = /json/.test(response.headers.get('content-type') ?? '');
  if (response.ok) return (isJson && bytes.length ? JSON.parse(bytes.toString()) : null) as T | null;
  const { error } = (isJson ? JSON.parse(bytes.toString()) : {}) as { error?: { code: string; message: string } };
  if (!error?.message || error.code === 'unexpected' || (response.status >= 500 && response.status !== 503))
    throw new Error(`${response.status} to ${method} ${path}: ${bytes.toString().slice(0, 300)}`);
  if (refusals && !refusals.includes(error.code))
    throw new Error(`${response.status} to ${method} ${path}: ${error.code}, ${error.message}`);
  told.set(error.code, (told.get(error.code) ?? 0) + 1);
  return null;
}

/** Asks again, as a browser does, where the server said that it can't just now. */
async function insist<T>(what: string, method: string, path: string, body?: unknown, who?: Who): Promise<T> {
  let answer: T | null = null;
  await until(async () => (answer = await ask<T>(what, method, path, body, who, LATER)) !== null, `${method} ${path} is done`);
  return answer as unknown as T;
}

/** What the server holds in memory, MB (proc(5), VmRSS). */
const held = (): number => Number(/VmRSS:\s*(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))![1]) / 1024;

const ids: string[] = [];
let isOver = false;
/** Whether a person goes on after so many rounds. */
const goesOn = (round: number): boolean => !isOver && (isLong || round < CROWD.rounds);

async function bringIn(i: number): Promise<void> {
  const [name, text] = BROUGHT[i % BROUGHT.length]!(i);
  const response = await fetch(`${server.url}/api/bring-in?name=${encodeURIComponent(name)}`, { method: 'POST', body: text });
  const { id } = (await response.json()) as { id: string };
  expect([name, response.status, typeof id]).toEqual([name, 200, 'string']);
  // They come in several at a time, and in whatever order.
  ids[i] = id;
}

async function read(i: number): Promise<void> {
  const who = person('Reader', i);
  for (let round = 0; goesOn(round); round++) {
    const id = ids[(i * 37 + round * 11) % ids.length]!;
    await ask('desk', 'GET', '/api/desk', undefined, who);
    const view = MasterView.parse(await insist('master', 'GET', `/api/masters/${id}`, undefined, who));
    await ask('revision', 'GET', `/api/masters/${id}/revisions/${view.head}?life=${view.life}`, undefined, who);
    await ask('picture', 'GET', `/api/masters/${id}/picture.png`, undefined, who);
    const [copy] = view.copies;
    if (copy) await ask('match', 'GET', `/api/copies/${copy.id}/match?leaf=0`, undefined, who);
    await new Promise((later) => setTimeout(later, 100));
  }
}

/** Each writes to masters of their own, all of which have copies. */
async function write(i: number): Promise<void> {
  const who = person('Writer', i);
  const id = ids[i * BROUGHT.length]!;
  await insist('new copy', 'POST', `/api/masters/${id}/copies`, { target: 'svg', label: 'page' }, who);
  const { life, head } = MasterView.parse(await insist('master', 'GET', `/api/masters/${id}`, undefined, who));
  let rev = head;
  const opened = await insist<{ document: Master }>('revision', 'GET', `/api/masters/${id}/revisions/${rev}`, undefined, who);
  let after = opened.document;
  for (let round = 0; goesOn(round); round++) {
    const steps: Step[] = [];
    for (let k = 0; k < 5; k++) {
      const { label, patches } = setAttribute(after, after.boards[0]!.id, 'name', `Name ${round} ${k}`);
      const { master, step } = stepOf(after, label, patches);
      const hash = journalHashes(life, rev, steps).at(-1);
      const body = { base: rev, position: steps.length, hash, steps: [step] };
      await insist('step', 'POST', `/api/masters/${id}/draft/steps`, body, who);
      steps.push(step);
      after = master;
    }
    const hash = journalHashes(life, rev, steps).at(-1);
    const body = { base: rev, position: steps.length, hash, message: '' };
    await insist('update', 'POST', `/api/masters/${id}/update`, body, who);
    rev++;
    const { copies } = MasterView.parse(await insist('master', 'GET', `/api/masters/${id}`, undefined, who));
    await insist('derive', 'POST', `/api/copies/${copies[0]!.id}/derive`, undefined, who);
  }
}

/** A browser with its windows, each at a master, which it changes now and then; it counts what it hears. */
async function look(i: number, heard: Map<number, number>): Promise<void> {
  const stop = new AbortController();
  const stream = `crowd-${i}-0123456789`;
  const answer = await fetch(`${server.url}/api/events?stream=${stream}`, { signal: stop.signal });
  expect(answer.status).toBe(200);
  const listening = (async () => {
    for await (const chunk of answer.body! as unknown as AsyncIterable<Uint8Array>)
      heard.set(i, (heard.get(i) ?? 0) + Buffer.from(chunk).toString().split('data: ').length - 1);
  })().catch(() => undefined);
  for (let round = 0; goesOn(round); round++) {
    const windows = Array.from({ length: CROWD.windows }, (_, k) => ({
      tab: `${stream} ${k}`,
      master: ids[(i * CROWD.windows + k + round) % ids.length]!,
    }));
    await ask('windows', 'PUT', `/api/streams/${stream}`, { windows }, person('Looker', i));
    await new Promise((later) => setTimeout(later, isLong ? 3000 : 100));
  }
  stop.abort();
  await listening;
}

const at = (sorted: readonly number[], share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0;

it(`${CROWD.masters} masters, ${CROWD.readers} readers, ${CROWD.writers} writers and ${CROWD.browsers * CROWD.windows} windows: no error but told ones, and memory stays`, async () => {
  // Four at a time, as a browser sends what somebody drops.
  for (let i = 0; i < CROWD.masters; i += 4)
    await Promise.all(Array.from({ length: Math.min(4, CROWD.masters - i) }, (_, k) => bringIn(i + k)));
  const heard = new Map<number, number>();
  const each = (count: number, one: (i: number) => Promise<void>) => Array.from({ length: count }, (_, i) => one(i));
  const crowd = Promise.all([
    ...each(CROWD.readers, read),
    ...each(CROWD.writers, write),
    ...each(CROWD.browsers, (i) => look(i, heard)),
  ]);
  crowd.catch(() => (isOver = true));
  const memory: number[] = [];
  if (isLong) {
    for (let i = 0; i < LOOKS && !isOver; i++) {
      await new Promise((later) => setTimeout(later, LASTS / LOOKS));
      memory.push(Math.round(held()));
    }
    isOver = true;
  }
  await crowd;
  for (const what of new Set(answers.map((one) => one.what))) {
    const times = answers.flatMap((one) => (one.what === what ? [one.ms] : [])).sort((a, b) => a - b);
    console.log(
      `${what}: ${times.length}, half within ${at(times, 0.5).toFixed(0)} ms, 95 of 100 within ${at(times, 0.95).toFixed(0)} ms`,
    );
  }
  console.log(`told: ${JSON.stringify([...told])}; the server held ${memory.join(', ') || held().toFixed(0)} MB`);
  // Everybody who listens was told of the others.
  expect(heard.size).toBe(CROWD.browsers);
  const half = (list: readonly number[]) =>
    at(
      [...list].sort((a, b) => a - b),
      0.5,
    );
  if (isLong) expect(half(memory.slice(-4))).toBeLessThan(1.25 * half(memory.slice(3, 7)));
  // When they have gone, all is done, and every copy that was asked for is of the last revision.
  for (let i = 0; i < CROWD.writers; i++) {
    let stands: unknown;
    await until(
      async () => {
        const { head, copies, notices } = MasterView.parse(
          await insist('master', 'GET', `/api/masters/${ids[i * BROUGHT.length]!}`),
        );
        stands = { head, copies: copies.map(({ rev, verdict, proof }) => ({ rev, verdict, proof })), notices };
        return copies.every(({ verdict, rev }) => verdict === 'in step' && rev === head);
      },
      () => `copies of the last revision: ${JSON.stringify(stands)}, told ${JSON.stringify([...told])}`,
    );
  }
});
