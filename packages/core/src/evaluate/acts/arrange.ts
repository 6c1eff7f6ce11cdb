import { boxOfDrawn, drawnMaster } from '../drawn/drawn';
import { Failure } from '../../base/failure/failure';
import { type Matrix, identity, invert, multiply, roundedMatrix } from '../../base/geometry/matrix';
import { type Box, joinBoxes } from '../../base/geometry/measure';
import { type Command, axesAround, boardName, itemsOf, moveItems, set } from '../../document/commands';
import { newId } from '../../document/ids';
import { type Measure, itemKind, roughly } from '../../document/items';
import type { Patch } from '../../document/patches';
import type { Board, GroupItem, Item, Master, Node, SymbolDefinition } from '../../document/schema';
import { nodeInWords, pathTo } from '../../document/tree';

const counted = (count: number): string => `${count} object${count === 1 ? '' : 's'}`;
const named = (master: Master, ids: readonly string[]): string => {
  const found = itemsOf(master, ids);
  return found.length === 1 ? `${nodeInWords(found[0]!.item)} on ${boardName(found[0]!.path)}` : counted(found.length);
};

/** Patches that set an attribute to a value, which is then no more computed. */
export const given = (item: Item, attribute: string, value: unknown): Patch[] => [
  set(item.id, attribute, value),
  ...(item.formulas?.[attribute] === undefined ? [] : [set(item.id, `formulas.${attribute}`, undefined)]),
];

/** The items among these that stand in none of the others. */
const outermost = (master: Master, ids: readonly string[]): ReturnType<typeof itemsOf> => {
  const wanted = new Set(ids);
  return itemsOf(master, ids).filter(({ path }) => !path!.slice(0, -1).some(({ id }) => wanted.has(id)));
};

/**
 * Maps objects on their board: stretches, turns, mirrors or slants them. Shapes get other measures where those can say it, so that
 * their lines stay as wide as they are; the rest gets a transform.
 */
export function mapItems(master: Master, ids: readonly string[], matrix: Matrix, words: string): Command {
  const { master: drawn } = drawnMaster(master);
  const now = new Map(itemsOf(drawn, ids).map(({ item }) => [item.id, item]));
  const patches = outermost(master, ids).flatMap(({ item, path }): Patch[] => {
    const outer = axesAround(path);
    const back = invert(outer);
    if (!back) return [];
    const inner = multiply(back, multiply(matrix, outer));
    const kind = itemKind(item);
    // What is computed now counts; what draws by a rule has become a group there, and only its own attributes matter here.
    const current = kind.drawsByRule ? item : (now.get(item.id) ?? item);
    const shaped = item.transform ? null : kind.mapShape?.(current, inner);
    if (shaped) return Object.entries(shaped).flatMap(([attribute, value]) => given(item, attribute, value));
    const transform = roundedMatrix(multiply(inner, item.transform ?? identity));
    return [set(item.id, 'transform', transform)];
  });
  return { label: `${named(master, ids)}: ${words}`, patches };
}

/** The boxes of objects on their board, mm; without those that draw nothing. */
export function boxesOf(master: Master, ids: readonly string[], measure: Measure = roughly): { id: string; box: Box }[] {
  const { master: drawn } = drawnMaster(master, measure);
  const symbols = new Map(drawn.symbols.map((one) => [one.id, one]));
  return itemsOf(drawn, ids).flatMap(({ item, path }) => {
    const box = boxOfDrawn(item, axesAround(path), symbols, measure);
    return box.minX <= box.maxX ? [{ id: item.id, box }] : [];
  });
}

/** How objects may be laid in line: what of their boxes meets what of all of them together. */
export const ALIGNMENTS = {
  left: { words: 'left edges in line', axis: 0, share: 0 },
  centre: { words: 'middles in line, one above the other', axis: 0, share: 0.5 },
  right: { words: 'right edges in line', axis: 0, share: 1 },
  foot: { words: 'feet in line', axis: 1, share: 0 },
  middle: { words: 'middles in line, side by side', axis: 1, share: 0.5 },
  top: { words: 'tops in line', axis: 1, share: 1 },
} as const;
export type Alignment = keyof typeof ALIGNMENTS;

const low = (box: Box, axis: 0 | 1): number => (axis ? box.minY : box.minX);
const high = (box: Box, axis: 0 | 1): number => (axis ? box.maxY : box.maxX);

