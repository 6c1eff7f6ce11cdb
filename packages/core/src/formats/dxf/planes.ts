import { type Matrix, scaling } from '../../base/geometry/matrix';
import type { DxfRecord } from './records';

type Vector = readonly [number, number, number];
const cross = ([a, b, c]: Vector, [d, e, f]: Vector): Vector => [b * f - c * e, c * d - a * f, a * e - b * d];
const unit = ([x, y, z]: Vector): Vector => {
  const length = Math.hypot(x, y, z) || 1;
  return [x / length, y / length, z / length];
};
/** From this on a direction counts as one that is not straight up (DXF reference, arbitrary axis algorithm). */
const NEARLY_UP = 1 / 64;

/**
 * Coordinates of planar entities are seen from their extrusion direction (DXF reference, arbitrary axis algorithm): how they lie on
 * the board, seen from above.
 * @returns null where they lie as the board does
 */
export function facing(groups: DxfRecord): Matrix | null {
  if (!groups.anyNonZero([210, 220])) return groups.number(230, 1) < 0 ? scaling(-1, 1) : null;
  const normal = unit([groups.number(210, 0), groups.number(220, 0), groups.number(230, 1)]);
  const isUp = Math.abs(normal[0]) < NEARLY_UP && Math.abs(normal[1]) < NEARLY_UP;
  const across = unit(cross(isUp ? [0, 1, 0] : [0, 0, 1], normal));
  const up = cross(normal, across);
  const height = groups.number(38, groups.number(30, 0));
  return [across[0], across[1], up[0], up[1], normal[0] * height, normal[1] * height];
}
