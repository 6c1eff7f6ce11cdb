import { type Matrix, identity } from '../base/geometry/matrix';
import { changesBetween } from './changes';
import { shiftInWords, wordOf } from './commands';
import type { Patch } from './patches';
import type { Board, Master, Node } from './schema';
import { findNode, nodeInWords, pathTo } from './tree';

/** What became of one node between two states of a master: in words, and the patches that do it. */
export interface NodeChange {
  readonly node: string;
  /** "Arrow on Front". */
  readonly what: string;
  /** "moved 4 mm right; line width 0.5 → 0.8". */
  readonly how: string;
  readonly patches: readonly Patch[];
}

function shortly(value: unknown): string {
  if (value === undefined || value === null) return 'none';
  if (typeof value === 'number') return String(Number(value.toFixed(3)));
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (Array.isArray(value) && value.every((one) => typeof one === 'string')) return value.join(', ') || 'none';
  if (typeof value === 'string') return value.length > 60 ? `${value.slice(0, 57)}…` : value || 'nothing';
  return '';
}

const valueAt = (node: Node, attribute: string): unknown => {
  const [first, ...rest] = attribute.split('.') as [string, ...string[]];
  const value = (node as Record<string, unknown>)[first];
  return rest.length ? (value as Record<string, unknown> | undefined)?.[rest.join('.')] : value;
};

/** Pairs of attributes that say where something is. */
const PLACES = [
  ['x', 'y'],
  ['cx', 'cy'],
] as const;

function setsInWords(before: Node, sets: readonly (Patch & { op: 'set' })[]): string {
  const done = new Set<string>();
  const parts: string[] = [];
  for (const [across, up] of PLACES) {
    const by = (name: string) => {
      const patch = sets.find(({ attribute }) => attribute === name);
      const old = valueAt(before, name);
      return patch && typeof patch.value === 'number' && typeof old === 'number' ? patch.value - old : 0;
    };
    const [dx, dy] = [by(across), by(up)];
    if (!dx && !dy) continue;
    parts.push(`moved ${shiftInWords(dx, dy)}`);
    done.add(across).add(up);
  }
  for (const { attribute, value } of sets) {
    if (done.has(attribute)) continue;
    if (attribute === 'transform') {
      const [a, b] = [
        (valueAt(before, 'transform') as Matrix | undefined) ?? identity,
        (value as Matrix | undefined) ?? identity,
      ];
      const shifted = a.slice(0, 4).every((one, i) => Math.abs(one - b[i]!) < 1e-9);
      parts.push(shifted ? `moved ${shiftInWords(b[4] - a[4], b[5] - a[5])}` : 'size, turn or slant changed');
      continue;
    }
    const [old, now] = [shortly(valueAt(before, attribute)), shortly(value)];
    const word = wordOf(attribute);
    parts.push(old && now ? `${word} ${old} → ${now}` : `${word} changed`);
  }
  return parts.join('; ');
}

/** Where a node is, in words: itself, and the board or the symbol that it is on. */
function placeInWords(master: Master, id: string): string {
  const path = pathTo(master, id);
  const node = path?.at(-1);
  if (!path || !node) return id;
  const on = path.slice(1, -1).find((one): one is Board => 'items' in one && !('kind' in one));
  return on ? `${nodeInWords(node)} on ${on.name}` : nodeInWords(node);
}

/** What changed between two states of a master, node by node, in the order of the document. */
export function changesInWords(before: Master, after: Master): NodeChange[] {
  const byNode = new Map<string, Patch[]>();
  for (const patch of changesBetween(before, after)) {
    const id = patch.op === 'insert' ? (patch.node as Node).id : patch.node;
    const known = byNode.get(id);
    if (known) known.push(patch);
    else byNode.set(id, [patch]);
  }
  return [...byNode].map(([node, patches]): NodeChange => {
    const [old, now] = [findNode(before, node), findNode(after, node)];
    const what = node === after.id ? 'The master' : placeInWords(now ? after : before, node);
    const sets = patches.filter((patch) => patch.op === 'set');
    const how = !old
      ? 'added'
      : !now
        ? 'taken out'
        : sets.length === patches.length
          ? setsInWords(old, sets)
          : 'laid higher or lower, or moved elsewhere';
    return { node, what, how, patches };
  });
}

/**
 * What brings one node of a master back to what it was in another state of it; nothing where it is the same in both. A node that was
 * taken out since comes back where it was, or at the end where what it lay on is gone.
 */
export function nodeAsItWas(now: Master, then: Master, node: string): Patch[] {
  const change = changesInWords(now, then).find((one) => one.node === node);
  return (change?.patches ?? []).map((patch) => {
    if (patch.op !== 'insert' || patch.after === null || findNode(now, patch.after)) return patch;
    const parent = findNode(now, patch.parent) as Record<string, readonly Node[] | undefined> | undefined;
    return { ...patch, after: parent?.[patch.list]?.at(-1)?.id ?? null };
  });
}
