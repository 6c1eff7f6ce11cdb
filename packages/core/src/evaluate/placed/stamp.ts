import { digest } from '../../base/bytes/hasher';
import { canonical, nodeHash } from '../../document/hash';
import type { TextFrame } from '../../document/items/kinds/text-frame';
import type { Master, PlacedItem } from '../../document/schema';
import { SHAPE, footprintOfSolids } from '../solids/footprint';
import { chainOf } from './chain';

/** What of a text a frame shows depends on all frames before it, and on where they are. */
const framesHash = (master: Master, text: string): string =>
  canonical(chainOf(master, text).map(({ id, width, height, size }: TextFrame) => [id, width, height, size]));

type Stamp = (item: PlacedItem, master: Master) => string;
const STAMPS: Readonly<Record<string, Stamp>> = {
  texts: (item, master) => {
    const { id } = item as TextFrame;
    const text = master.texts!.find((one) => one.id === (item as TextFrame).text)!;
    return `${nodeHash(text)} ${framesHash(master, text.id)} ${chainOf(master, text.id).findIndex((one) => one.id === id)}`;
  },
  tables: (item, master) => nodeHash(master.tables!.find((one) => 'table' in item && one.id === item.table)!),
  solids: (item, master) => {
    const { solid } = item as PlacedItem & { solid: string };
    return footprintOfSolids(master, { of: 'solids', ids: [solid] }, SHAPE)[0]?.hash ?? '';
  },
};

const stamps = new WeakMap<Master, Map<string, string>>();

/** A hash of what an item shows, beside what it says itself; empty where that is gone. */
export function stampOf(item: PlacedItem, list: 'tables' | 'solids' | 'texts', there: boolean, master: Master): string {
  if (!there) return '';
  let known = stamps.get(master);
  if (!known) stamps.set(master, (known = new Map()));
  let stamp = known.get(item.id);
  if (stamp === undefined) known.set(item.id, (stamp = digest(STAMPS[list]!(item, master)).slice(0, 32)));
  return stamp;
}
