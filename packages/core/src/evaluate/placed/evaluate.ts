import type { MaybePromise, Services } from '../../contracts/services';
import type { Board, Item, Master, PlacedItem } from '../../document/schema';
import { drawnMaster } from '../drawn/drawn';
import { measureBy } from '../fonts/font-book';
import { makeChartFrame } from './chart-frame';
import { makeSolidView } from './solid-view';
import { makeTableFrame } from './table-frame';
import { isThere, placedIn, withPlaced } from './put';
import { makeTextFrame } from './text-frame';

/** How each kind of item that shows another part of its master is drawn. */
const MAKERS: Readonly<Record<string, (item: PlacedItem, master: Master, services: Services) => MaybePromise<Item[]>>> = {
  'text-frame': makeTextFrame,
  'table-frame': makeTableFrame,
  'chart-frame': makeChartFrame,
  'solid-view': makeSolidView,
};

/** What one of them draws, in its own axes; nothing where what it shows is gone. @throws Failure where it can't be made */
export const makePlaced = (item: PlacedItem, master: Master, services: Services): MaybePromise<Item[]> =>
  isThere(item, master) ? MAKERS[item.kind]!(item, master, services) : [];

const evaluated = new WeakMap<Master, Promise<Master>>();

async function evaluate(master: Master, services: Services): Promise<Master> {
  const made = new Map<string, Item[]>();
  const all = [...master.boards, ...master.symbols].flatMap(({ items }) => placedIn(items));
  for (const item of all) made.set(item.id, await makePlaced(item, master, services));
  const put = <H extends Pick<Board, 'items'>>(holder: H): H =>
    placedIn(holder.items).length ? { ...holder, items: withPlaced(holder.items, made) } : holder;
  return { ...master, boards: master.boards.map(put), symbols: master.symbols.map(put) };
}

/**
 * A master in which everything on boards draws by itself: texts flow through their frames, tables, charts and views stand as what they
 * show now. The same master where there is nothing of that kind.
 * @throws Failure where one can't be made: a solid that fails, a chart without numbers
 */
export function placedMaster(own: Master, services: Services): MaybePromise<Master> {
  const { master } = drawnMaster(own, measureBy(services.fonts));
  const some = [...master.boards, ...master.symbols].some(({ items }) => placedIn(items).length);
  if (!some) return master;
  let known = evaluated.get(master);
  if (!known) {
    evaluated.set(master, (known = evaluate(master, services)));
    // What failed is tried again: a file may be there the next time.
    known.catch(() => evaluated.delete(master));
  }
  return known;
}
