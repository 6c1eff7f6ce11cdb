import { digest } from '../../bytes/hasher';
import { assertOpens } from '../../master/count';
import { idFrom } from '../../master/ids';
import { Budget } from '../../master/limits';
import type { Master } from '../../master/schema';
import type { ReadMaster } from '../codec';
import { MasterSink } from '../master-sink';
import type { MaybePromise, Means } from '../../content/kind';
import { type OpenedSvg, openSvg, tellSvg } from './document';
import { type StandingPicture, openPictures } from './images';

/**
 * An SVG document as a new master: groups become layers or groups, `use` becomes symbol uses, everything in board millimetres.
 * @throws Failure that names the line; nothing is left out without being counted in `notUnderstood`
 */
export function bringInSvg(bytes: Uint8Array, name: string): ReadMaster;
export function bringInSvg(bytes: Uint8Array, name: string, means?: Pick<Means, 'pictures'>): MaybePromise<ReadMaster>;
export function bringInSvg(bytes: Uint8Array, name: string, means: Pick<Means, 'pictures'> = {}): MaybePromise<ReadMaster> {
  const opened = openSvg(bytes);
  const standing = openPictures(opened.root, means.pictures);
  return standing instanceof Promise
    ? standing.then((pictures) => masterOf(opened, name, pictures))
    : masterOf(opened, name, standing);
}

function masterOf(opened: OpenedSvg, name: string, pictures: ReadonlyMap<string, StandingPicture>): ReadMaster {
  const budget = new Budget();
  const sink = new MasterSink(budget, 'i');
  const { title, mark, notUnderstood, text } = tellSvg(opened, sink, budget, pictures);
  const master: Master = {
    id: idFrom(`brought in ${digest(text)}`),
    title: (title || name.replace(/\.[^.]*$/, '') || 'Drawing').slice(0, 200),
    owner: '',
    purpose: 'sheet',
    unit: 'mm',
    layers: sink.layers,
    symbols: sink.symbols,
    boards: sink.boards.map((board) => ({ ...board, name: (board.name || 'Drawing').slice(0, 200) })),
    resources: sink.pictures,
    description: '',
  };
  for (const board of master.boards) assertOpens(master, board);
  return { master, mark, notUnderstood, resources: sink.resources };
}
