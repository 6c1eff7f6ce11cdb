import { assertOpens } from '../document/count';
import { idFrom } from '../document/ids';
import type { Master } from '../document/schema';
import type { MasterSink } from './master-sink';

/**
 * What a sink took in as a new master of one board, named after its file.
 * @param digest of the file: the same file is the same master
 * @param otherwise its title where the file has no name
 * @throws Failure where it holds more than a master opens
 */
export function drawnMaster({ layers, symbols, boards }: MasterSink, digest: string, name: string, otherwise: string): Master {
  const master: Master = {
    id: idFrom(`brought in ${digest}`),
    title: (name.replace(/\.[^.]*$/, '') || otherwise).slice(0, 200),
    owner: '',
    purpose: 'panel',
    unit: 'mm',
    layers,
    symbols,
    boards,
    resources: [],
    description: '',
  };
  assertOpens(master, master.boards[0]!);
  return master;
}
