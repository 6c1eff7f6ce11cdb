import { digest } from '../../base/bytes/hasher';
import { Failure } from '../../base/failure/failure';
import { boxOfPolyline } from '../../base/geometry/measure';
import { PathStore } from '../../base/geometry/paths';
import type { ReadMaster } from '../../contracts/codec';
import { Budget } from '../../document/limits';
import type { Style } from '../../document/schema';
import { drawnMaster } from '../drawn-master';
import { MasterSink } from '../master-sink';
import { readHpgl } from './read';

/** Room around what a machine draws, mm. */
const MARGIN = 10;
/** Width that strokes are shown with, mm. */
const WIDTH = 0.25;
/** Colours that pens are told apart by on the board; the file knows none. */
const COLOURS = ['#14213a', '#a3421f', '#1f6b5a', '#6b4fa0', '#8a6d00', '#2b6a9b', '#9b2b62', '#4a5a2b'];

/**
 * What a machine would draw, as a new master: a layer for each pen, a path for each stroke. Curves and letters are the short lines
 * that they were made into: what was meant by them is not in the file.
 * @throws Failure `hpgl-empty`, and those of the reader
 */
export function bringInHpgl(bytes: Uint8Array, name: string): ReadMaster {
  const { path, mark, notUnderstood } = readHpgl(bytes);
  if (!path.count) throw new Failure('hpgl-empty', 'The machine file draws nothing: the pen is never down.', { file: name });
  const box = boxOfPolyline([...path.points]);
  const budget = new Budget();
  const sink = new MasterSink(budget, 'e', {});
  sink.page('Drawing', box.maxX - box.minX + 2 * MARGIN, box.maxY - box.minY + 2 * MARGIN, null);
  const looks = path.tools.map((tool, i): { layer: number; style: Style } => {
    const colour = COLOURS[i % COLOURS.length]!;
    return {
      layer: sink.layer({ name: tool.name, colour, visible: true, locked: false, process: 'cut' }),
      style: { fill: null, stroke: colour, strokeWidth: WIDTH },
    };
  });
  const [left, bottom] = [box.minX - MARGIN, box.minY - MARGIN];
  const paths = new PathStore();
  for (let stroke = 0; stroke < path.count; stroke++) {
    const [from, to] = [path.firstPoint[stroke]!, path.firstPoint[stroke + 1]!];
    const at = (point: number): [number, number] => [path.points[2 * point]! - left, path.points[2 * point + 1]! - bottom];
    if (to - from < 2) continue;
    const [start, end] = [at(from), at(to - 1)];
    const closed = to - from > 2 && start[0] === end[0] && start[1] === end[1];
    paths.clear();
    paths.move(...start);
    for (let point = from + 1; point < (closed ? to - 1 : to); point++) paths.line(...at(point));
    paths.end(closed);
    budget.pieces(to - from, {});
    const { layer, style } = looks[path.tool[stroke]!]!;
    sink.path(paths, null, layer, style, 'stroke', undefined);
  }
  const master = drawnMaster(sink, digest(bytes), name, 'Machine file');
  const lines = { kind: 'curves and letters, which a machine file holds as short lines', count: 1, shows: false };
  return { master, mark, notUnderstood: [...notUnderstood, lines] };
}
