import type { Command } from '../../document/commands';
import type { Master } from '../../document/schema';
import type { HouseRules } from './house';

/** Something in a master that a standard of the house does not have so: one for everything that breaks it the same way. */
export interface Breach {
  readonly standard: string;
  readonly words: string;
  /** Ids of what breaks it. */
  readonly nodes: readonly string[];
  /** What would mend it; null where only a person can. */
  readonly repair: Command | null;
}

/** One standard of a house: what breaks it in a master. Nothing where the house leaves it free. */
export interface Standard {
  readonly id: string;
  readonly breaches: (master: Master, rules: HouseRules) => readonly Breach[];
}

/** What lies nearest to a number. */
export const nearest = (values: readonly number[], to: number): number =>
  values.reduce((best, one) => (Math.abs(one - to) < Math.abs(best - to) ? one : best));

/** Things that break a standard the same way, laid together by what they have in common. */
export function together<T>(found: Iterable<readonly [string, T]>): [string, T[]][] {
  const groups = new Map<string, T[]>();
  for (const [key, one] of found) {
    const group = groups.get(key);
    if (group) group.push(one);
    else groups.set(key, [one]);
  }
  return [...groups];
}

export const objects = (count: number): string => (count === 1 ? 'One object' : `${count} objects`);
