import { canonical, digest as fullDigest } from '../master/hash';
import type { Board, DrawnItem, Item, Layer, Master, Style, SymbolDefinition } from '../master/schema';
import type { Carries } from '../targets/target';

/** What a copy depends on: one hash for all of it, and one per object for naming what changed. */
export interface Footprint {
  readonly hash: string;
  /** Object id → hash of the attributes that the target carries. */
  readonly parts: ReadonlyMap<string, string>;
}

/** Half of a SHA-256: plenty to tell objects apart, and half the work of hashing the hashes again. */
const digest = (text: string): string => fullDigest(text).slice(0, 32);

interface Context {
  readonly carries: Carries;
  readonly layers: ReadonlyMap<string, Layer>;
  readonly symbols: ReadonlyMap<string, SymbolDefinition>;
  readonly layerHashes: ReadonlyMap<string, string>;
  readonly symbolHashes: Map<string, string>;
  readonly cache: WeakMap<Item, Map<string, string>>;
  readonly boards: WeakMap<Board, string>;
}

// Contexts are kept per (layers, symbols) of a master, because every hash below depends on both; recipe by recipe inside.
const contexts = new WeakMap<object, WeakMap<object, Map<string, Context>>>();

function contextOf(master: Master, key: string, carries: Carries): Context {
  let bySymbols = contexts.get(master.layers);
  if (!bySymbols) contexts.set(master.layers, (bySymbols = new WeakMap()));
  let byKey = bySymbols.get(master.symbols);
  if (!byKey) bySymbols.set(master.symbols, (byKey = new Map()));
  let context = byKey.get(key);
  if (!context) {
    context = {
      carries,
      layers: new Map(master.layers.map((layer) => [layer.id, layer])),
      symbols: new Map(master.symbols.map((symbol) => [symbol.id, symbol])),
      layerHashes: new Map(master.layers.map((layer) => [layer.id, layerHash(layer, carries)])),
      symbolHashes: new Map(),
      cache: new WeakMap(),
      boards: new WeakMap(),
    };
    byKey.set(key, context);
  }
  return context;
}

/** Empty where nothing on this layer reaches the copy. */
function layerHash(layer: Layer, carries: Carries): string {
  if (!layer.visible) return '';
  if (carries.processes !== 'all' && !carries.processes.includes(layer.process)) return '';
  return `${carries.layerLabel(layer)}|${carries.layerColour ? layer.colour : ''}`;
}

function carriedStyle(style: Style, carries: Carries): unknown[] {
  return [
    carries.fill ? [style.fill, style.fill ? style.fillRule : ''] : 0,
    carries.stroke ? style.stroke : 0,
    carries.strokeWidth && style.stroke ? style.strokeWidth : 0,
    carries.opacity ? (style.opacity ?? 1) : 0,
  ];
}

const combine = (hashes: readonly string[], { order }: Carries): string =>
  (order === 'none' ? [...hashes].sort() : hashes).join(' ');

function symbolHash(symbol: SymbolDefinition | undefined, holder: string, context: Context): string {
  if (!symbol) return 'missing';
  const key = `${symbol.id}|${holder}`;
  let hash = context.symbolHashes.get(key);
  if (hash === undefined) {
    context.symbolHashes.set(key, 'cycle');
    hash = digest(
      `${symbol.anchor}|${combine(symbol.items.map((item) => itemHash(item, holder, context)).filter(Boolean), context.carries)}`,
    );
    context.symbolHashes.set(key, hash);
  }
  return hash;
}

/** The carried hash of an item on a layer; empty where nothing of it reaches the copy. */
function itemHash(item: Item, holder: string, context: Context): string {
  const layer = item.layer ?? holder;
  let cache = context.cache.get(item);
  if (!cache) context.cache.set(item, (cache = new Map()));
  const known = cache.get(layer);
  if (known !== undefined) return known;
  const hash = hashItem(item, layer, context);
  cache.set(layer, hash);
  return hash;
}

function hashItem(item: Item, layer: string, context: Context): string {
  const { carries } = context;
  if (item.kind === 'group') {
    const inner = item.items.map((child) => itemHash(child, layer, context)).filter(Boolean);
    if (!inner.length) return '';
    return digest(canonical([item.transform ?? 0, carries.opacity ? (item.opacity ?? 1) : 0, combine(inner, carries)]));
  }
  if (item.kind === 'use')
    return digest(canonical([item.transform ?? 0, symbolHash(context.symbols.get(item.symbol), layer, context)]));
  const onLayer = context.layerHashes.get(layer);
  if (!onLayer) return '';
  return digest(`${geometryHash(item)}|${onLayer}|${JSON.stringify(carriedStyle(item.style, carries))}`);
}

const geometries = new WeakMap<Item, string>();

/** The hash of what an object is besides its look: the same for every recipe, so it is found once. */
function geometryHash(item: DrawnItem): string {
  let hash = geometries.get(item);
  if (hash === undefined) {
    const { id: _id, name: _name, layer: _layer, style: _style, ...geometry } = item;
    geometries.set(item, (hash = digest(canonical(geometry))));
  }
  return hash;
}

const boardText = (board: Board, carries: Carries): string =>
  `${carries.sheet ? `${board.width}x${board.height}` : ''}|${carries.background ? board.background : ''}`;

/**
 * The hash of everything on a board that a target carries. Work is kept per object, so that after an edit only what
 * changed is hashed again.
 * @param key names the recipe's target and options: equal keys must mean equal `carries`
 */
export function footprintHash(master: Master, board: Board, key: string, carries: Carries): string {
  const context = contextOf(master, key, carries);
  let hash = context.boards.get(board);
  if (hash === undefined) {
    const holder = master.layers[0]!.id;
    const inner = board.items.map((item) => itemHash(item, holder, context)).filter(Boolean);
    hash = digest(`${boardText(board, carries)}|${combine(inner, carries)}`);
    context.boards.set(board, hash);
  }
  return hash;
}

/** The footprint with its parts, groups opened: for naming what ended a match span. */
export function footprintOf(master: Master, board: Board, key: string, carries: Carries): Footprint {
  const context = contextOf(master, key, carries);
  const parts = new Map<string, string>([[board.id, boardText(board, carries)]]);
  const visit = (items: readonly Item[], holder: string, around: string) => {
    for (const item of items) {
      const layer = item.layer ?? holder;
      if (item.kind === 'group')
        visit(item.items, layer, `${around}${item.transform ?? ''}|${carries.opacity ? (item.opacity ?? 1) : ''}`);
      else {
        const hash = itemHash(item, holder, context);
        if (hash) parts.set(item.id, around + hash);
      }
    }
  };
  visit(board.items, master.layers[0]!.id, '');
  return { hash: footprintHash(master, board, key, carries), parts };
}

/** Ids of the objects whose carried attributes differ between two footprints: changed, come or gone. */
export function changedParts(before: Footprint, after: Footprint): string[] {
  if (before.hash === after.hash) return [];
  const ids = new Set([...before.parts.keys(), ...after.parts.keys()]);
  return [...ids].filter((id) => before.parts.get(id) !== after.parts.get(id));
}
