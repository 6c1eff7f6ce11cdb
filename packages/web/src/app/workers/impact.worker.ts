/// <reference lib="webworker" />
import { type ImpactRecipe, ImpactWatch, type Master, type Patch } from '@inkwell-twin/core/impact';

export interface ImpactCopy extends ImpactRecipe {
  readonly id: string;
}
export type ImpactRequest =
  | { readonly kind: 'document'; readonly master: Master }
  | { readonly kind: 'copies'; readonly copies: readonly ImpactCopy[] }
  /** The draft from its step `from` on; what came before is known here. */
  | { readonly kind: 'steps'; readonly from: number; readonly steps: readonly (readonly Patch[])[] };
/** Ids of the copies that carry something which the draft changed. */
export interface ImpactAnswer {
  readonly outdated: readonly string[];
}

// The document is kept here and only new steps come over, so that unchanged nodes stay the same objects and their hashes hold.
let watch: ImpactWatch | undefined;
let copies: readonly ImpactCopy[] = [];

addEventListener('message', ({ data }: MessageEvent<ImpactRequest>) => {
  if (data.kind === 'document') watch = new ImpactWatch(data.master);
  else if (data.kind === 'copies') copies = data.copies;
  else watch?.steps(data.from, data.steps);
  if (watch) postMessage({ outdated: copies.filter((copy) => watch!.outdates(copy)).map(({ id }) => id) } satisfies ImpactAnswer);
});
