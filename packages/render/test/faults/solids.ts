import { type Changed, changedCopies } from '../../../core/test/faults/changed';

/** Copies of one solid, by extension, each changed by code that shares nothing with ours. */
export const changedSolids = (copies: Readonly<Record<string, Uint8Array>>, seed: number, each: number): Changed[] =>
  changedCopies('packages/render/test/faults/solids.py', copies, seed, each);
