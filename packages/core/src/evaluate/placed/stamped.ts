import { itemKind } from '../../document/items';
import { digest } from '../../base/bytes/hasher';
import { drawnMaster } from '../drawn/drawn';
import type { FontName } from '../../document/faces';
import type { Board, Item, Master, PlacedItem } from '../../document/schema';
import { stampOf } from './stamp';

/** Whether anything in a list shows another part of its master. */
const shows = new WeakMap<readonly Item[], boolean>();
function showsAny(items: readonly Item[]): boolean {
  let known = shows.get(items);
  if (known === undefined)
    shows.set(items, (known = items.some((item) => itemKind(item).readPart || ('items' in item && showsAny(item.items)))));
  return known;
}

/** The same item for the same stamp, so that what is kept of it stays known. */
const stamped = new WeakMap<Item, { stamp: string; item: Item }>();

function stampItem(item: Item, master: Master): Item {
  const reads = itemKind(item).readPart?.(item);
  if (reads) {
    const there = (master[reads.list] ?? []).some(({ id }) => id === reads.id);
    const stamp = stampOf(item as PlacedItem, reads.list, there, master);
    const known = stamped.get(item);
    if (known?.stamp === stamp) return known.item;
    const made = { ...item, stamp } as unknown as Item;
    stamped.set(item, { stamp, item: made });
    return made;
  }
  return 'items' in item && showsAny(item.items) ? { ...item, items: stampItems(item.items, master) } : item;
}
const stampItems = (items: readonly Item[], master: Master): Item[] => items.map((item) => stampItem(item, master));

/**
 * Widths for what depends on how wide a text is, where no fonts are at hand: not true, but another for every other text and font, so
 * that what is measured of them changes with them.
 */
const tellingWidths = (font: FontName, text: string): number =>
  text.length * (0.4 + parseInt(digest(`${font} ${text}`).slice(0, 6), 16) / 0x4000000);

const masters = new WeakMap<Master, Master>();

/** A master whose items say what they show as a hash: what a copy of a board depends on. The same master where none shows anything. */
export function stampedMaster(own: Master): Master {
  const { master } = drawnMaster(own, tellingWidths);
  if (![...master.boards, ...master.symbols].some(({ items }) => showsAny(items))) return master;
  let made = masters.get(master);
  if (!made) {
    const put = <H extends Pick<Board, 'items'>>(holder: H): H =>
      showsAny(holder.items) ? { ...holder, items: stampItems(holder.items, master) } : holder;
    // What footprints keep is kept by the list of symbols: it stays the same one where it can.
    const symbols = master.symbols.some(({ items }) => showsAny(items)) ? master.symbols.map(put) : master.symbols;
    made = { ...master, boards: master.boards.map(put), symbols };
    masters.set(master, made);
  }
  return made;
}
