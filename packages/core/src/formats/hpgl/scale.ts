import type { Point } from '../../base/geometry/point';
import { UNITS_PER_MM } from './declare';

/** From what a file says to millimetres, each axis by itself: `x · factor + offset`. */
interface Scale {
  readonly factor: Point;
  readonly offset: Point;
}

/** Plotter units, as they are without scaling. */
export const PLAIN_SCALE: Scale = { factor: [1 / UNITS_PER_MM, 1 / UNITS_PER_MM], offset: [0, 0] };

/**
 * User units by SC, laid between the places P1 and P2 (HP-GL/2 reference, SC): each axis by its own, or both by the smaller, or by
 * plotter units to the user's.
 * @param places x and y of P1 and P2, plotter units
 * @param said the values of SC
 * @returns undefined where they say no scale
 */
export function scaleOf([x1, y1, x2, y2]: readonly number[], said: readonly number[]): Scale | undefined {
  const [xMin, xMax, yMin, yMax, type = 0, left = 50, bottom = 50] = said;
  if (x1 === undefined || y1 === undefined || x2 === undefined || y2 === undefined) return undefined;
  if (xMin === undefined || xMax === undefined || yMin === undefined || yMax === undefined) return undefined;
  let [sx, sy] = type === 2 ? [xMax, yMax] : [(x2 - x1) / (xMax - xMin), (y2 - y1) / (yMax - yMin)];
  let [fromX, fromY] = [x1, y1];
  if (type === 1) {
    const least = Math.min(Math.abs(sx), Math.abs(sy));
    [sx, sy] = [Math.sign(sx) * least, Math.sign(sy) * least];
    // What is left over of the longer side stands before and after.
    fromX += ((x2 - x1 - sx * (xMax - xMin)) * left) / 100;
    fromY += ((y2 - y1 - sy * (yMax - yMin)) * bottom) / 100;
  }
  if (![0, 1, 2].includes(type) || ![sx, sy].every((value) => Number.isFinite(value) && value !== 0)) return undefined;
  return {
    factor: [sx / UNITS_PER_MM, sy / UNITS_PER_MM],
    offset: [(fromX - xMin * sx) / UNITS_PER_MM, (fromY - yMin * sy) / UNITS_PER_MM],
  };
}
