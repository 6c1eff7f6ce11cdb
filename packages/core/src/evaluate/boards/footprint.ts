import { chosen } from './chosen';
import { digest as fullDigest } from '../../base/bytes/hasher';
import { boardsIn } from '../../contracts/scope';
import type { Scope } from '../../contracts/scope';
import { canonical } from '../../document/hash';
import type { Board, DrawnItem, GroupItem, Item, Layer, Master, SymbolDefinition } from '../../document/schema';
import { itemKind } from '../../document/items';
import { stampedMaster } from '../placed/stamped';
import type { Carry, FeatureRow, LeafPrint } from '../../contracts/kind';

/** A feature of content that is laid out on boards: what of a board, a layer or an object a copy reads where it is carried. */
export interface BoardFeature extends FeatureRow {
  /** Undefined where the object has nothing of the feature. */
  readonly item?: (item: DrawnItem) => unknown;
  readonly group?: (group: GroupItem) => unknown;
  /** Symbols that an object or a group is painted with, beside those that it opens. */
  readonly symbols?: (item: Item) => readonly string[];
  readonly layer?: (layer: Layer) => unknown;
  readonly board?: (board: Board) => unknown;
  /** Read whatever the target does with it: there is no copy without it. */
  readonly always?: true;
  /** The order in which things come is read. */
  readonly ordered?: true;
}

/** How a kind of content reads boards. */
export interface BoardReading<Carries> {
  /** Id of the kind. */
  readonly kind: string;
  readonly features: Readonly<Record<string, BoardFeature>>;
  /** Whether anything on this layer reaches a copy. */
  readonly takes: (layer: Layer, carries: Carries) => boolean;
}

/** Half of a SHA-256: plenty to tell objects apart, and half the work of hashing the hashes again. */
const digest = (text: string): string => fullDigest(text).slice(0, 32);

const isShown = (item: Item): boolean => itemKind(item).readPart !== undefined;

/** The hash of an item on the layer that it was asked for last; most items are on one only. */
interface Cached {
  layer: string;
  hash: string;
}

type Row = readonly [name: string, feature: BoardFeature];

interface Context {
  readonly rows: { readonly [L in 'item' | 'group' | 'board' | 'symbols']: readonly Row[] };
  readonly ordered: boolean;
  readonly symbols: ReadonlyMap<string, SymbolDefinition>;
  /** What is read of each layer; empty where nothing on it reaches the copy. */
  readonly layerHashes: ReadonlyMap<string, string>;
  readonly layerParts: ReadonlyMap<string, ReadonlyMap<string, string>>;
  readonly symbolHashes: Map<string, string>;
  readonly cache: WeakMap<Item, Cached>;
  readonly boards: WeakMap<Board, string>;
  /** The same for all recipes that read the same of objects. */
  readonly looks: WeakMap<DrawnItem, string>;
}

// Contexts are kept per (layers, symbols) of a master, because every hash below depends on both; inside by what is read, so that
// recipes that differ in what does not matter to a footprint share one.
const contexts = new WeakMap<object, WeakMap<object, Map<string, Context>>>();
/** Hashes of what is read of an object, by the names of the features that are read. */
const readings = new Map<string, WeakMap<DrawnItem, string>>();

/** The features that are read where this is carried, and a word that is the same for carries that read the same. */
function readOf<C extends object>(carries: C, { kind, features }: BoardReading<C>): { rows: readonly Row[]; key: string } {
  const says = carries as Readonly<Record<string, Carry | undefined>>;
  const rows = Object.entries(features).filter(
    ([name, { always }]) => always || (says[name] !== undefined && says[name] !== 'left out'),
  );
  return { rows, key: [kind, ...rows.map(([name]) => name)].join('|') };
}

/** What carries read of boards: a Desk asks again and again about few. */
const readers = new WeakMap<object, ReturnType<typeof readOf>>();

