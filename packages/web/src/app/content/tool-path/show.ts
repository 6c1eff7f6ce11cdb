import { type Box, type ToolPath, plainStyle, strokePoints } from '@inkwell-twin/core/web';
import { NO_CELLS } from '../../master/stage/brush';
import { isOnPath, paintPath } from '../../master/stage/paint';
import type { Manner, Shown } from '../shown';

/** Where nothing else is wanted, strokes are thin ink, as a pen would leave them. */
const INK: Manner = { stroke: '#14213a', fill: null, width: 1 };

/** What a machine does: its strokes. */
export function showToolPath(path: ToolPath): Shown {
  const made: Path2D[] = [];
  const strokeOf = (entry: number): Path2D => {
    let stroke = made[entry];
    if (!stroke) {
      made[entry] = stroke = new Path2D();
      const points = strokePoints(path, entry);
      stroke.moveTo(points[0]!, points[1]!);
      for (let i = 2; i < points.length; i += 2) stroke.lineTo(points[i]!, points[i + 1]!);
    }
    return stroke;
  };
  const boxOf = (entry: number): Box => {
    const points = strokePoints(path, entry);
    const box: Box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
    for (let i = 0; i < points.length; i += 2) {
      box.minX = Math.min(box.minX, points[i]!);
      box.maxX = Math.max(box.maxX, points[i]!);
      box.minY = Math.min(box.minY, points[i + 1]!);
      box.maxY = Math.max(box.maxY, points[i + 1]!);
    }
    return box;
  };
  return {
    fonts: [],
    sheet: null,
    spans: [],
    cell: NO_CELLS,
    background: null,
    count: path.count,
    paint: (context, entry, view, manner = INK) =>
      paintPath(context, strokeOf(entry), plainStyle, view, () => boxOf(entry), manner),
    boxOf,
    *corners(entry) {
      const points = strokePoints(path, entry);
      for (let i = 0; i < points.length; i += 2) yield [points[i]!, points[i + 1]!];
    },
    isHit: (entry, x, y, reach) => isOnPath(strokeOf(entry), plainStyle, x, y, reach),
  };
}
