import type { Point } from './point';

/** An affine map: x' = a·x + c·y + e, y' = b·x + d·y + f (the order of SVG 1.1, 7.4). */
export type Matrix = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

export const identity: Matrix = [1, 0, 0, 1, 0, 0];
export const translation = (x: number, y: number): Matrix => [1, 0, 0, 1, x, y];
export const scaling = (x: number, y = x): Matrix => [x, 0, 0, y, 0, 0];

/** A turn about the origin, anticlockwise, in radians. */
export function rotation(angle: number): Matrix {
  const cos = Math.cos(angle);
  const sin = Math.sin(angle);
  return [cos, sin, -sin, cos, 0, 0];
}

/** The map that does `second` first and then `first`, as in nested transforms. */
export function multiply(first: Matrix, second: Matrix): Matrix {
  const [a, b, c, d, e, f] = first;
  const [g, h, i, j, k, l] = second;
  return [a * g + c * h, b * g + d * h, a * i + c * j, b * i + d * j, a * k + c * l + e, b * k + d * l + f];
}

export const apply = ([a, b, c, d, e, f]: Matrix, [x, y]: Point): Point => [a * x + c * y + e, b * x + d * y + f];

/** Without dust: one made of sines leaves 6e-17 where there is nothing. */
export const roundedMatrix = (matrix: Matrix): Matrix => matrix.map((value) => Number(value.toFixed(9))) as unknown as Matrix;

export const determinant = ([a, b, c, d]: Matrix): number => a * d - b * c;

/** The inverse map, or undefined where the map flattens everything. */
export function invert(matrix: Matrix): Matrix | undefined {
  const [a, b, c, d, e, f] = matrix;
  const det = determinant(matrix);
  if (!Number.isFinite(1 / det)) return undefined;
  return [d / det, -b / det, -c / det, a / det, (c * f - d * e) / det, (b * e - a * f) / det];
}

/**
 * Whether circles stay circles: turn, uniform scale and mirror only.
 * @param within how far the parts may be off, as a share of their size
 */
export function isSimilarity([a, b, c, d]: Matrix, within = 1e-9): boolean {
  const size = Math.abs(a) + Math.abs(b) + Math.abs(c) + Math.abs(d);
  const close = (x: number, y: number) => Math.abs(x - y) <= within * size;
  return (close(a, d) && close(b, -c)) || (close(a, -d) && close(b, c));
}

/** The mean scale: how lengths such as line widths grow. */
export const meanScale = (matrix: Matrix): number => Math.sqrt(Math.abs(determinant(matrix)));

/** Whether it neither turns, slants nor mirrors. */
export const isUpright = ([a, b, c, d]: Matrix): boolean => Math.abs(b) + Math.abs(c) < 1e-9 && a > 0 && d > 0;
