import type { Signal } from '@angular/core';
import type { Command, Item, Master, Patch } from '@inkwell-twin/core/web';

/** What the fields of a slip are told, and what they tell: the slip itself is handed in as this. */
export abstract class SlipRoom {
  abstract readonly master: Signal<Master>;
  /** Whether nothing may be changed. */
  abstract readonly fixed: Signal<boolean>;
  /** What can't be computed of the object, by the attribute. */
  abstract readonly problems: Signal<Readonly<Record<string, string>>>;
  /** The object as it is kept: what is computed of it not computed. */
  abstract kept(item: Item): Item;
  /** A step for the draft; what was wrong before is no longer said. */
  abstract send(command: Command): void;
  /** What the master would be while one types; null where nothing is typed. */
  abstract tryOut(patches: readonly Patch[] | null): void;
  /** Says what is wrong with what was typed. */
  abstract say(problem: string): void;
}
