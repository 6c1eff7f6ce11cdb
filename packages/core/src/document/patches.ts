import * as z from 'zod';
import { Failure } from '../base/failure/failure';
import { itemKind } from './items';
import { NESTING_LIMIT, tooDeep } from './limits';
import { Patch, Step } from './patch-schema';
import { type PlaceIndex, addPlaces, findFrom, giveIndex, idsBelow, takeIndex } from './place-index';
import {
  Block,
  Board,
  Column,
  Feature,
  Item,
  Layer,
  Master,
  type Node,
  Parameter,
  Prose,
  Resource,
  Row,
  Solid,
  Style,
  Summary,
} from './schema';
import { SymbolDefinition, Table } from './schema';
import { LISTS, type ListName, countParts } from './lists';
import { MAY_LACK } from './tree';

export { Patch, Step };

const LIST_SCHEMAS: Record<ListName, z.ZodObject | z.ZodType> = {
  boards: Board,
  layers: Layer,
  symbols: SymbolDefinition,
  resources: Resource,
  items: Item,
  tables: Table,
  columns: Column,
  rows: Row,
  summaries: Summary,
  solids: Solid,
  parameters: Parameter,
  features: Feature,
  texts: Prose,
  blocks: Block,
};
/** Schemas of nodes of several forms, and the attribute that says which. */
const FORMS: ReadonlyMap<z.ZodType, { readonly by: string; readonly options: readonly z.ZodObject[] }> = new Map<
  z.ZodType,
  { readonly by: string; readonly options: readonly z.ZodObject[] }
>([
  [Feature, { by: 'op', options: Feature.options }],
  [Block, { by: 'block', options: Block.options }],
]);
const FIXED = new Set<string>(['id', 'kind', 'op', 'block', ...LISTS]);

type Loose = Record<string, unknown>;

function checked(schema: z.ZodType, node: unknown, what: string): Node {
  const parsed = schema.safeParse(node);
  if (parsed.success) return parsed.data as Node;
  const issue = parsed.error.issues[0]!;
  throw new Failure('patch-invalid', `${what}: ${issue.path.join('.') || 'it'} ${issue.message}.`, {
    node: (node as { id?: string } | null)?.id,
  });
}

/** Refuses what is nested too deep before anything walks down it. */
function assertShallow(node: unknown): void {
  let level: unknown[] = [node];
  for (let depth = 0; level.length; depth++) {
    if (depth > NESTING_LIMIT) throw tooDeep(depth, { node: String((node as Loose | null)?.['id'] ?? '') });
    level = level.flatMap((one) => {
      const items = (one as Loose | null)?.['items'];
      return Array.isArray(items) ? (items as unknown[]) : [];
    });
  }
}

const missing = (id: string) =>
  new Failure('node-missing', `There is no object ${id} in this master; it may have been deleted meanwhile.`, {
    node: id,
  });

/**
 * One run of patches over one master. What a patch touches is copied once, the first time; everything else is shared with
 * the master that came in, which stays as it was.
 */
class Editing {
  private readonly copies = new Map<string, Loose>();
  private readonly ownLists = new Set<readonly Node[]>();
  private strayed = 0;

  constructor(
    readonly master: Master,
    private readonly index: PlaceIndex,
  ) {}

  get result(): Master {
    return (this.copies.get(this.master.id) ?? this.master) as Master;
  }

  private node(id: string): Node {
    const copy = this.copies.get(id);
    if (copy) return copy as Node;
    const place = this.index.get(id);
    if (place === undefined) throw missing(id);
    if (place === null) return this.master;
    const siblings = (this.node(place.parent) as unknown as Record<ListName, Node[]>)[place.list];
    return siblings[this.at(siblings, id)]!;
  }

  private at(siblings: readonly Node[], id: string): number {
    const place = this.index.get(id)!;
    if (siblings[place.at]?.id === id) return place.at;
    const at = findFrom(siblings, id, place.at);
    // Where many come and go, the places known of the others stray; once that has cost a walk of the list, all are set right.
    this.strayed += Math.abs(at - place.at);
    place.at = at;
    if (this.strayed > siblings.length) {
      siblings.forEach((sibling, i) => (this.index.get(sibling.id)!.at = i));
      this.strayed = 0;
    }
    return at;
  }

