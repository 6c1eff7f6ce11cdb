import { type Recipe, changedParts, findNode, footprintHash, footprintOf, missingOf, nodeOfMaster } from '@inkwell-twin/core';
import type { LoadedMaster, LoadedRevision } from '../masters/store';

/** The run of revisions for which nothing that a copy carries changed, and what ended it. */
interface Span {
  readonly until: number;
  readonly endedBy: string | null;
}

/** Asks the *fresh* question over all revisions after the one that a copy was made from. */
export function spanOf({ revisions }: LoadedMaster, recipe: Recipe, rev: number): Span {
  const start = revisions[rev - 1];
  if (!start) return { until: rev, endedBy: null };
  const footprint = footprintHash(start.master, recipe);
  for (let i = rev; i < revisions.length; i++) {
    const next = revisions[i]!;
    if (footprintHash(next.master, recipe) !== footprint)
      return { until: next.rev - 1, endedBy: whatEnded(revisions[i - 1]!, next, recipe) };
  }
  return { until: revisions.at(-1)!.rev, endedBy: null };
}

function whatEnded(before: LoadedRevision, after: LoadedRevision, recipe: Recipe): string {
  const missing = [before, after].map(({ master }) => missingOf(master, recipe)[0]);
  if (missing[0] || missing[1])
    return `r${after.rev} ${missing[1] ? 'took away' : 'brought'} the ${(missing[1] ?? missing[0])!.word} it is made from`;
  const changed = [...changedParts(footprintOf(before.master, recipe), footprintOf(after.master, recipe)).keys()];
  const [now, then] = [after.master, before.master].map((master) => {
    const node = changed[0] === undefined ? undefined : findNode(master, changed[0]);
    return node && nodeOfMaster(master, node);
  });
  const first = now ?? then;
  const what = first ? `${first}${changed.length > 1 ? ` and ${changed.length - 1} more` : ''}` : 'a layer or symbol';
  return `r${after.rev} changed ${what}${after.message ? `: “${after.message}”` : ''}`;
}
