import type { Options } from '../contracts/declaration';
import type { Master } from '../document/schema';

/** What a master says of every copy in pixels: its options of that name. */
const SAID = ['ppi', 'profile'] as const;

/**
 * Options of a copy, those that nobody asked for as its master has them.
 * @param names of the options that its target has
 */
export function optionsByMaster<T extends Options[string]>(
  { ppi, profile }: Pick<Master, 'ppi' | 'profile'>,
  names: readonly string[],
  asked: Readonly<Record<string, T>>,
): Record<string, T | number | string> {
  const said = { ppi, profile };
  const own = SAID.flatMap((name) => (names.includes(name) && said[name] !== undefined ? [[name, said[name]] as const] : []));
  return { ...Object.fromEntries(own), ...asked };
}
