import * as z from 'zod';

import { Failure } from '../../base/failure/failure';
import { identity, multiply, roundedMatrix } from '../../base/geometry/matrix';
import { type Command, axesAround, itemsOf, moveItems } from '../../document/commands';
import { canonical } from '../../document/hash';
import { newId } from '../../document/ids';
import { itemKind } from '../../document/items';
import { isPlain } from '../../document/paint';
import { type Patch, applyPatches } from '../../document/patches';
import { Item, Layer, type Master, Parameter, Resource, SymbolDefinition } from '../../document/schema';
import { allItems } from '../../document/tree';
import { layerOf } from './arrange';
import { usesOfParameter } from './parameters';

/** Objects on their way to another place, with everything that they need there. */
export const Clip = z.object({
  kind: z.literal('inkwell items'),
  /** The master that they come from: what they show of it is there only. */
  from: z.string(),
  items: z.array(Item).min(1).max(250_000),
  layers: z.array(Layer),
  symbols: z.array(SymbolDefinition),
  parameters: z.array(Parameter),
  resources: z.array(Resource),
});
export type Clip = z.infer<typeof Clip>;

/** Ids of the symbols that an item draws with. */
function symbolsOf(item: Item): string[] {
  const painted =
    'style' in item
      ? [item.style.fill, item.style.stroke].flatMap((paint) =>
          paint && !isPlain(paint) && paint.kind === 'pattern' ? [paint.symbol] : [],
        )
      : [];
  const masked = 'items' in item && item.mask ? [item.mask.symbol] : [];
  const used = itemKind(item).openContents?.(item).symbol;
  return [...(used === undefined ? [] : [used]), ...(itemKind(item).symbols?.(item) ?? []), ...painted, ...masked];
}

/** Takes objects up, each where it lies on its board. Null where there is nothing to take. */
export function copyItems(master: Master, ids: readonly string[]): Clip | null {
  const chosen = new Set(ids);
  const found = itemsOf(master, ids).filter(({ path }) => !path!.slice(0, -1).some(({ id }) => chosen.has(id)));
  if (!found.length) return null;
  const items = found.map(({ item, path }) => {
    const own = roundedMatrix(multiply(axesAround(path), item.transform ?? identity));
    const { transform: _old, ...rest } = item;
    return {
      ...rest,
      ...(own.every((value, i) => value === identity[i]) ? {} : { transform: own }),
      layer: layerOf(master, path!),
    } as Item;
  });
  const symbols = new Map<string, SymbolDefinition>();
  const gather = (list: readonly Item[]): void => {
    for (const item of allItems(list))
      for (const id of symbolsOf(item)) {
        const symbol = master.symbols.find((one) => one.id === id);
        if (!symbol || symbols.has(id)) continue;
        symbols.set(id, symbol);
        gather(symbol.items);
      }
  };
  gather(items);
  const all = [...allItems(items), ...[...symbols.values()].flatMap((symbol) => [...allItems(symbol.items)])];
  const layers = new Set(all.map(({ layer }) => layer));
  const resources = new Set(all.map((item) => itemKind(item).resource?.(item)));
  // What they are computed of, and what that is computed of in turn.
  const there = { ...master, boards: [{ ...master.boards[0]!, items }], symbols: [...symbols.values()] };
  const parameters = (master.parameters ?? []).filter(({ name }) => usesOfParameter(there, name).length);
  return {
    kind: 'inkwell items',
    from: master.id,
    items,
    layers: master.layers.filter(({ id }) => layers.has(id)),
    symbols: [...symbols.values()],
    parameters,
    resources: master.resources.filter(({ id }) => resources.has(id)),
  };
}

/** What a symbol says, whatever its parts go by: their ids are left out, layers and symbols are called by their names. */
function saysOf(symbol: SymbolDefinition, { layers, symbols }: Pick<Master, 'layers' | 'symbols'>): string {
  const layerNames = new Map(layers.map(({ id, name, process }) => [id, `${name} ${process}`]));
  const symbolNames = new Map(symbols.map(({ id, name }) => [id, name]));
  const plain = JSON.stringify({ ...symbol, name: '' }, (key, value: unknown) => {
    if (key === 'id') return undefined;
    if (typeof value !== 'string') return value;
    if (key === 'layer') return layerNames.get(value) ?? value;
    return key === 'symbol' || key === 'first' || key === 'last' ? (symbolNames.get(value) ?? value) : value;
  });
  return canonical(JSON.parse(plain));
}

/** Items with other ids, layers and symbols, however deep. */
function renewed(
  item: Item,
  ids: Map<string, string>,
  layers: ReadonlyMap<string, string>,
  symbols: ReadonlyMap<string, string>,
): Item {
  const id = newId();
  ids.set(item.id, id);
  const to = (symbol: string) => symbols.get(symbol) ?? symbol;
  const paint = (one: unknown) =>
    one && typeof one === 'object' && 'symbol' in one ? { ...one, symbol: to(String(one.symbol)) } : one;
  const layer = item.layer === null ? null : (layers.get(item.layer) ?? item.layer);
  const named = Object.fromEntries(
    (['symbol', 'first', 'last'] as const).flatMap((name) => {
      const symbol = (item as { readonly [name in 'symbol' | 'first' | 'last']?: string })[name];
      return symbol === undefined ? [] : [[name, to(symbol)]];
    }),
  );
  const style =
    'style' in item ? { style: { ...item.style, fill: paint(item.style.fill), stroke: paint(item.style.stroke) } } : {};
  const next = { ...item, id, layer, ...named, ...style } as Item;
  if (next.kind !== 'group') return next;
  return {
    ...next,
    ...(next.mask ? { mask: { ...next.mask, symbol: to(next.mask.symbol) } } : {}),
    items: next.items.map((one) => renewed(one, ids, layers, symbols)),
  };
}

