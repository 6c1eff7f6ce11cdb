import { drawnMaster } from '../drawn/drawn';
import { Failure } from '../../base/failure/failure';
import { identity, invert, multiply, roundedMatrix, translation } from '../../base/geometry/matrix';
import { joinBoxes } from '../../base/geometry/measure';
import { type Command, axesAround, boardName, itemsOf } from '../../document/commands';
import { newId } from '../../document/ids';
import type { MotifLine } from '../../document/items';
import { type Measure, itemKind, roughly } from '../../document/items';
import type { Patch } from '../../document/patches';
import type { Item, Master, Node } from '../../document/schema';
import { allItems, nodeInWords } from '../../document/tree';
import { boxesOf, layerOf } from './arrange';

const holderOf = (path: readonly Node[]): Node => path.at(-2)!;
const freeName = (master: Master, wanted: string): string => {
  const taken = new Set(master.symbols.map(({ name }) => name));
  for (let i = 1; ; i++) {
    const name = i === 1 ? wanted : `${wanted} ${i}`;
    if (!taken.has(name)) return name;
  }
};

/**
 * Makes a symbol of objects, and puts a use of it where they were. The anchor is the middle of their foot: what stands on a line
 * stands on it by that.
 * @throws Failure `symbol-none` where nothing is chosen
 */
export function makeSymbol(
  master: Master,
  ids: readonly string[],
  name: string,
  { measure = roughly, symbolId = newId(), useId = newId() }: { measure?: Measure; symbolId?: string; useId?: string } = {},
): Command {
  const chosen = new Set(ids);
  const found = itemsOf(master, ids).filter(({ path }) => !path!.slice(0, -1).some(({ id }) => chosen.has(id)));
  const first = found[0];
  if (!first) throw new Failure('symbol-none', 'A symbol is made of objects: choose some.');
  const box = joinBoxes(boxesOf(master, ids, measure).map((one) => one.box));
  const anchor = box.minX <= box.maxX ? ([(box.minX + box.maxX) / 2, box.minY] as const) : ([0, 0] as const);
  const order = new Map(
    [...allItems([...master.boards, ...master.symbols].flatMap(({ items }) => items))].map(({ id }, i) => [id, i]),
  );
  const layers = new Set(found.map(({ path }) => layerOf(master, path!)));
  const [only] = layers;
  const items = [...found]
    .sort((a, b) => order.get(a.item.id)! - order.get(b.item.id)!)
    .map(({ item, path }) => {
      const own = roundedMatrix(multiply(axesAround(path), item.transform ?? identity));
      const { transform: _old, ...rest } = item;
      const plain = own.every((value, i) => value === identity[i]);
      // On one layer all of them follow the layer of the use; on several each keeps its own.
      const layer = layers.size === 1 ? null : layerOf(master, path!);
      return { ...rest, ...(plain ? {} : { transform: own }), layer } as Item;
    });
  const holder = holderOf(first.path!);
  const back = invert(axesAround(first.path));
  const place = translation(...anchor);
  const at = back ? roundedMatrix(multiply(back, place)) : place;
  const siblings = (holder as { items: readonly Item[] }).items;
  const last = siblings.findLastIndex(({ id }) => chosen.has(id));
  const after = siblings.slice(0, Math.max(0, last)).findLast(({ id }) => !chosen.has(id))?.id ?? null;
  const symbol = {
    id: symbolId,
    name: freeName(master, name.trim() || 'Symbol'),
    anchor: [...anchor] as [number, number],
    items,
  };
  const use: Item = { kind: 'use', id: useId, layer: layers.size === 1 ? only! : null, transform: at, symbol: symbolId };
  return {
    label: `Symbol ${symbol.name}: made of ${items.length} object${items.length === 1 ? '' : 's'} on ${boardName(first.path)}`,
    patches: [
      ...found.map(({ item, path }): Patch => ({ op: 'remove', parent: holderOf(path!).id, list: 'items', node: item.id })),
      { op: 'insert', parent: master.id, list: 'symbols', after: master.symbols.at(-1)?.id ?? null, node: symbol },
      { op: 'insert', parent: holder.id, list: 'items', after, node: use },
    ],
  };
}

