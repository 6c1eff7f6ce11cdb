import type { Codec, CopyFile } from '../contracts/codec';
import type { Services } from '../contracts/services';
import { Failure } from '../base/failure/failure';
import { declarationOf } from '../formats/declarations';
import { codecOf } from '../formats/registry';
import type { Derived } from './derive';
import { digestOf } from './compare-contents';
import { assertPassword } from './password';
import type { Recipe } from './recipe';

/** @throws Failure `option-invalid` where copies of such a recipe can't be locked */
export function assertLocks({ target, options }: Pick<Recipe, 'target' | 'options'>): void {
  const { label, locks } = declarationOf(target);
  if (locks?.(options)) return;
  throw new Failure(
    'option-invalid',
    locks
      ? `${label} by these options are to stay readable for good, and can’t have a password. Choose another version.`
      : `${label} can’t be locked with a password. Choose PDF, or lock what you send it in.`,
  );
}

/**
 * A copy that only opens with a password, and what its files are: read back through the lock, they must say what they said.
 * @throws Failure `password-invalid`, `option-invalid`
 */
export async function locked(made: Derived, recipe: Recipe, password: string, services: Services): Promise<Derived> {
  assertPassword(password);
  assertLocks(recipe);
  const codec = await codecOf(recipe.target);
  const files = await Promise.all(
    made.files.map(async ({ part, bytes }) => ({ part, bytes: await codec.lock!.close(bytes, password) })),
  );
  const back = await codec.read(await opened(codec, files, password), { options: recipe.options }, services);
  if (digestOf(back) !== made.says)
    throw new Failure('defect', 'The copy was not written: behind its lock, it says something else. This is a defect of ours.');
  return { ...made, files };
}

/**
 * A copy's files without their lock; the same where they have none.
 * @throws Failure `password-missing` where one is needed, `password-wrong`
 */
export async function opened(
  { lock }: Codec,
  files: readonly CopyFile[],
  password: string | undefined,
): Promise<readonly CopyFile[]> {
  if (!lock || !files.some(({ bytes }) => lock.isLocked(bytes))) return files;
  return Promise.all(
    files.map(async (file) => {
      if (!lock.isLocked(file.bytes)) return file;
      // One that is locked against changes alone opens with none.
      const bytes = await lock.open(file.bytes, password ?? '').catch((error: unknown) => {
        if (password !== undefined || !(error instanceof Failure)) throw error;
        throw new Failure('password-missing', 'The file is locked with a password, and nothing can be said of it without.');
      });
      return { ...file, bytes };
    }),
  );
}

/** The mark of origin of a file that may be locked; null where it has none that can be read. */
export const markOutside = ({ lock }: Codec, bytes: Uint8Array): string | null =>
  lock?.isLocked(bytes) ? lock.mark(bytes) : null;
