import { asFailure } from '@inkwell-twin/core';
import { TASKS, type Tasks } from './tasks';

/** Runs in a worker thread. Failures cross as plain data, because a thrown class would lose what it is. */
export default function run({ task, input }: { task: keyof Tasks; input: never }): unknown {
  try {
    return { value: TASKS[task](input) };
  } catch (error) {
    return { failure: asFailure(error).toJSON() };
  }
}
