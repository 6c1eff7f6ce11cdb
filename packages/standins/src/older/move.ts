import { type Entity, number } from './entities';
import type { Place } from './shapes';

/** Where a place of one plane lies in another: x = a·x + c·y + e, y = b·x + d·y + f. */
export type Move = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

export const STAY: Move = [1, 0, 0, 1, 0, 0];

export const moved = ([a, b, c, d, e, f]: Move, [x, y]: Place): Place => [a * x + c * y + e, b * x + d * y + f];

/** The inner move first, then the outer one. */
export function after(outer: Move, inner: Move): Move {
  const [a, b, c, d, e, f] = outer;
  const [ia, ib, ic, id, ie, jf] = inner;
  return [a * ia + c * ib, b * ia + d * ib, a * ic + c * id, b * ic + d * id, a * ie + c * jf + e, b * ie + d * jf + f];
}

type Vector = readonly [number, number, number];
const cross = ([ax, ay, az]: Vector, [bx, by, bz]: Vector): Vector => [ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx];
const unit = ([x, y, z]: Vector): Vector => {
  const length = Math.hypot(x, y, z) || 1;
  return [x / length, y / length, z / length];
};
/** Below this a direction counts as upright (DXF reference, arbitrary axis algorithm). */
const UPRIGHT = 1 / 64;

/**
 * The plane that a flat entity is stated in, seen from above.
 * Its normal is group 210; the axes follow from it by the rule of the format's reference (arbitrary axis algorithm).
 */
export function planeOf(entity: Entity): Move {
  const normal = unit([number(entity, 210) ?? 0, number(entity, 220) ?? 0, number(entity, 230) ?? 1]);
  if (normal[2] === 1) return STAY;
  const upright = Math.abs(normal[0]) < UPRIGHT && Math.abs(normal[1]) < UPRIGHT;
  const across = unit(cross(upright ? [0, 1, 0] : [0, 0, 1], normal));
  const along = unit(cross(normal, across));
  const height = number(entity, 38) ?? number(entity, 30) ?? 0;
  return [across[0], across[1], along[0], along[1], height * normal[0], height * normal[1]];
}
