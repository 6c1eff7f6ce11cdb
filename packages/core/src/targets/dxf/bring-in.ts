import { Failure } from '../../failure/failure';
import { boxOfOutlines, joinBoxes } from '../../geometry/measure';
import type { Point } from '../../geometry/point';
import { digest } from '../../master/hash';
import { idFrom } from '../../master/ids';
import { resolveBoard } from '../../master/resolve';
import { decodeText } from '../bytes';
import type { ReadMaster } from '../target';
import { masterOf, markOf } from './read';
import { DxfReader } from './reader';
import { parseRecords } from './records';

const MARGIN = 10;

/**
 * A DXF drawing as a new master: layers stay layers, blocks become symbols. The board is laid around what is drawn, with a
 * margin of 10 mm, because the format has no sheet.
 */
export function bringInDxf(bytes: Uint8Array, name: string): ReadMaster {
  const text = decodeText(bytes);
  const file = parseRecords(text);
  const [measured, drawn] = masterOf(new DxfReader(file, true));
  const box = joinBoxes(
    resolveBoard({ ...measured, layers: measured.layers.map((layer) => ({ ...layer, visible: true })) }, drawn).entries.map(
      (entry) =>
        entry.kind === 'path'
          ? boxOfOutlines(entry.outlines)
          : {
              minX: entry.frame[4],
              minY: entry.frame[5],
              maxX: entry.frame[4] + entry.size * entry.text.length * 0.6,
              maxY: entry.frame[5] + entry.size,
            },
    ),
  );
  if (box.minX > box.maxX) throw new Failure('dxf-empty', 'The DXF drawing holds nothing that can be drawn.');
  const shift: Point = [MARGIN - box.minX, MARGIN - box.minY];
  const reader = new DxfReader(file, true, shift);
  const [master, board] = masterOf(reader);
  if (!reader.unitStated) reader.tally.addUnseen('no unit stated, taken as millimetres');
  return {
    master: {
      ...master,
      id: idFrom(`brought in ${digest(text)}`),
      title: (name.replace(/\.[^.]*$/, '') || 'Drawing').slice(0, 200),
      boards: [{ ...board, width: box.maxX - box.minX + 2 * MARGIN, height: box.maxY - box.minY + 2 * MARGIN }],
    },
    mark: markOf(file.comments),
    notUnderstood: reader.tally.list(),
  };
}
