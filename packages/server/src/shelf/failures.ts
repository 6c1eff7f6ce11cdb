import { Failure, type FailureCode } from '@inkwell-twin/core';

const MEANINGS: Readonly<Record<string, readonly [code: FailureCode, message: string]>> = {
  ENOSPC: ['no-room', 'there is no room left on its disk'],
  EDQUOT: ['no-room', 'the room that this account may use on its disk is full'],
  EFBIG: ['no-room', 'its disk takes no file as large'],
  EROFS: ['no-room', 'its disk can only be read'],
  EACCES: ['no-room', 'this program may not write there'],
  EPERM: ['no-room', 'this program may not write there'],
  EIO: ['no-room', 'its disk fails'],
  EMFILE: ['no-room', 'too many files are open'],
};

/** A file system's error as a failure with words; anything else as it came. What was there stays as it was. */
export function diskFailure(error: unknown): unknown {
  if (error instanceof Failure || typeof error !== 'object' || error === null) return error;
  const meaning = MEANINGS[String((error as NodeJS.ErrnoException).code)];
  return meaning
    ? Object.assign(new Failure(meaning[0], `The shelf can’t be written: ${meaning[1]}. What stands there stays as it was.`), {
        cause: error,
      })
    : error;
}