/** What follows other objects goes with those that came along. */
const attached = (item: Item, ids: ReadonlyMap<string, string>): Item => {
  if ('items' in item) return { ...item, items: item.items.map((one) => attached(one, ids)) };
  return { ...item, ...itemKind(item).renameIds?.(item, ids) };
};

/**
 * Lays objects down on a board, of the same master or another: with new ids, on layers of the same name and process (brought along
 * where there are none), with their symbols, parameters and pictures. A parameter that is there already counts as it is there.
 * @param by how far from where they lay, mm
 * @returns the command, the ids of what was laid down, and what could not come along
 * @throws Failure `clip-nothing` where nothing of it can come along
 */
export function pasteItems(
  master: Master,
  board: { id: string; name: string; items: readonly Item[] },
  clip: Clip,
  by: readonly [number, number] = [0, 0],
): { command: Command; ids: string[]; left: string[] } {
  const patches: Patch[] = [];
  const here = clip.from === master.id;
  const left: string[] = [];
  const fits = (item: Item): boolean => {
    const reads = itemKind(item).readPart?.(item);
    const there = !reads || (here && (master[reads.list] ?? []).some(({ id }) => id === reads.id));
    if (!there) left.push(`${itemKind(item).words(item)}: what it shows is in another master`);
    return there;
  };
  const items = clip.items.filter(fits);
  if (!items.length) throw new Failure('clip-nothing', `Nothing of this can be laid down here: ${left[0] ?? 'it is empty'}.`);

  const layers = new Map<string, string>();
  let lastLayer = master.layers.at(-1)!.id;
  for (const layer of clip.layers) {
    const same = master.layers.find(
      ({ id, name, process }) => (here && id === layer.id) || (name === layer.name && process === layer.process),
    );
    if (same) layers.set(layer.id, same.id);
    else {
      const node = { ...layer, id: newId() };
      layers.set(layer.id, node.id);
      patches.push({ op: 'insert', parent: master.id, list: 'layers', after: lastLayer, node });
      lastLayer = node.id;
    }
  }
  const ids = new Map<string, string>();
  const symbols = new Map<string, string>();
  const fresh: SymbolDefinition[] = [];
  for (const symbol of clip.symbols) {
    // The same symbol, whoever drew it; another of the same name is brought along beside it.
    const same = master.symbols.find(({ id, name }) => id === symbol.id || name === symbol.name);
    const there = same && saysOf(same, master) === saysOf(symbol, clip) ? same : undefined;
    if (there) symbols.set(symbol.id, there.id);
    else {
      symbols.set(symbol.id, newId());
      fresh.push(symbol);
    }
  }
  let lastSymbol = master.symbols.at(-1)?.id ?? null;
  const names = new Set(master.symbols.map(({ name }) => name));
  for (const symbol of fresh) {
    let name = symbol.name;
    for (let i = 2; names.has(name); i++) name = `${symbol.name} ${i}`;
    names.add(name);
    const node = {
      ...symbol,
      id: symbols.get(symbol.id)!,
      name,
      items: symbol.items.map((item) => renewed(item, ids, layers, symbols)),
    };
    patches.push({ op: 'insert', parent: master.id, list: 'symbols', after: lastSymbol, node });
    lastSymbol = node.id;
  }
  const known = new Set((master.parameters ?? []).map(({ name }) => name));
  let lastParameter = master.parameters?.at(-1)?.id ?? null;
  for (const parameter of clip.parameters) {
    if (known.has(parameter.name)) continue;
    const node = { ...parameter, id: newId() };
    patches.push({ op: 'insert', parent: master.id, list: 'parameters', after: lastParameter, node });
    lastParameter = node.id;
  }
  const kept = new Set(master.resources.map(({ id }) => id));
  let lastResource = master.resources.at(-1)?.id ?? null;
  for (const resource of clip.resources) {
    if (kept.has(resource.id)) continue;
    patches.push({ op: 'insert', parent: master.id, list: 'resources', after: lastResource, node: resource });
    lastResource = resource.id;
  }
  let after = board.items.at(-1)?.id ?? null;
  const laid = items.map((item) => renewed(item, ids, layers, symbols)).map((item) => attached(item, ids));
  for (const node of laid) {
    patches.push({ op: 'insert', parent: board.id, list: 'items', after, node });
    after = node.id;
  }
  const command: Command = { label: `${laid.length} object${laid.length === 1 ? '' : 's'} laid down on ${board.name}`, patches };
  const newIds = laid.map(({ id }) => id);
  if (!by[0] && !by[1]) return { command, ids: newIds, left };
  const shift = moveItems(applyPatches(master, patches).master, newIds, ...by);
  return { command: { ...command, patches: [...patches, ...shift.patches] }, ids: newIds, left };
}
