/// <reference lib="webworker" />
import { type Master, applyPatches, findBoard, carriesOf, footprintHash, recipeKey } from '@inkwell-twin/core/web';
import type { Patch } from '@inkwell-twin/core/web';

export interface ImpactCopy {
  readonly id: string;
  readonly target: string;
  readonly options: Record<string, string | number | boolean>;
  readonly board: string;
}
export type ImpactRequest =
  | { readonly kind: 'load'; readonly master: Master; readonly copies: readonly ImpactCopy[] }
  | { readonly kind: 'change'; readonly steps: readonly (readonly Patch[])[] };
/** Ids of the copies that carry something which the draft changed. */
export interface ImpactAnswer {
  readonly outdated: readonly string[];
}

// The document is kept here and only patches come over, so that unchanged nodes stay the same objects and their hashes hold.
let head: Master | undefined;
let copies: readonly ImpactCopy[] = [];
let done: { readonly patches: readonly Patch[]; readonly after: Master }[] = [];

function footprintOf(master: Master, { target, options, board }: ImpactCopy): string {
  const carries = carriesOf(target, options);
  const found = findBoard(master, board);
  return carries && found ? footprintHash(master, found, recipeKey({ id: target }, options), carries) : '';
}

addEventListener('message', ({ data }: MessageEvent<ImpactRequest>) => {
  if (data.kind === 'load') {
    head = data.master;
    copies = data.copies;
    done = [];
  } else if (head) {
    const next: typeof done = [];
    let now = head;
    data.steps.forEach((patches, i) => {
      const known = done[i];
      const same = known && JSON.stringify(known.patches) === JSON.stringify(patches) && next.length === i;
      now = same ? known.after : applyPatches(now, patches).master;
      next.push({ patches, after: now });
    });
    done = next;
  }
  if (!head) return;
  const [before, after] = [head, done.at(-1)?.after ?? head];
  const outdated = copies.filter((copy) => footprintOf(before, copy) !== footprintOf(after, copy)).map(({ id }) => id);
  postMessage({ outdated } satisfies ImpactAnswer);
});
