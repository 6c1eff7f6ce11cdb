import { FINE, type Deviation, farthestOff } from '../../base/geometry/farthest';
import type { Drawing } from '../../contracts/drawing';
import type { DrawingCarries } from './features';
import { polylineOf } from './pieces';

/** What a target carries, its lines as they are; null where it has them so. */
export function exactDrawing(carries: DrawingCarries): DrawingCarries | null {
  const { outlines, arcs, curves } = carries;
  const isRewritten = [outlines, arcs, curves].some(
    (one) => typeof one === 'object' && ('within' in one ? one.within : one.step) > 0,
  );
  if (!isRewritten) return null;
  const plain = typeof outlines === 'object' ? { ...outlines, step: 0 } : outlines;
  return { ...carries, outlines: plain, arcs: 'kept', curves: 'kept' };
}

/** Where a drawing is farthest from one whose lines are as they are. */
export function farthestInDrawing(exact: Drawing, copy: Drawing): Deviation | null {
  function* polylines(drawing: Drawing): Generator<number[]> {
    for (let o = 0; o < drawing.paths.count; o++) yield polylineOf(drawing, o, FINE);
  }
  return farthestOff([...polylines(exact)], [...polylines(copy)]);
}
