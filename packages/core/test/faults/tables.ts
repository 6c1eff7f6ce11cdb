import { type Changed, changedCopies } from './changed';

/** Copies of one table, by target, each changed by libraries that share nothing with ours. */
export const changedTables = (
  copies: Readonly<Record<string, Uint8Array>>,
  seed: number,
  each: number,
): (Omit<Changed, 'extension'> & { readonly target: string })[] =>
  changedCopies('packages/core/test/faults/tables.py', copies, seed, each).map(({ extension, ...one }) => ({
    target: extension,
    ...one,
  }));
