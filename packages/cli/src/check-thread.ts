import { parentPort, workerData } from 'node:worker_threads';
import { asFailure, type FailureCode } from '@inkwell-twin/core';
import { type CheckArguments, type CheckedCopy, checkOne } from './commands/check-one';
import { readMaster } from './files';

/** What a thread is told when it starts. */
export interface ThreadWork {
  readonly masterFile: string;
  readonly args: CheckArguments;
  /** The folder that names of files start from. */
  readonly folder: string;
}

/** What it answers for each file that it is sent. */
export interface ThreadAnswer {
  readonly number: number;
  readonly checked?: CheckedCopy;
  readonly failure?: { readonly code: FailureCode; readonly message: string; readonly where: object };
}

const { masterFile, args, folder } = workerData as ThreadWork;
process.cwd = () => folder;
const pkg = readMaster(masterFile);

parentPort!.on('message', ({ number, file }: { number: number; file: string }) => {
  const answer = (one: Omit<ThreadAnswer, 'number'>) => parentPort!.postMessage({ number, ...one } satisfies ThreadAnswer);
  checkOne(pkg, file, args).then(
    (checked) => answer({ checked }),
    (error: unknown) => answer({ failure: asFailure(error).toJSON() }),
  );
});
