import type { NotUnderstood } from '../contracts/not-understood';
import { type Difference, difference } from '../contracts/difference';

/**
 * What a copy shows that its reader did not understand, as differences: nobody can say that it says what the master says.
 * @param expected what the other side holds of the same kind; nothing where that is a master
 */
export function unreadDifferences(copy: readonly NotUnderstood[], expected: readonly NotUnderstood[] = []): Difference[] {
  const counts = (list: readonly NotUnderstood[]) =>
    new Map(list.filter(({ shows }) => shows).map(({ kind, count }) => [kind, count]));
  const [there, here] = [counts(expected), counts(copy)];
  return [...new Set([...there.keys(), ...here.keys()])].flatMap((kind) => {
    const [a, b] = [there.get(kind) ?? 0, here.get(kind) ?? 0];
    const words = (count: number) => (count ? `${count} ×` : 'none');
    return a === b ? [] : [difference('not understood', kind, { count: Math.abs(a - b), master: words(a), copy: words(b) })];
  });
}
