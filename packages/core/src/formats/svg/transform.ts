import { Failure } from '../../base/failure/failure';
import { parseNumbers } from './lengths';
import { type Matrix, identity, multiply, rotation, scaling, translation } from '../../base/geometry/matrix';

const radians = (degrees: number) => (degrees * Math.PI) / 180;

const FUNCTIONS: Record<string, { counts: readonly number[]; make: (n: readonly number[]) => Matrix }> = {
  matrix: { counts: [6], make: (n) => [n[0]!, n[1]!, n[2]!, n[3]!, n[4]!, n[5]!] },
  translate: { counts: [1, 2], make: (n) => translation(n[0]!, n[1] ?? 0) },
  scale: { counts: [1, 2], make: (n) => scaling(n[0]!, n[1] ?? n[0]!) },
  rotate: {
    counts: [1, 3],
    make: (n) =>
      multiply(translation(n[1] ?? 0, n[2] ?? 0), multiply(rotation(radians(n[0]!)), translation(-(n[1] ?? 0), -(n[2] ?? 0)))),
  },
  skewX: { counts: [1], make: (n) => [1, 0, Math.tan(radians(n[0]!)), 1, 0, 0] },
  skewY: { counts: [1], make: (n) => [1, Math.tan(radians(n[0]!)), 0, 1, 0, 0] },
};

/** Whether a transform list has no end: it moves nothing then, to browsers. */
export const breaksOff = (text: string): boolean => /\S/.test(text) && !/\)[\s,]*$/.test(text);

/** A transform list (SVG 1.1, 7.6). */
export function parseTransform(text: string): Matrix {
  let matrix = identity;
  const rest = text.replace(/([a-zA-Z]+)\s*\(([^)]*)\)[\s,]*/g, (whole, name: string, list: string) => {
    const numbers = parseNumbers(list);
    const found = FUNCTIONS[name];
    if (!found || !numbers || !found.counts.includes(numbers.length))
      throw new Failure('svg-transform', `The transform ${whole.trim().slice(0, 60)} can't be read.`);
    matrix = multiply(matrix, found.make(numbers));
    return '';
  });
  if (rest.trim()) throw new Failure('svg-transform', `The transform ${text.slice(0, 60)} can't be read.`);
  return matrix;
}
