import { type Item } from '@inkwell-twin/core/web';

/** The value of an attribute, `style.fill` and the like included. */
export function valueOf(item: Item, attribute: string): unknown {
  const [first, second] = attribute.split('.') as [string, string | undefined];
  const value = (item as Record<string, unknown>)[first];
  return second ? (value as Record<string, unknown> | undefined)?.[second] : value;
}