function contextOf<C extends object>(master: Master, carries: C, reading: BoardReading<C>): Context {
  let bySymbols = contexts.get(master.layers);
  if (!bySymbols) contexts.set(master.layers, (bySymbols = new WeakMap()));
  let byKey = bySymbols.get(master.symbols);
  if (!byKey) bySymbols.set(master.symbols, (byKey = new Map()));
  let reader = readers.get(carries);
  if (!reader) readers.set(carries, (reader = readOf(carries, reading)));
  const read = reader.rows;
  const taken = new Set(master.layers.filter((layer) => layer.visible && reading.takes(layer, carries)));
  const key = `${reader.key} ${taken.size === master.layers.length ? '' : [...taken].map(({ id }) => id).join(' ')}`;
  let context = byKey.get(key);
  if (!context) {
    const layerRows = read.filter(([, { layer }]) => layer);
    const layerParts = new Map(
      master.layers.map((layer) => [
        layer.id,
        new Map(taken.has(layer) ? layerRows.map(([name, row]) => [name, canonical(row.layer!(layer))]) : []),
      ]),
    );
    const rows = {
      item: read.filter(([, { item }]) => item),
      group: read.filter(([, { group }]) => group),
      board: read.filter(([, { board }]) => board),
      symbols: read.filter(([, { symbols }]) => symbols),
    };
    const names = [reading.kind, ...rows.item.map(([name]) => name)].join('|');
    let looks = readings.get(names);
    if (!looks) readings.set(names, (looks = new WeakMap()));
    context = {
      rows,
      ordered: read.some(([, { ordered }]) => ordered),
      symbols: new Map(master.symbols.map((symbol) => [symbol.id, symbol])),
      layerHashes: new Map(
        master.layers.map((layer) => [layer.id, taken.has(layer) ? `+${[...layerParts.get(layer.id)!.values()].join('|')}` : '']),
      ),
      layerParts,
      symbolHashes: new Map(),
      cache: new WeakMap(),
      boards: new WeakMap(),
      looks,
    };
    byKey.set(key, context);
  }
  return context;
}

const combine = (hashes: readonly string[], { ordered }: Context): string => (ordered ? hashes : [...hashes].sort()).join(' ');

/** What is read of an object, feature by feature. */
function partsOfItem(item: DrawnItem, { rows }: Context): Map<string, string> {
  const parts = new Map<string, string>();
  for (const [name, { item: read }] of rows.item) {
    const value = read!(item);
    if (value !== undefined) parts.set(name, canonical(value));
  }
  return parts;
}

function looksOf(item: DrawnItem, context: Context): string {
  let hash = context.looks.get(item);
  if (hash === undefined) {
    let text = canonical(item.transform ?? 0);
    for (const [name, value] of partsOfItem(item, context)) text += `|${name}|${value}`;
    context.looks.set(item, (hash = digest(text)));
  }
  return hash;
}

function symbolHash(symbol: SymbolDefinition | undefined, holder: string, context: Context): string {
  if (!symbol) return 'missing';
  const key = `${symbol.id}|${holder}`;
  let hash = context.symbolHashes.get(key);
  if (hash === undefined) {
    context.symbolHashes.set(key, 'cycle');
    const inner = symbol.items.map((item) => itemHash(item, holder, context)).filter(Boolean);
    hash = digest(`${symbol.anchor.join()}|${combine(inner, context)}`);
    context.symbolHashes.set(key, hash);
  }
  return hash;
}

/** The carried hash of an item on a layer; empty where nothing of it reaches the copy. */
function itemHash(item: Item, holder: string, context: Context): string {
  const layer = item.layer ?? holder;
  const cached = context.cache.get(item);
  if (cached?.layer === layer) return cached.hash;
  const hash = hashItem(item, layer, context);
  context.cache.set(item, { layer, hash });
  return hash;
}

const groupText = (group: GroupItem, { rows }: Context): string =>
  canonical([group.transform ?? 0, ...rows.group.map(([, row]) => row.group!(group))]);

/** What the symbols say that something is painted with; empty for most. */
function paintedWith(item: Item, layer: string, context: Context): string {
  let text = '';
  for (const [, { symbols }] of context.rows.symbols)
    for (const symbol of symbols!(item)) text += `|${symbolHash(context.symbols.get(symbol), layer, context)}`;
  return text;
}

