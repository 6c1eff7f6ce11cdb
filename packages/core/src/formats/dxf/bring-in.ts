import { digest } from '../../base/bytes/hasher';
import { boxOfOutlinesIn } from '../../content/drawing/pieces';
import { PackingSink } from '../../content/drawing/sink';
import { Failure } from '../../base/failure/failure';
import { joinBoxes } from '../../base/geometry/measure';
import { assertOpens } from '../../document/count';
import { idFrom } from '../../document/ids';
import { Budget } from '../../document/limits';
import type { Master } from '../../document/schema';
import type { ReadMaster } from '../../contracts/codec';
import { MasterSink } from '../master-sink';
import { markOf } from './names';
import { openDxf } from './open';
import { DxfReader } from './reader';

const MARGIN = 10;

/**
 * A DXF drawing as a new master: layers stay layers, blocks become symbols. The board is laid around what is drawn, with a
 * margin of 10 mm, because the format has no sheet.
 */
export function bringInDxf(bytes: Uint8Array, name: string): ReadMaster {
  const { text, file, told } = openDxf(bytes);
  const measured = new PackingSink();
  new DxfReader(file, measured, new Budget(), { keep: true, showAll: true }).emit();
  const { drawing } = measured.drawings()[0]!;
  const box = joinBoxes([
    boxOfOutlinesIn(drawing, 0.01),
    // Six tenths of an em is a fair mean width of a letter.
    ...drawing.texts.map(({ frame: [, , , , x, y], size, text: words }) => ({
      minX: x,
      minY: y,
      maxX: x + size * words.length * 0.6,
      maxY: y + size,
    })),
  ]);
  if (box.minX > box.maxX) throw new Failure('dxf-empty', 'The DXF drawing holds nothing that can be drawn.');
  const budget = new Budget();
  const sink = new MasterSink(budget, 'e', {});
  const size = [box.maxX - box.minX + 2 * MARGIN, box.maxY - box.minY + 2 * MARGIN] as const;
  const reader = new DxfReader(file, sink, budget, { keep: true, shift: [MARGIN - box.minX, MARGIN - box.minY], size });
  if (told) reader.tally.add(told);
  reader.emit();
  if (!reader.unitStated) reader.tally.addUnseen('no unit stated, taken as millimetres');
  const master: Master = {
    id: idFrom(`brought in ${digest(text)}`),
    title: (name.replace(/\.[^.]*$/, '') || 'Drawing').slice(0, 200),
    owner: '',
    purpose: 'panel',
    unit: 'mm',
    layers: sink.layers,
    symbols: sink.symbols,
    boards: sink.boards,
    resources: [],
    description: '',
  };
  assertOpens(master, master.boards[0]!);
  return { master, mark: markOf(file), notUnderstood: reader.noted };
}