const moves = (master: Master, shifts: readonly { id: string; by: number }[], axis: 0 | 1, label: string): Command => ({
  label,
  patches: shifts.flatMap(({ id, by }) =>
    Math.abs(by) < 1e-9 ? [] : moveItems(master, [id], axis ? 0 : by, axis ? by : 0).patches,
  ),
});

/** Lays several objects in line with each other, or one with its board. */
export function alignItems(master: Master, ids: readonly string[], how: Alignment, measure: Measure = roughly): Command {
  const { words, axis, share } = ALIGNMENTS[how];
  const boxes = boxesOf(master, ids, measure);
  const board = pathTo(master, ids[0] ?? '')?.find((node): node is Board => 'background' in node);
  const all: Box =
    boxes.length === 1 && board
      ? { minX: 0, minY: 0, maxX: board.width, maxY: board.height }
      : joinBoxes(boxes.map(({ box }) => box));
  const at = (box: Box) => low(box, axis) + share * (high(box, axis) - low(box, axis));
  const shifts = boxes.map(({ id, box }) => ({ id, by: Number((at(all) - at(box)).toFixed(6)) }));
  return moves(master, shifts, axis, `${named(master, ids)}: ${words}`);
}

/** Leaves equal gaps between three objects or more; the outermost stay. */
export function spreadItems(master: Master, ids: readonly string[], way: 'across' | 'up', measure: Measure = roughly): Command {
  const axis = way === 'up' ? 1 : 0;
  const boxes = boxesOf(master, ids, measure).sort((a, b) => low(a.box, axis) - low(b.box, axis));
  const [first, last] = [boxes[0], boxes.at(-1)];
  if (boxes.length < 3 || !first || !last) return { label: 'nothing', patches: [] };
  const length = boxes.reduce((sum, { box }) => sum + high(box, axis) - low(box, axis), 0);
  const end = Math.max(...boxes.map(({ box }) => high(box, axis)));
  const gap = (end - low(first.box, axis) - length) / (boxes.length - 1);
  let at = low(first.box, axis);
  const shifts = boxes.map(({ id, box }) => {
    const by = Number((at - low(box, axis)).toFixed(6));
    at += high(box, axis) - low(box, axis) + gap;
    return { id, by };
  });
  return moves(master, shifts, axis, `${counted(boxes.length)}: equal gaps ${way}`);
}

type Holder = Board | SymbolDefinition | GroupItem;
const holderOf = (path: readonly Node[]): Holder => path.at(-2) as Holder;

/** Chosen siblings by what holds them, each in the order in which they lie. */
function siblings(master: Master, ids: readonly string[]): Map<Holder, Item[]> {
  const chosen = new Set(ids);
  const found = new Map<Holder, Item[]>();
  for (const { path } of outermost(master, ids)) {
    const holder = holderOf(path!);
    if (!found.has(holder))
      found.set(
        holder,
        holder.items.filter(({ id }) => chosen.has(id)),
      );
  }
  return found;
}

export type Order = 'top' | 'up' | 'down' | 'bottom';
const ORDERS: Readonly<Record<Order, string>> = {
  top: 'on top of all',
  up: 'one higher',
  down: 'one lower',
  bottom: 'beneath all',
};

/** Lays objects over or under what lies beside them. */
export function orderItems(master: Master, ids: readonly string[], order: Order): Command {
  const patches = [...siblings(master, ids)].flatMap(([holder, items]): Patch[] => {
    const chosen = new Set(items.map(({ id }) => id));
    const list = holder.items;
    const rest = list.filter(({ id }) => !chosen.has(id));
    const [first, last] = [list.findIndex(({ id }) => chosen.has(id)), list.findLastIndex(({ id }) => chosen.has(id))];
    // How many of the others lie beneath, afterwards.
    const beneath = {
      top: rest.length,
      bottom: 0,
      up: Math.min(rest.length, list.slice(0, last + 1).filter(({ id }) => !chosen.has(id)).length + 1),
      down: Math.max(0, list.slice(0, first).filter(({ id }) => !chosen.has(id)).length - 1),
    }[order];
    const next = [...rest.slice(0, beneath), ...items, ...rest.slice(beneath)];
    if (next.every((item, i) => item === list[i])) return [];
    const after = (i: number) => (i ? items[i - 1]!.id : (rest[beneath - 1]?.id ?? null));
    return [
      ...items.map((item): Patch => ({ op: 'remove', parent: holder.id, list: 'items', node: item.id })),
      ...items.map((item, i): Patch => ({ op: 'insert', parent: holder.id, list: 'items', after: after(i), node: item })),
    ];
  });
  return { label: `${named(master, ids)}: ${ORDERS[order]}`, patches };
}

