import { digest } from '../../base/bytes/hasher';
import { boxOfOutlinesIn } from '../../content/drawing/pieces';
import { PackingSink } from '../../content/drawing/sink';
import { Failure } from '../../base/failure/failure';
import { boxOfOutlines, joinBoxes } from '../../base/geometry/measure';
import { Budget } from '../../document/limits';
import type { ReadMaster } from '../../contracts/codec';
import type { Services } from '../../contracts/services';
import { drawnMaster } from '../drawn-master';
import { MasterSink } from '../master-sink';
import { markOf } from './names';
import { openDxf } from './open';
import { DxfReader } from './reader';

const MARGIN = 10;

/** Longest side of a board on which lines are as wide as they say, mm. */
const PAPER = 6000;
/** By how much lines are made wider on a board of this side, so that they are seen: 1, 2, 5, 10, 20 … */
function widerFor(side: number): number {
  if (side <= PAPER) return 1;
  const wanted = side / (PAPER / 10);
  const power = 10 ** Math.floor(Math.log10(wanted));
  return [1, 2, 5].findLast((step) => step * power <= wanted)! * power;
}

/**
 * A DXF drawing as a new master: layers stay layers, blocks become symbols. The board is laid around what is drawn, with a
 * margin of 10 mm, because the format has no sheet.
 */
export function bringInDxf(bytes: Uint8Array, name: string, { fonts }: Partial<Pick<Services, 'fonts'>> = {}): ReadMaster {
  const { file, told } = openDxf(bytes);
  const measured = new PackingSink();
  new DxfReader(file, measured, new Budget(), { keep: true, showAll: true, fonts }).emit();
  const { drawing } = measured.drawings()[0]!;
  const box = joinBoxes([
    boxOfOutlinesIn(drawing, 0.01),
    ...(fonts ? drawing.texts.map((words) => boxOfOutlines(fonts.outline(words).outlines)) : []),
    // Six tenths of an em is a fair mean width of a letter.
    ...(fonts ? [] : drawing.texts).map(({ frame: [, , , , x, y], size, text: words }) => ({
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
  const wider = widerFor(Math.max(...size));
  const shift = [MARGIN - box.minX, MARGIN - box.minY] as const;
  const reader = new DxfReader(file, sink, budget, { keep: true, shift, size, fonts, wider });
  if (wider > 1) reader.tally.addUnseen(`lines of a drawing of metres, ${wider} times as wide`);
  if (told) reader.tally.add(told);
  reader.emit();
  if (!reader.unitStated) reader.tally.addUnseen('no unit stated, taken as millimetres');
  const master = drawnMaster(sink, digest(bytes), name, 'Drawing');
  return { master, mark: markOf(file), notUnderstood: reader.noted };
}
