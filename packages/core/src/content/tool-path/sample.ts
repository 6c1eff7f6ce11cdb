import type { Sketch } from '../../base/bytes/sketch';
import { type ToolPath, strokePoints } from './tool-path';

/** Steps of a place that are told apart, mm: the unit of a plotter. */
const STEP = 0.025;

/** Strokes by their shape, wherever they are. */
export function sampleToolPath(path: ToolPath, into: Sketch): void {
  for (let i = 0; i < path.count; i++) {
    const points = strokePoints(path, i);
    into.add(...Array.from(points, (value, at) => Math.round((value - points[at % 2]!) / STEP)));
  }
}
