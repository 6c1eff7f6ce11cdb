import { type Matrix, determinant, isSimilarity, meanScale } from './matrix';

/**
 * The shape of a pen that is not round, as a line drawn under an uneven scale has it: the symmetric map [p q; q r] of determinant
 * 1 that makes it of a round one.
 */
export type Pen = readonly [p: number, q: number, r: number];

/** Unevenness below this share is what rounding leaves. */
const EVEN = 2e-3;

export const penMatrix = ([p, q, r]: Pen): Matrix => [p, q, q, r, 0, 0];
export const inversePen = ([p, q, r]: Pen): Matrix => [r, -q, -q, p, 0, 0];

/**
 * What a map makes of a pen: how its width grows, and its shape (null where it is round). Any map is a turn followed by a
 * symmetric one (polar decomposition), and a turn does nothing to a round pen.
 */
export function penUnder(matrix: Matrix, pen: Pen | null = null): { scale: number; pen: Pen | null } {
  const scale = meanScale(matrix);
  if (!(scale > 0) || (!pen && isSimilarity(matrix, EVEN))) return { scale, pen: null };
  const [p, q, r] = pen ?? [1, 0, 1];
  const [a, b, c, d] = matrix.map((value) => value / scale) as [number, number, number, number, number, number];
  // M·S, then the square root of its product with its own transpose: of a 2×2 of determinant 1, (A + 1) / √(trace + 2).
  const [m00, m01, m10, m11] = [a * p + c * q, a * q + c * r, b * p + d * q, b * q + d * r];
  const [xx, xy, yy] = [m00 * m00 + m01 * m01, m00 * m10 + m01 * m11, m10 * m10 + m11 * m11];
  const size = Math.sqrt(xx + yy + 2);
  const shape: Pen = [(xx + 1) / size, xy / size, (yy + 1) / size];
  return { scale, pen: isSimilarity(penMatrix(shape), EVEN) ? null : shape };
}

/** Whether a map flattens everything onto a line or a point. */
export const flattens = (matrix: Matrix): boolean => !Number.isFinite(1 / determinant(matrix));