  /** The node as a copy of this run, which may be changed. */
  private own(id: string): Loose {
    const known = this.copies.get(id);
    if (known) return known;
    const place = this.index.get(id);
    if (place === undefined) throw missing(id);
    if (place === null) {
      const copy = { ...this.master } as Loose;
      this.copies.set(id, copy);
      return copy;
    }
    const siblings = this.ownList(place.parent, place.list);
    const at = this.at(siblings, id);
    const copy = { ...siblings[at] } as Loose;
    siblings[at] = copy as Node;
    this.copies.set(id, copy);
    return copy;
  }

  private ownList(parent: string, list: ListName): Node[] {
    const holder = this.own(parent);
    let children = holder[list] as Node[] | undefined;
    if (!children || !this.ownLists.has(children)) {
      holder[list] = children = (children ?? []).slice();
      this.ownLists.add(children);
    }
    return children;
  }

  private schemaOf(id: string): z.ZodType {
    const place = this.index.get(id);
    return place ? LIST_SCHEMAS[place.list] : Master;
  }

  apply(patch: Patch): Patch {
    if (patch.op === 'set') return this.set(patch);
    const parent = this.node(patch.parent) as Partial<Record<ListName, Node[]>>;
    if (!parent[patch.list] && !('boards' in parent && MAY_LACK.has(patch.list))) throw missing(patch.parent);
    return patch.op === 'insert' ? this.insert(patch) : this.remove(patch);
  }

  private set({ node: id, attribute, value }: Patch & { op: 'set' }): Patch {
    const holder = this.node(id) as Loose;
    const [first, ...others] = attribute.split('.') as [string, ...string[]];
    // A formula stands under the whole name of what it computes, which may be one of a look.
    const [second, ...more] = first === 'formulas' && others.length ? [others.join('.')] : others;
    if (FIXED.has(first)) throw new Failure('patch-invalid', `The attribute ${attribute} can't be set.`, { node: id });
    if (more.length || !isKnown(holder, this.schemaOf(id), first, second))
      throw new Failure(
        'patch-invalid',
        `A ${(holder['kind'] as string | undefined) ?? 'node of this kind'} has no attribute ${attribute}.`,
        { node: id },
      );
    const inner = holder[first] as Loose | undefined;
    const before = second ? inner?.[second] : holder[first];
    const put = second ? withAttribute(inner ?? {}, second, value) : value;
    // The last formula taken away leaves what was there before the first.
    const none = first === 'formulas' && put !== null && typeof put === 'object' && !Object.keys(put).length;
    const next = withAttribute(holder, first, none ? undefined : put);
    // Children were checked when they came in; only the node's own attributes are checked again.
    const lean = 'boards' in next ? leanMaster(next) : withoutChildren(next);
    // What the schema does not know does not get into the document.
    const known = checked(this.schemaOf(id), lean, `Setting ${attribute}`) as Loose;
    const copy = this.own(id);
    if (next[first] === undefined) delete copy[first];
    else copy[first] = typeof next[first] === 'object' ? known[first] : next[first];
    return { op: 'set', node: id, attribute, value: before };
  }

  private insert(patch: Patch & { op: 'insert' }): Patch {
    assertShallow(patch.node);
    const node = checked(LIST_SCHEMAS[patch.list], patch.node, 'Adding an object');
    const fresh = new Set<string>();
    for (const id of idsBelow(node)) {
      if (this.index.has(id) || fresh.has(id)) throw new Failure('id-taken', `There is an object ${id} already.`, { node: id });
      fresh.add(id);
    }
    const after = patch.after === null ? undefined : this.index.get(patch.after);
    if (patch.after !== null && (after?.parent !== patch.parent || after.list !== patch.list)) throw missing(patch.after);
    const children = this.ownList(patch.parent, patch.list);
    const at = patch.after === null ? 0 : this.at(children, patch.after) + 1;
    children.splice(at, 0, node);
    this.index.set(node.id, { parent: patch.parent, list: patch.list, at });
    addPlaces(this.index, node);
    return { op: 'remove', parent: patch.parent, list: patch.list, node: node.id };
  }

