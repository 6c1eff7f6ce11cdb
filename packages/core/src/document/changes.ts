import type { Patch } from './patches';
import type { Master, Node } from './schema';
import { canonical, nodeHash } from './hash';
import { type ListName, childLists } from './tree';

/**
 * What changed between two revisions, as patches from the first to the second. Walks only where hashes differ.
 * A node that moved in its list is taken out and put in again.
 */
export function changesBetween(before: Master, after: Master): Patch[] {
  const patches: Patch[] = [];
  walk(before, after, patches);
  return patches;
}

/** What changed between a node and what an edit made of it, as patches. */
export function nodeChanges(before: Node, after: Node): Patch[] {
  const patches: Patch[] = [];
  walk(before, after, patches);
  return patches;
}

/** Whether two nodes have a child in common, as a node has with what an edit made of it. */
function shareChildren(before: Node, after: Node): boolean {
  const others = new Map<string, readonly Node[]>(childLists(after));
  return childLists(before).some(([list, children]) => children.some((child, i) => others.get(list)?.[i] === child));
}

/** Attributes that change part by part. */
const PARTED: ReadonlySet<string> = new Set(['style', 'cells', 'formulas']);

function walk(before: Node, after: Node, patches: Patch[]): void {
  if (before === after) return;
  // Between a node and its edited self the shared children tell more than hashes would, and cost nothing.
  if (!shareChildren(before, after) && nodeHash(before) === nodeHash(after)) return;
  const lists = new Set<string>([...childLists(before), ...childLists(after)].map(([list]) => list));
  const [a, b] = [before as Record<string, unknown>, after as Record<string, unknown>];
  for (const key of new Set([...Object.keys(a), ...Object.keys(b)])) {
    if (lists.has(key) || key === 'id' || canonical(a[key]) === canonical(b[key])) continue;
    if (PARTED.has(key) && a[key] && b[key]) {
      const [s, t] = [a[key] as Record<string, unknown>, b[key] as Record<string, unknown>];
      for (const part of new Set([...Object.keys(s), ...Object.keys(t)]))
        if (canonical(s[part]) !== canonical(t[part]))
          patches.push({ op: 'set', node: before.id, attribute: `${key}.${part}`, value: t[part] });
    } else patches.push({ op: 'set', node: before.id, attribute: key, value: b[key] });
  }
  for (const list of lists) walkList(before, after, list as ListName, patches);
}

function walkList(before: Node, after: Node, list: ListName, patches: Patch[]): void {
  const olds = ((before as never)[list] ?? []) as Node[];
  const news = ((after as never)[list] ?? []) as Node[];
  const byId = new Map(olds.map((node) => [node.id, node]));
  const wanted = new Set(news.map(({ id }) => id));
  // Insert before remove: a list that must not become empty never does.
  const order = olds.map(({ id }) => id).filter((id) => wanted.has(id));
  const stay = new Set(
    longestCommon(
      order,
      news.map(({ id }) => id),
    ),
  );
  const removals: Patch[] = olds
    .filter(({ id }) => !stay.has(id))
    .map(({ id }) => ({ op: 'remove', parent: before.id, list, node: id }));
  const movedAway = removals.filter((patch) => patch.op === 'remove' && wanted.has(patch.node));
  patches.push(...movedAway);
  let after_: string | null = null;
  for (const node of news) {
    if (stay.has(node.id)) walk(byId.get(node.id)!, node, patches);
    else patches.push({ op: 'insert', parent: before.id, list, after: after_, node });
    after_ = node.id;
  }
  patches.push(...removals.filter((patch) => !movedAway.includes(patch)));
}

/** The longest run of `a` that is in `b` in the same order; `a` holds no id twice. */
function longestCommon(a: readonly string[], b: readonly string[]): string[] {
  const place = new Map(b.map((id, i) => [id, i]));
  const tails: { at: number; id: string; previous: number }[] = [];
  const nodes: { id: string; previous: number }[] = [];
  const tops: number[] = [];
  for (const id of a) {
    const at = place.get(id)!;
    let low = 0;
    let high = tails.length;
    while (low < high) {
      const mid = (low + high) >> 1;
      if (tails[mid]!.at < at) low = mid + 1;
      else high = mid;
    }
    nodes.push({ id, previous: low ? tops[low - 1]! : -1 });
    tails[low] = { at, id, previous: 0 };
    tops[low] = nodes.length - 1;
  }
  const run: string[] = [];
  for (let i = tops.length ? tops.at(-1)! : -1; i >= 0; i = nodes[i]!.previous) run.unshift(nodes[i]!.id);
  return run;
}
