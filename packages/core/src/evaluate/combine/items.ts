import { Failure } from '../../base/failure/failure';
import { drawnMaster } from '../drawn/drawn';
import { invert, multiply } from '../../base/geometry/matrix';
import { transformOutline } from '../../base/geometry/outline';
import { type Command, axesAround, boardName, itemsOf } from '../../document/commands';
import { newId } from '../../document/ids';
import { itemKind } from '../../document/items';
import type { Patch } from '../../document/patches';
import type { Item, Master, PathItem } from '../../document/schema';
import { allItems } from '../../document/tree';
import { COMBINATIONS, type Combination, combine } from './combine';

/**
 * Makes one path of several shapes, where the lowest lies and as it looks.
 * @throws Failure `combine-few` for fewer than two, `combine-shape` for what has no outline, `combine-none` where nothing is left
 */
export function combineItems(master: Master, ids: readonly string[], how: Combination, id = newId()): Command {
  const order = new Map(
    [...allItems([...master.boards, ...master.symbols].flatMap(({ items }) => items))].map((item, i) => [item.id, i]),
  );
  const raw = new Map(itemsOf(master, ids).map((one) => [one.item.id, one]));
  const found = itemsOf(drawnMaster(master).master, ids).sort((a, b) => order.get(a.item.id)! - order.get(b.item.id)!);
  const [lowest] = found;
  if (found.length < 2 || !lowest) throw new Failure('combine-few', 'Two shapes or more are combined: choose some.');
  const areas = found.map(({ item, path }) => {
    const kind = itemKind(item);
    const outlines = kind.paint ? undefined : kind.outlines?.(item);
    if (!outlines || !('style' in item))
      throw new Failure('combine-shape', `Only shapes are combined, and a ${kind.words(item)} is none. Take groups apart first.`);
    const around = axesAround(path);
    const own = item.transform ? multiply(around, item.transform) : around;
    return { outlines: outlines.map((one) => transformOutline(one, own)), rule: item.style.fillRule ?? ('nonzero' as const) };
  });
  const outlines = combine(areas, how);
  if (!outlines.length) throw new Failure('combine-none', 'Nothing would be left of these shapes.');
  const around = axesAround(lowest.path);
  const back = invert(around);
  const { item, path } = raw.get(lowest.item.id)!;
  const holder = path!.at(-2) as { id: string; items: readonly Item[] };
  const gone = new Set(found.map((one) => one.item.id));
  const index = holder.items.findIndex((one) => one.id === item.id);
  const after = holder.items.slice(0, index).findLast((one) => !gone.has(one.id))?.id ?? null;
  const style = (lowest.item as Item & { style: PathItem['style'] }).style;
  const node: PathItem = {
    kind: 'path',
    id,
    ...(item.name ? { name: item.name } : {}),
    layer: item.layer,
    style: { ...style, fillRule: 'evenodd' },
    outlines: outlines.map((one) => (back ? transformOutline(one, back) : one)) as PathItem['outlines'],
  };
  return {
    label: `${found.length} shapes on ${boardName(path)}: ${COMBINATIONS[how].words}`,
    patches: [
      ...found.map((one): Patch => ({ op: 'remove', parent: one.path!.at(-2)!.id, list: 'items', node: one.item.id })),
      { op: 'insert', parent: holder.id, list: 'items', after, node },
    ],
  };
}
