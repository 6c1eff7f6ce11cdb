import { digest } from '../base/bytes/hasher';
import type { Node } from './schema';
import { MAY_LACK, childLists } from './tree';

export { digest };

/** JSON with keys in order and without undefined: equal values give equal text. */
export function canonical(value: unknown): string {
  if (value === null || typeof value !== 'object') return JSON.stringify(value) ?? 'null';
  if (Array.isArray(value)) return `[${value.map(canonical).join(',')}]`;
  const entries = Object.entries(value)
    .filter(([, inner]) => inner !== undefined)
    .sort(([a], [b]) => (a < b ? -1 : 1));
  return `{${entries.map(([key, inner]) => `${JSON.stringify(key)}:${canonical(inner)}`).join(',')}}`;
}

const known = new WeakMap<Node, string>();

/** The hash of a node: its own attributes and its children's hashes. Kept per node object, so that only changed nodes cost. */
export function nodeHash(node: Node): string {
  let hash = known.get(node);
  if (hash) return hash;
  const lists = childLists(node);
  // An empty list that need not be there says what its absence says.
  const said = lists.filter(([list, children]) => children.length || !MAY_LACK.has(list));
  const own = Object.fromEntries(Object.entries(node).filter(([key]) => !lists.some(([list]) => list === key)));
  hash = digest(canonical([own, ...said.map(([list, children]) => [list, ...children.map(nodeHash)])]));
  known.set(node, hash);
  return hash;
}
