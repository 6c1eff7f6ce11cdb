import { z } from 'zod';
import { Failure } from '../failure/failure';
import { Board, Item, Layer, Master, type Node, Resource, SymbolDefinition } from './schema';
import { type ListName, pathTo, replaceNode } from './tree';

const NodeId = z.string().min(1).max(80);
const List = z.enum(['boards', 'layers', 'symbols', 'resources', 'items']);

/**
 * One change to one place of a master, addressed by node id so that patches of two people can be told apart.
 * `attribute` may name one part of the style, as `style.fill`. `value` undefined takes an optional attribute away.
 */
export const Patch = z.discriminatedUnion('op', [
  z.object({ op: z.literal('set'), node: NodeId, attribute: z.string().max(60), value: z.unknown() }),
  z.object({ op: z.literal('insert'), parent: NodeId, list: List, after: NodeId.nullable(), node: z.unknown() }),
  z.object({ op: z.literal('remove'), parent: NodeId, list: List, node: NodeId }),
]);
export type Patch = z.infer<typeof Patch>;

/** What one act of a person did: words for people, patches forward and back. */
export const Step = z.object({ label: z.string().max(300), forward: z.array(Patch), inverse: z.array(Patch) });
export type Step = z.infer<typeof Step>;

const LIST_SCHEMAS: Record<ListName, z.ZodType> = {
  boards: Board,
  layers: Layer,
  symbols: SymbolDefinition,
  resources: Resource,
  items: Item,
};
const FIXED = new Set(['id', 'kind', 'boards', 'symbols', 'layers', 'resources', 'items']);
const UNSAFE = new Set(['__proto__', 'constructor', 'prototype']);

function schemaOf(path: readonly Node[]): z.ZodType {
  const node = path.at(-1)!;
  const parent = path.at(-2);
  if (!parent) return Master;
  if ('kind' in node) return Item;
  const list = (Object.keys(LIST_SCHEMAS) as ListName[]).find((name) =>
    ((parent as Partial<Record<ListName, Node[]>>)[name] ?? []).includes(node as never),
  );
  return LIST_SCHEMAS[list ?? 'items'];
}

function checked(schema: z.ZodType, node: unknown, what: string): Node {
  const parsed = schema.safeParse(node);
  if (parsed.success) return parsed.data as Node;
  const issue = parsed.error.issues[0]!;
  throw new Failure('patch-invalid', `${what}: ${issue.path.join('.') || 'it'} ${issue.message}.`, {
    node: (node as { id?: string } | null)?.id,
  });
}

const missing = (id: string) =>
  new Failure('node-missing', `There is no object ${id} in this master; it may have been deleted meanwhile.`, {
    node: id,
  });

function applyOne(master: Master, patch: Patch): { master: Master; inverse: Patch } {
  if (patch.op === 'set') {
    const path = pathTo(master, patch.node);
    const node = path?.at(-1);
    if (!path || !node) throw missing(patch.node);
    const [first, second] = patch.attribute.split('.') as [string, string | undefined];
    if (FIXED.has(first) || UNSAFE.has(first) || (second && UNSAFE.has(second)))
      throw new Failure('patch-invalid', `The attribute ${patch.attribute} can't be set.`, { node: patch.node });
    const holder = node as unknown as Record<string, unknown>;
    const inner = holder[first] as Record<string, unknown> | undefined;
    const before = second ? inner?.[second] : holder[first];
    const value = second ? withAttribute(inner ?? {}, second, patch.value) : patch.value;
    const next = withAttribute(holder, first, value);
    // Children were checked when they came in; only the node's own attributes are checked again.
    const lean = 'items' in next ? { ...next, items: [] } : 'boards' in next ? leanMaster(next) : next;
    const parsed = checked(schemaOf(path), lean, `Setting ${patch.attribute}`) as unknown as Record<string, unknown>;
    // A schema drops what it does not know; here that would keep an attribute that nothing reads.
    const kept = second ? (parsed[first] as Record<string, unknown> | undefined)?.[second] : parsed[first];
    if (patch.value !== undefined && kept === undefined)
      throw new Failure('patch-invalid', `A ${'kind' in node ? node.kind : 'node'} has no attribute ${patch.attribute}.`, {
        node: patch.node,
      });
    return {
      master: replaceNode(master, patch.node, () => next as unknown as Node)!,
      inverse: { op: 'set', node: patch.node, attribute: patch.attribute, value: before },
    };
  }
  const parent = pathTo(master, patch.parent)?.at(-1) as (Node & Partial<Record<ListName, Node[]>>) | undefined;
  const children = parent?.[patch.list];
  if (!parent || !children) throw missing(patch.parent);
  const withChildren = (next: Node[]) => replaceNode(master, patch.parent, () => ({ ...parent, [patch.list]: next }) as Node)!;
  if (patch.op === 'insert') {
    const node = checked(LIST_SCHEMAS[patch.list], patch.node, 'Adding an object');
    if (pathTo(master, node.id)) throw new Failure('id-taken', `There is an object ${node.id} already.`, { node: node.id });
    const at = patch.after === null ? 0 : children.findIndex(({ id }) => id === patch.after) + 1;
    if (patch.after !== null && at === 0) throw missing(patch.after);
    return {
      master: withChildren([...children.slice(0, at), node, ...children.slice(at)]),
      inverse: { op: 'remove', parent: patch.parent, list: patch.list, node: node.id },
    };
  }
  const at = children.findIndex(({ id }) => id === patch.node);
  if (at < 0) throw missing(patch.node);
  if ((patch.list === 'boards' || patch.list === 'layers') && children.length === 1)
    throw new Failure('last-one', `The last of the ${patch.list} can't be removed.`, { node: patch.node });
  return {
    master: withChildren([...children.slice(0, at), ...children.slice(at + 1)]),
    inverse: {
      op: 'insert',
      parent: patch.parent,
      list: patch.list,
      after: children[at - 1]?.id ?? null,
      node: children[at],
    },
  };
}

const leanMaster = (master: Record<string, unknown>) => ({
  ...master,
  symbols: [],
  boards: (master['boards'] as Board[]).slice(0, 1).map((board) => ({ ...board, items: [] })),
});

function withAttribute(holder: object, name: string, value: unknown): Record<string, unknown> {
  const { [name]: _before, ...rest } = holder as Record<string, unknown>;
  return value === undefined ? rest : { ...(holder as Record<string, unknown>), [name]: value };
}

/**
 * Applies patches in order, sharing what they do not touch.
 * @returns the new master, and the patches that take it back (in the order to apply them)
 * @throws Failure `node-missing`, `patch-invalid`, `id-taken` or `last-one`; the master given stays as it was
 */
export function applyPatches(master: Master, patches: readonly Patch[]): { master: Master; inverse: Patch[] } {
  const inverse: Patch[] = [];
  let now = master;
  for (const patch of patches) {
    const done = applyOne(now, patch);
    now = done.master;
    inverse.unshift(done.inverse);
  }
  return { master: now, inverse };
}

/** Runs a command's patches and gives the step for the journal. */
export function stepOf(master: Master, label: string, forward: Patch[]): { master: Master; step: Step } {
  const done = applyPatches(master, forward);
  return { master: done.master, step: { label, forward, inverse: done.inverse } };
}