/** Puts a use of a symbol on a board. */
export function placeSymbol(
  master: Master,
  board: { id: string; name: string; items: readonly Item[] },
  symbol: string,
  at: readonly [number, number],
  layer: string,
  id = newId(),
): Command {
  const node: Item = { kind: 'use', id, layer, transform: translation(...at), symbol };
  const name = master.symbols.find((one) => one.id === symbol)?.name ?? 'Symbol';
  return {
    label: `${name} on ${board.name}: added`,
    patches: [{ op: 'insert', parent: board.id, list: 'items', after: board.items.at(-1)?.id ?? null, node }],
  };
}

/** The symbol that an item is a use of; undefined for all others. */
const symbolUsed = (item: Item): string | undefined => itemKind(item).openContents?.(item).symbol;

/** What uses a symbol: items on boards and in other symbols, patterns and masks left out. */
export const usesOfSymbol = (master: Master, symbol: string): Item[] =>
  [...master.boards, ...master.symbols].flatMap(({ items }) =>
    [...allItems(items)].filter((item) => symbolUsed(item) === symbol || itemKind(item).symbols?.(item).includes(symbol)),
  );

const lined = (item: Item): boolean => itemKind(item).outlines !== undefined && !itemKind(item).paint;

/**
 * Repeats a symbol along a line, in one step: along the shape that is chosen beside its use, in the place of both; or to the right of
 * the use, five marks long, where nothing else is chosen. Marks stand as far apart as the symbol is wide.
 * @throws Failure `motif-none` where no use of a symbol is chosen
 */
export function makeMotifLine(
  master: Master,
  ids: readonly string[],
  { measure = roughly, id = newId() }: { measure?: Measure; id?: string } = {},
): Command {
  const found = itemsOf(master, ids);
  const use = found.find(({ item }) => symbolUsed(item) !== undefined);
  const used = use && symbolUsed(use.item);
  const shape = found.find(({ item }) => lined(item));
  if (!use || used === undefined)
    throw new Failure('motif-none', 'A motif line repeats a symbol: choose the use of one, and a shape to lay it along.');
  const box = boxesOf(master, [use.item.id], measure)[0]?.box;
  const width = box ? box.maxX - box.minX : 0;
  const spacing = Number(Math.max(0.5, width || 10).toFixed(2));
  const line = shape ?? use;
  const { item, path } = line;
  const outlines = shape
    ? itemKind(drawnItem(master, item)).outlines!(drawnItem(master, item))
    : [{ start: [0, 0] as const, segments: [{ kind: 'line' as const, to: [4 * spacing, 0] as const }], closed: false }];
  const motif: MotifLine = {
    kind: 'motif-line',
    id,
    layer: layerOf(master, use.path!),
    ...(item.transform ? { transform: item.transform } : {}),
    outlines: outlines as MotifLine['outlines'],
    symbol: used,
    spacing,
    manner: 'follow',
    ...(shape ? { even: true as const } : {}),
  };
  const holder = holderOf(path!);
  const siblings = (holder as { items: readonly Item[] }).items;
  const gone = new Set([use.item.id, ...(shape ? [shape.item.id] : [])]);
  const at = siblings.findIndex((one) => one.id === item.id);
  const after = siblings.slice(0, at).findLast((one) => !gone.has(one.id))?.id ?? null;
  const name = master.symbols.find((one) => one.id === motif.symbol)?.name ?? 'Symbol';
  return {
    label: `${name}: repeated along ${shape ? nodeInWords(shape.item) : 'a line'} on ${boardName(path)}`,
    patches: [
      ...[use, ...(shape ? [shape] : [])].map((one): Patch => ({
        op: 'remove',
        parent: holderOf(one.path!).id,
        list: 'items',
        node: one.item.id,
      })),
      { op: 'insert', parent: holder.id, list: 'items', after, node: motif },
    ],
  };
}

/** An item with what is computed of it as it is now. */
const drawnItem = (master: Master, item: Item): Item => itemsOf(drawnMaster(master).master, [item.id])[0]?.item ?? item;
