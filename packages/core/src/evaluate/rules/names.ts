import type { NamingRule } from '../../base/naming/naming';
import type { HouseRules } from './house';

/** The naming rule of a house, and the pattern of the names of its copies. */
export const namingOf = ({
  names: { parts, separator, ...rest },
}: Pick<HouseRules, 'names'>): { rule: NamingRule; pattern: string } => ({
  rule: { ...rest, separator },
  pattern: parts.map((part) => (part === 'rev' ? 'r{rev}' : `{${part}}`)).join(separator),
});
