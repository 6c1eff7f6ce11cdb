import { Failure } from '../base/failure/failure';
import { assertOpens } from './count';
import type { Patch } from './patch-schema';
import type { Item, Master, Node, SymbolDefinition } from './schema';
import { itemKind } from './items';
import { allItems, allNodes, nodeInWords, pathsTo } from './tree';

const refused = (message: string, node: string): Failure => new Failure('not-held', message, { node });

/** The symbols that an item shows or is made of. */
function symbolsOf(item: Item): readonly string[] {
  const kind = itemKind(item);
  const opened = kind.openContents?.(item).symbol;
  return [...(opened ? [opened] : []), ...(kind.symbols?.(item) ?? [])];
}

function* itemsOf({ boards, symbols }: Master): Generator<Item> {
  for (const { items } of [...boards, ...symbols]) yield* allItems(items);
}

function assertNamesSomething(item: Item, layers: ReadonlySet<string>, symbols: ReadonlySet<string>): void {
  if (item.layer !== null && !layers.has(item.layer))
    throw refused(`${nodeInWords(item)} lies on a layer that is not there (${item.layer}).`, item.id);
  const missing = symbolsOf(item).find((id) => !symbols.has(id));
  if (missing !== undefined) throw refused(`${nodeInWords(item)} shows a symbol that is not there (${missing}).`, item.id);
}

/** @throws Failure for a symbol that is within itself, directly or through others */
function assertEndsSomewhere(symbols: readonly SymbolDefinition[]): void {
  const within = new Map(symbols.map((one) => [one.id, new Set([...allItems(one.items)].flatMap(symbolsOf))]));
  const state = new Map<string, 'open' | 'done'>();
  for (const { id: start, name } of symbols) {
    // Without calls in each other: as many symbols may stand in each other as somebody wrote.
    const path: { id: string; rest: string[] }[] = state.has(start) ? [] : [{ id: start, rest: [...within.get(start)!] }];
    if (path.length) state.set(start, 'open');
    while (path.length) {
      const top = path.at(-1)!;
      const next = top.rest.pop();
      if (next === undefined) {
        state.set(top.id, 'done');
        path.pop();
      } else if (state.get(next) === 'open') throw refused(`The symbol ${name} uses itself, directly or through another.`, next);
      else if (!state.has(next) && within.has(next)) {
        state.set(next, 'open');
        path.push({ id: next, rest: [...within.get(next)!] });
      }
    }
  }
}

function assertDrawn(master: Master): void {
  assertEndsSomewhere(master.symbols);
  for (const board of master.boards) assertOpens(master, board);
}

const idsOf = (nodes: readonly { readonly id: string }[]): ReadonlySet<string> => new Set(nodes.map(({ id }) => id));

/**
 * Whether a document that comes in can be kept, drawn and derived, beyond what its schema says: what it names is there, each id is
 * one node's, no symbol is within itself, and it opens into no more than there is room for.
 * @throws Failure `not-held`, `too-many-objects` or `too-deep` that says what is wrong and where
 */
export function assertSound(master: Master): void {
  const ids = new Set<string>();
  for (const node of allNodes(master)) {
    if (ids.has(node.id)) throw refused(`Two of its parts have one id, ${node.id}.`, node.id);
    ids.add(node.id);
  }
  const [layers, symbols] = [idsOf(master.layers), idsOf(master.symbols)];
  for (const item of itemsOf(master)) assertNamesSomething(item, layers, symbols);
  assertDrawn(master);
}

/** Attributes by which a change may let something draw more, or name something. */
const NAMING: ReadonlySet<string> = new Set(['layer', 'symbol', 'first', 'last']);

/**
 * Whether a document stays as it should be after patches. What was wrong before is nobody's fault here: only what the patches touch
 * is looked at, and the whole only where they changed what is drawn by repeats.
 * @param after the document with the patches applied
 * @throws Failure as `assertSound`
 */
export function assertStaysSound(after: Master, patches: readonly Patch[]): void {
  const touched: Node[] = [];
  const named = new Set<string>();
  const gone = new Set<string>();
  for (const patch of patches) {
    if (patch.op === 'insert') touched.push(...allNodes(patch.node as Node));
    else if (patch.op === 'remove' && (patch.list === 'layers' || patch.list === 'symbols')) gone.add(patch.node);
    else if (patch.op === 'set' && NAMING.has(patch.attribute)) named.add(patch.node);
  }
  for (const path of named.size ? pathsTo(after, named).values() : []) touched.push(path.at(-1)!);
  if (!touched.length && !gone.size) return;
  const [layers, symbols] = [idsOf(after.layers), idsOf(after.symbols)];
  const items = touched.filter((node): node is Item => 'layer' in node);
  for (const item of items) assertNamesSomething(item, layers, symbols);
  if ([...gone].some((id) => !layers.has(id) && !symbols.has(id)))
    for (const item of itemsOf(after))
      if ((item.layer !== null && gone.has(item.layer)) || symbolsOf(item).some((id) => gone.has(id)))
        assertNamesSomething(item, layers, symbols);
  if (
    items.some((item) => symbolsOf(item).length > 0 || itemKind(item).openContents?.(item).items) ||
    touched.some((node) => 'anchor' in node)
  )
    assertDrawn(after);
}
