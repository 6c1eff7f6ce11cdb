import type { Item, Master } from '@inkwell-twin/core/web';

/** The lists of parts that a field can choose from. */
const PART_LISTS = ['tables', 'solids', 'texts'] as const;

/** The value of an attribute, `style.fill` and the like included. */
export function valueOf(item: Item, attribute: string): unknown {
  const [first, second] = attribute.split('.') as [string, string | undefined];
  const value = (item as Record<string, unknown>)[first];
  return second ? (value as Record<string, unknown> | undefined)?.[second] : value;
}

/** The parts of a master that a field chooses from, by the list it names. */
export function partsOf(master: Master, list: string | undefined): readonly { readonly id: string; readonly name: string }[] {
  const found = PART_LISTS.find((one) => one === list);
  return (found && master[found]) ?? [];
}
