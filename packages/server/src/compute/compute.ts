import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import { Failure } from '@inkwell-twin/core';
import type { Tasks } from './tasks';

/** Seconds after which a task is given up and its worker ended: hostile files end in bounded time. */
const TIME_LIMIT = 60;
/** Memory of one worker, MB. */
const MEMORY = 1536;
/** Room for what lives shortly, MB: reading and comparing make little else, and a worker's usual few megabytes halve its speed. */
const SHORT_LIVED = 128;

function workerFile(): string {
  const found = ['./compute.mjs', '../../../../dist/compute.mjs']
    .map((path) => fileURLToPath(new URL(path, import.meta.url)))
    .find((path) => existsSync(path));
  if (!found) throw new Failure('setup', 'dist/compute.mjs is missing. Run: npm run build');
  return found;
}

/** Worker threads for what takes longer than a request should. */
export class Compute {
  private readonly pool = new Piscina({
    filename: workerFile(),
    minThreads: 1,
    maxThreads: 2,
    idleTimeout: 30_000,
    resourceLimits: { maxOldGenerationSizeMb: MEMORY, maxYoungGenerationSizeMb: SHORT_LIVED },
  });

  async run<K extends keyof Tasks>(task: K, input: Parameters<Tasks[K]>[0]): Promise<ReturnType<Tasks[K]>> {
    const signal = AbortSignal.timeout(TIME_LIMIT * 1000);
    let answer: { value?: ReturnType<Tasks[K]>; failure?: { code: string; message: string; where: object } };
    try {
      answer = await this.pool.run({ task, input }, { signal });
    } catch (error) {
      if (signal.aborted) throw new Failure('too-long', `This took longer than ${TIME_LIMIT} seconds and was stopped.`);
      const text = (error as Error).message;
      throw /memory|terminated/i.test(text)
        ? new Failure('too-large', 'This needs more memory than there is for one document.')
        : error;
    }
    if (answer.failure) throw new Failure(answer.failure.code, answer.failure.message, answer.failure.where);
    return answer.value as ReturnType<Tasks[K]>;
  }

  close(): Promise<void> {
    return this.pool.destroy();
  }
}
