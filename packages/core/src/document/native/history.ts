import { Failure } from '../../base/failure/failure';
import { applyPatches } from '../patches';
import type { Master } from '../schema';
import type { History, NativePackage } from './package';

/** Every revision of a history in turn, each sharing with the one before what did not change. */
export function* revisionsOf({
  first,
  revisions,
}: History): Generator<{ rev: number; time: string; message: string; author: string; master: Master }> {
  let master = first;
  for (const { rev, time, message, author, patches } of revisions) {
    master = applyPatches(master, patches).master;
    yield { rev, time, message, author, master };
  }
}

/** The master as it was at a revision; null when the package does not hold it. @throws Failure `revision-unknown` */
export function atRevision(pkg: NativePackage, rev: number): { master: Master; time: string } | null {
  if (rev > pkg.rev) throw new Failure('revision-unknown', `The copy is of r${rev}, but this master has only r1 to r${pkg.rev}.`);
  if (rev === pkg.rev) return { master: pkg.master, time: pkg.time };
  if (!pkg.history) return null;
  for (const one of revisionsOf(pkg.history)) if (one.rev === rev) return { master: one.master, time: one.time };
  return null;
}
