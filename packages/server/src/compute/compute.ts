import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import { Failure } from '@inkwell-twin/core';
import type { EngineSettings } from './engine';
import { FairQueue } from './fair-queue';
import { Refusal } from './refusal';
import { newStopwatch, watchWork } from './stopwatch';
import type { Tasks } from './tasks';
import type { CrossedFailure } from './worker';

/** Seconds of work after which a task is given up and its thread ended: hostile files end in bounded time. */
const TIME_LIMIT = 60;
/** Memory of one thread, MB. */
const MEMORY = 1536;
/** Room for what lives shortly, MB: reading and comparing make little else, and a thread's usual few megabytes halve its speed. */
const SHORT_LIVED = 128;

function workerFile(): string {
  const found = ['./compute.mjs', '../../../../dist/node/compute.mjs']
    .map((path) => fileURLToPath(new URL(path, import.meta.url)))
    .find((path) => existsSync(path));
  if (!found) throw new Failure('setup', 'dist/node/compute.mjs is missing. Run: npm run build');
  return found;
}

/** For whom a piece of work is, and how heavy it is. */
interface Turn {
  readonly queueKey: string;
  readonly large?: boolean;
  readonly signal?: AbortSignal;
  /** Seconds of work; TIME_LIMIT unless said. */
  readonly limit?: number;
}

type Answer<K extends keyof Tasks> = Awaited<ReturnType<Tasks[K]>>;

/** Worker threads for everything that is heavier than a few rows; who asks takes turns. */
export class Compute {
  private readonly pool: Piscina;
  private readonly queue: FairQueue;

  constructor(settings: EngineSettings, concurrency: number) {
    this.queue = new FairQueue(concurrency);
    this.pool = new Piscina({
      filename: workerFile(),
      // A thread takes a second to load: it starts when it is first asked for.
      minThreads: 0,
      maxThreads: concurrency,
      idleTimeout: 120_000,
      workerData: settings,
      // Waiting for work, a thread still has to notice that its connections to the database were lost.
      atomics: 'disabled',
      resourceLimits: { maxOldGenerationSizeMb: MEMORY, maxYoungGenerationSizeMb: SHORT_LIVED },
    });
  }

  /** @throws Failure `too-long` or `too-large` when the task outgrew its limits, `cancelled`, or what the task failed with */
  run<K extends keyof Tasks>(task: K, input: Parameters<Tasks[K]>[1], turn: Turn): Promise<Answer<K>> {
    const work = () => this.work(task, input, turn);
    return this.queue.run(turn.queueKey, turn.large ?? false, work) as Promise<Answer<K>>;
  }

  private async work(task: string, input: unknown, { signal, limit = TIME_LIMIT }: Turn): Promise<unknown> {
    if (signal?.aborted) throw whyStopped(signal);
    const time = new AbortController();
    const either = signal ? AbortSignal.any([time.signal, signal]) : time.signal;
    const watch = newStopwatch();
    const stop = watchWork(watch, limit, () => time.abort());
    let answer: { value?: unknown; failure?: CrossedFailure };
    try {
      answer = await this.pool.run({ task, input, watch }, { signal: either });
    } catch (error) {
      if (signal?.aborted) throw whyStopped(signal);
      if (time.signal.aborted) throw new Failure('too-long', `This took longer than ${limit} seconds and was stopped.`);
      throw /memory|terminated/i.test((error as Error).message)
        ? new Failure('too-large', 'This needs more memory than there is for one document.')
        : error;
    } finally {
      stop();
    }
    if (answer.failure) throw thrown(answer.failure);
    return answer.value;
  }

  close(): Promise<void> {
    return this.pool.destroy();
  }
}

const whyStopped = ({ reason }: AbortSignal): Failure =>
  reason instanceof Failure ? reason : new Failure('cancelled', 'It was cancelled.');

function thrown({ code, message, where, there, stack }: CrossedFailure): Failure {
  const failure = there === undefined ? new Failure(code, message, where) : new Refusal(message, there);
  // A surprise keeps its own trace, for the log.
  if (code === 'unexpected' && stack) failure.stack = stack;
  return failure;
}
