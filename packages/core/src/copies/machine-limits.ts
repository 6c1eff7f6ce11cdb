import { machineOf } from '../base/machines';
import { Failure } from '../base/failure/failure';
import type { CopyFile } from '../contracts/codec';
import type { Finding } from '../contracts/finding';
import type { Recipe } from './recipe';

/** What is too much of a copy for the memory of its machine; null where it fits, or is for no machine that is known. */
export function overMemory({ options }: Recipe, files: readonly Pick<CopyFile, 'bytes'>[]): Finding | null {
  const word = String(options['machine'] ?? '');
  if (!word) return null;
  const { name, limits } = machineOf(word);
  const bytes = files.reduce((sum, file) => sum + file.bytes.length, 0);
  if (bytes <= limits.bytes) return null;
  const words = `The file has ${bytes} bytes, and the ${name} holds ${limits.bytes}. Make several copies, each of some of the objects.`;
  return { kind: 'over a limit', words, objects: [], place: null, amount: bytes - limits.bytes, unit: 'bytes', mends: [] };
}

/** @throws Failure `does-not-fit` for a copy that its machine has no memory for */
export function assertInMemory(recipe: Recipe, files: readonly Pick<CopyFile, 'bytes'>[]): void {
  const over = overMemory(recipe, files);
  if (over) throw new Failure('does-not-fit', over.words, {});
}
