import type { Choice } from './schemas';
import type { OptionValue } from './declaration';

/**
 * Options under which the laws are tried on a format: equal footprints mean equal copies, what is carried and changed is found,
 * and a copy reads back as what was said. Ones that carry differently, each once.
 */
export type LawRecipes = readonly {
  readonly options: Readonly<Record<string, OptionValue>>;
  /** All that the master has, where a copy can say it; otherwise its first. */
  readonly of?: 'master';
  readonly choices?: readonly Choice[];
}[];