const withTransform = (item: Item, transform: Matrix): Item => {
  const plain = transform.every((value, i) => Math.abs(value - identity[i]!) < 1e-12);
  const { transform: _old, ...rest } = item;
  return (plain ? rest : { ...rest, transform: roundedMatrix(transform) }) as Item;
};

/** The layer of an item: its own, or that of what holds it. */
export function layerOf(master: Master, path: readonly Node[]): string {
  for (const node of [...path].reverse()) if ('layer' in node && typeof node.layer === 'string') return node.layer;
  return master.layers[0]!.id;
}

/** Makes a group of objects where the uppermost of them lies. @throws Failure `group-few` for fewer than two */
export function groupItems(master: Master, ids: readonly string[], id = newId()): Command {
  const found = outermost(master, ids);
  if (found.length < 2) throw new Failure('group-few', 'A group is made of two objects or more: choose some.');
  const holder = holderOf(found[0]!.path!);
  const home = axesAround([...found[0]!.path!]);
  const back = invert(home);
  if (
    !back ||
    found.some(({ path }) => path!.find((node) => 'items' in node) !== found[0]!.path!.find((node) => 'items' in node))
  )
    throw new Failure('group-few', 'Objects of one board make a group: these are on several.');
  const all = found[0]!.path!.find((node): node is Board => 'items' in node)!;
  const inOrder = orderOf(all.items, new Set(found.map(({ item }) => item.id)));
  const byId = new Map(found.map((one) => [one.item.id, one]));
  const items = inOrder.map((one) => {
    const { item, path } = byId.get(one)!;
    const own = multiply(back, multiply(axesAround(path), item.transform ?? identity));
    return { ...withTransform(item, own), layer: layerOf(master, path!) } as Item;
  });
  const here = new Set(items.map((item) => item.id));
  const last = holder.items.findLastIndex((item) => here.has(item.id));
  const after = holder.items.slice(0, Math.max(0, last)).findLast((item) => !here.has(item.id))?.id ?? null;
  const group: Item = { kind: 'group', id, layer: null, items };
  return {
    label: `${counted(items.length)} on ${boardName(found[0]!.path)}: made a group`,
    patches: [
      ...found.map(({ item, path }): Patch => ({ op: 'remove', parent: holderOf(path!).id, list: 'items', node: item.id })),
      { op: 'insert', parent: holder.id, list: 'items', after, node: group },
    ],
  };
}

/** Ids of some items in the order in which they are drawn. */
function orderOf(items: readonly Item[], wanted: ReadonlySet<string>): string[] {
  return items.flatMap((item) => (wanted.has(item.id) ? [item.id] : 'items' in item ? orderOf(item.items, wanted) : []));
}

/** Takes groups apart; what is in them stays where it is. @throws Failure `group-looks` for a group that does something to what is in it */
export function ungroupItems(master: Master, ids: readonly string[]): Command {
  const groups = outermost(master, ids).filter(({ item }) => 'items' in item);
  const patches = groups.flatMap(({ item, path }): Patch[] => {
    const group = item as GroupItem;
    const { opacity = 1, blend = 'normal', clip, mask } = group;
    if (opacity !== 1 || blend !== 'normal' || clip || mask)
      throw new Failure(
        'group-looks',
        `${nodeInWords(group)} clips, mixes or fades what is in it as one; taken apart that would be lost.`,
      );
    const holder = holderOf(path!);
    const at = holder.items.findIndex(({ id }) => id === group.id);
    let after = holder.items[at - 1]?.id ?? null;
    const insert = group.items.map((child): Patch => {
      const layer = child.layer ?? group.layer;
      const node = { ...withTransform(child, multiply(group.transform ?? identity, child.transform ?? identity)), layer } as Item;
      const patch: Patch = { op: 'insert', parent: holder.id, list: 'items', after, node };
      after = child.id;
      return patch;
    });
    return [{ op: 'remove', parent: holder.id, list: 'items', node: group.id }, ...insert];
  });
  return { label: `${named(master, ids)}: taken apart`, patches };
}