  private remove(patch: Patch & { op: 'remove' }): Patch {
    const place = this.index.get(patch.node);
    if (!place || place.parent !== patch.parent || place.list !== patch.list) throw missing(patch.node);
    const children = this.ownList(patch.parent, patch.list);
    if (isLast(this.node(patch.parent) as Loose, patch.list))
      throw new Failure('last-one', `The last of the ${patch.list} can't be removed.`, { node: patch.node });
    const at = this.at(children, patch.node);
    const [node] = children.splice(at, 1) as [Node];
    for (const id of idsBelow(node)) {
      this.index.delete(id);
      this.copies.delete(id);
    }
    return { op: 'insert', parent: patch.parent, list: patch.list, after: children[at - 1]?.id ?? null, node };
  }
}

/** Whether the schema of a node knows an attribute, and where it is in two parts, that part of it. */
function isKnown(node: Loose, schema: z.ZodType, first: string, second: string | undefined): boolean {
  const forms = FORMS.get(schema);
  const whole = forms
    ? forms.options.find(({ shape }) => (shape[forms.by] as z.ZodLiteral).value === node[forms.by])
    : typeof node['kind'] === 'string'
      ? itemKind(node as { kind: string }).schema
      : schema;
  if (!(whole instanceof z.ZodObject) || !Object.hasOwn(whole.shape, first)) return false;
  return (
    second === undefined || first === 'cells' || first === 'formulas' || (first === 'style' && Object.hasOwn(Style.shape, second))
  );
}

const PART_NAMES: ReadonlySet<ListName> = new Set<ListName>(['tables', 'solids', 'texts']);
/** A node of the lists that hold what must not run out: a layer, and one part of any kind. */
const isLast = (parent: Loose, list: ListName): boolean => {
  const count = (name: ListName) => (parent[name] as unknown[] | undefined)?.length ?? 0;
  if (list === 'layers') return count('layers') === 1;
  return (list === 'boards' || PART_NAMES.has(list)) && countParts(parent as Partial<Record<'boards', unknown[]>>) === 1;
};

const CHILDLESS = Object.fromEntries(LISTS.map((list) => [list, []]));
const withoutChildren = (node: Loose): Loose =>
  Object.fromEntries(Object.entries(node).map(([name, value]) => [name, CHILDLESS[name] ?? value]));

const leanMaster = (master: Loose) => ({
  ...master,
  symbols: [],
  boards: (master['boards'] as Loose[]).slice(0, 1).map(withoutChildren),
  ...Object.fromEntries(
    [...MAY_LACK].flatMap((list) => (master[list] ? [[list, (master[list] as Loose[]).slice(0, 1).map(withoutChildren)]] : [])),
  ),
});

function withAttribute(holder: object, name: string, value: unknown): Loose {
  const { [name]: _before, ...rest } = holder as Loose;
  return value === undefined ? rest : { ...(holder as Loose), [name]: value };
}

/**
 * Applies patches in order, all or none, sharing what they do not touch. Costs what is touched: nodes are found by an index
 * that goes over from a master to what came of it.
 * @returns the new master, and the patches that take it back (in the order to apply them)
 * @throws Failure `node-missing`, `patch-invalid`, `id-taken`, `too-deep` or `last-one`; the master given stays as it was
 */
export function applyPatches(master: Master, patches: readonly Patch[]): { master: Master; inverse: Patch[] } {
  if (!patches.length) return { master, inverse: [] };
  // On an error the index is half changed and is dropped with the rest.
  const index = takeIndex(master);
  const editing = new Editing(master, index);
  const inverse = patches.map((patch) => editing.apply(patch)).reverse();
  giveIndex(editing.result, index);
  return { master: editing.result, inverse };
}

/** Runs a command's patches and gives the step for the journal. */
export function stepOf(master: Master, label: string, forward: Patch[]): { master: Master; step: Step } {
  const done = applyPatches(master, forward);
  return { master: done.master, step: { label, forward, inverse: done.inverse } };
}
