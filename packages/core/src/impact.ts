// What the worker of live impact needs, and no more: the document, its steps, and the footprints of copies.
import { footprintHash } from './copies/footprint';
import type { Recipe } from './copies/recipe';
import { applyPatches } from './document/patches';
import type { Patch } from './document/patch-schema';
import type { Master } from './document/schema';

export type { Master, Patch };
export type ImpactRecipe = Pick<Recipe, 'target' | 'options' | 'scope' | 'choices' | 'row'>;

/** Keeps a document and its draft, and says which copies the draft would outdate. */
export class ImpactWatch {
  /** The document after each step. */
  private readonly after: Master[] = [];

  constructor(private readonly head: Master) {}

  private get now(): Master {
    return this.after.at(-1) ?? this.head;
  }

  /** The draft from its step `from` on; the steps before stay as they are. */
  steps(from: number, steps: readonly (readonly Patch[])[]): void {
    this.after.length = Math.min(from, this.after.length);
    for (const patches of steps) this.after.push(applyPatches(this.now, patches).master);
  }

  /** Whether a copy that holds at the head would not hold after an update. */
  outdates(recipe: ImpactRecipe): boolean {
    return footprintHash(this.head, recipe) !== footprintHash(this.now, recipe);
  }
}
