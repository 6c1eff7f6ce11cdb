import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import { Failure } from '@inkwell-twin/core';
import type { ThreadAnswer, ThreadWork } from '../check-thread';
import type { CheckedCopy } from './check-one';

const THREADS = 2;
/** Copies from which on it is worth to start threads: each takes half a second to load. */
export const MANY = 12;

const threadFile = fileURLToPath(new URL('./check-thread.mjs', import.meta.url));

/** Whether there are threads to work with: they are built beside the command. */
export const hasThreads = (): boolean => existsSync(threadFile);

/** What was found of a file, or why nothing can be told of it. */
export type Told = CheckedCopy | Failure;

/** Checks many copies of one master in threads, in the order of their files. @throws Failure `thread-lost` */
export async function checkMany(work: ThreadWork, copies: readonly string[]): Promise<Told[]> {
  const answers: ThreadAnswer[] = [];
  let next = 0;
  const one = async (): Promise<void> => {
    const thread = new Worker(threadFile, { workerData: work });
    try {
      await new Promise<void>((done, fail) => {
        const send = () => {
          if (next >= copies.length) return done();
          const number = next++;
          thread.postMessage({ number, file: copies[number] });
        };
        thread.on('message', (answer: ThreadAnswer) => {
          answers[answer.number] = answer;
          send();
        });
        thread.once('error', fail);
        // One that went without a word would be waited for without end.
        thread.once('exit', () =>
          fail(new Failure('thread-lost', 'A thread that checks ended by itself. Check fewer copies at once.')),
        );
        send();
      });
    } finally {
      await thread.terminate();
    }
  };
  await Promise.all(Array.from({ length: THREADS }, one));
  return answers.map(({ checked, failure }) => checked ?? new Failure(failure!.code, failure!.message, failure!.where));
}
