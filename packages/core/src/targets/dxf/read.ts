import { resolveBoard } from '../../master/resolve';
import type { Master } from '../../master/schema';
import { decodeText } from '../bytes';
import { listOfResolved } from '../list-of-resolved';
import type { ReadCopy } from '../target';
import { DxfReader } from './reader';
import { parseRecords } from './records';

/** What a DXF copy says, in its own places and colours. */
export function readDxf(bytes: Uint8Array): ReadCopy {
  const file = parseRecords(decodeText(bytes));
  const reader = new DxfReader(file, false);
  const list = listOfResolved(resolveBoard(...masterOf(reader)), false);
  return { list, mark: markOf(file.comments), notUnderstood: reader.tally.list() };
}

/** What was read, as a document with one board. */
export function masterOf(reader: DxfReader): [Master, Master['boards'][number]] {
  const layers = reader.layers.length
    ? reader.layers
    : [{ id: 'layer-1', name: '0', colour: '#000000', visible: true, locked: false, process: 'cut' as const }];
  const board = { id: 'board-1', name: 'Drawing', width: 100, height: 100, background: null, items: reader.items };
  const master: Master = {
    id: 'brought-in',
    title: 'Drawing',
    owner: '',
    purpose: 'panel',
    unit: 'mm',
    layers,
    symbols: reader.symbols,
    boards: [board],
    resources: [],
    description: '',
  };
  return [master, board];
}

export const markOf = (comments: readonly string[]): string | null =>
  comments.find((line) => line.includes('inkwell-twin;')) ?? null;
