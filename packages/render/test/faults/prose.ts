import { type Changed, changedCopies } from '../../../core/test/faults/changed';

/** Copies of one text, by extension, each changed by code that shares nothing with ours. */
export const changedTexts = (copies: Readonly<Record<string, Uint8Array>>, seed: number, each: number): Changed[] =>
  changedCopies('packages/render/test/faults/prose.py', copies, seed, each);