function hashItem(item: Item, layer: string, context: Context): string {
  if (isShown(item)) {
    const onLayer = context.layerHashes.get(layer);
    return onLayer ? digest(`${canonical({ ...item, name: '' })}|${onLayer}`) : '';
  }
  const opened = itemKind(item).openContents?.(item);
  if (opened?.items) {
    const inner = opened.items.map((child) => itemHash(child, layer, context)).filter(Boolean);
    return inner.length
      ? digest(`${groupText(item as GroupItem, context)}|${combine(inner, context)}${paintedWith(item, layer, context)}`)
      : '';
  }
  if (opened?.symbol !== undefined)
    return digest(`${canonical(item.transform ?? 0)}|${symbolHash(context.symbols.get(opened.symbol), layer, context)}`);
  const onLayer = context.layerHashes.get(layer);
  return onLayer ? digest(`${looksOf(item as DrawnItem, context)}|${onLayer}${paintedWith(item, layer, context)}`) : '';
}

const boardParts = (board: Board, { rows }: Context): Map<string, string> =>
  new Map(rows.board.map(([name, row]) => [name, canonical(row.board!(board))]));

function boardHash(master: Master, board: Board, context: Context, objects: ReadonlySet<string> | null): string {
  const known = objects ? undefined : context.boards.get(board);
  if (known !== undefined) return known;
  const holder = master.layers[0]!.id;
  const inner: string[] = [];
  for (const item of chosen(board.items, objects)) {
    const hash = itemHash(item, holder, context);
    if (hash) inner.push(hash);
  }
  const hash = digest(`${[...boardParts(board, context).values()].join('|')}|${combine(inner, context)}`);
  if (!objects) context.boards.set(board, hash);
  return hash;
}

/** Node → feature → what is read there; groups and symbols opened. */
function partsOf(
  master: Master,
  board: Board,
  context: Context,
  objects: ReadonlySet<string> | null,
): Map<string, ReadonlyMap<string, string>> {
  const parts = new Map<string, ReadonlyMap<string, string>>([[board.id, boardParts(board, context)]]);
  const visit = (items: Iterable<Item>, holder: string, around: string) => {
    for (const item of items) {
      const layer = item.layer ?? holder;
      const opened = itemKind(item).openContents?.(item);
      if (isShown(item)) {
        const hash = itemHash(item, holder, context);
        if (hash) parts.set(item.id, new Map([['outlines', hash], ...context.layerParts.get(layer)!]));
      } else if (opened?.items)
        visit(opened.items, layer, `${around}${groupText(item as GroupItem, context)}${paintedWith(item, layer, context)}`);
      else if (itemHash(item, holder, context)) {
        const own =
          opened?.symbol !== undefined
            ? new Map([['outlines', itemHash(item, holder, context)]])
            : partsOfItem(item as DrawnItem, context);
        for (const [name, { symbols }] of context.rows.symbols)
          for (const symbol of symbols!(item))
            own.set(name, `${own.get(name) ?? ''} ${symbolHash(context.symbols.get(symbol), layer, context)}`);
        const read = new Map([
          ['place', `${around}${canonical(item.transform ?? 0)}`],
          ...own,
          ...context.layerParts.get(layer)!,
        ]);
        // Marks and lines that something draws by a rule all go by its name.
        for (const [name, value] of parts.get(item.id) ?? []) read.set(name, digest(`${value}|${read.get(name) ?? ''}`));
        parts.set(item.id, read);
      }
    }
  };
  visit(chosen(board.items, objects), master.layers[0]!.id, '');
  return parts;
}

/**
 * What copies depend on, board by board: everything that is carried. Work is kept per object, so that after an edit only what
 * changed is hashed again.
 */
export function footprintOfBoards<C extends object>(
  master: Master,
  scope: Scope,
  carries: C,
  reading: BoardReading<C>,
): LeafPrint[] {
  const shown = stampedMaster(master);
  const context = contextOf(shown, carries, reading);
  const objects = scope.of === 'boards' && scope.objects ? new Set(scope.objects) : null;
  return boardsIn(shown, scope).boards.map((board) => ({
    key: board.id,
    hash: boardHash(shown, board, context, objects),
    parts: () => partsOf(shown, board, context, objects),
  }));
}
