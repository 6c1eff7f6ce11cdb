import { workerData } from 'node:worker_threads';
import { asFailure, type FailureCode } from '@inkwell-twin/core';
import { databaseFailure } from '../database/failures';
import { diskFailure } from '../shelf/failures';
import { Engine, type EngineSettings } from './engine';
import { Refusal } from './refusal';
import { begin } from './stopwatch';
import { TASKS, type Tasks } from './tasks';

let engine: Engine | undefined;

/** How a failure crosses: as plain data, because a thrown class would lose what it is. */
export interface CrossedFailure {
  readonly code: FailureCode;
  readonly message: string;
  readonly where: object;
  readonly there?: unknown;
  readonly stack?: string | undefined;
}

/** Runs in a worker thread. */
export default async function run({
  task,
  input,
  watch,
}: {
  task: keyof Tasks;
  input: never;
  watch: Int32Array;
}): Promise<unknown> {
  begin(watch);
  try {
    // The pool hands its own settings over as the first of a pair.
    engine ??= new Engine((Array.isArray(workerData) ? workerData[1] : workerData) as EngineSettings);
    return { value: await TASKS[task](engine, input) };
  } catch (thrown) {
    const error = diskFailure(databaseFailure(thrown));
    const failure: CrossedFailure = {
      ...asFailure(error).toJSON(),
      ...(error instanceof Refusal ? { there: error.there } : {}),
      stack: error instanceof Error ? error.stack : undefined,
    };
    return { failure };
  }
}
