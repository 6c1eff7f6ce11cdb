import { digest } from '../../bytes/hasher';
import { assertOpens } from '../../master/count';
import { idFrom } from '../../master/ids';
import { Budget } from '../../master/limits';
import type { Master } from '../../master/schema';
import type { ReadMaster } from '../codec';
import { MasterSink } from '../master-sink';
import { tellSvg } from './document';

/**
 * An SVG document as a new master: groups become layers or groups, `use` becomes symbol uses, everything in board millimetres.
 * @throws Failure that names the line; nothing is left out without being counted in `notUnderstood`
 */
export function bringInSvg(bytes: Uint8Array, name: string): ReadMaster {
  const budget = new Budget();
  const sink = new MasterSink(budget, 'i');
  const { title, mark, notUnderstood, text } = tellSvg(bytes, sink, budget);
  const master: Master = {
    id: idFrom(`brought in ${digest(text)}`),
    title: (title || name.replace(/\.[^.]*$/, '') || 'Drawing').slice(0, 200),
    owner: '',
    purpose: 'sheet',
    unit: 'mm',
    layers: sink.layers,
    symbols: sink.symbols,
    boards: sink.boards.map((board) => ({ ...board, name: (board.name || 'Drawing').slice(0, 200) })),
    resources: [],
    description: '',
  };
  for (const board of master.boards) assertOpens(master, board);
  return { master, mark, notUnderstood };
}
