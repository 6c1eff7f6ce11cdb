import { Failure } from '../../base/failure/failure';

/** A number with what it measures: powers of length (mm) and of angle (degrees). Both 0: a plain number, which goes with any unit. */
export interface Quantity {
  readonly value: number;
  readonly length: number;
  readonly angle: number;
}
export type Value = Quantity | string | boolean;

export const plain = (value: number): Quantity => ({ value, length: 0, angle: 0 });
export const lengthOf = (value: number): Quantity => ({ value, length: 1, angle: 0 });
export const angleOf = (value: number): Quantity => ({ value, length: 0, angle: 1 });

/** Units by the words that a formula knows them by: what one of them is in mm or degrees. */
export const UNITS: Readonly<Record<string, Quantity>> = {
  mm: lengthOf(1),
  cm: lengthOf(10),
  m: lengthOf(1000),
  inch: lengthOf(25.4),
  ft: lengthOf(304.8),
  pt: lengthOf(25.4 / 72),
  deg: angleOf(1),
  rad: angleOf(180 / Math.PI),
};

const slip = (message: string): Failure => new Failure('formula', message);

/** "a length", "an area": what a value is, in words. */
export function measureInWords(value: Value): string {
  if (typeof value === 'string') return 'a text';
  if (typeof value === 'boolean') return 'a yes or no';
  const { length, angle } = value;
  if (!length && !angle) return 'a plain number';
  if (!angle)
    return length === 1 ? 'a length' : length === 2 ? 'an area' : length === 3 ? 'a volume' : `mm to the power of ${length}`;
  return !length && angle === 1 ? 'an angle' : 'a mixture of lengths and angles';
}

export const isQuantity = (value: Value): value is Quantity => typeof value === 'object';

/** A value as a number. @throws Failure `formula` where it is something else */
export function quantityOf(value: Value, what: string): Quantity {
  if (isQuantity(value)) return value;
  throw slip(`${what} takes numbers, and “${String(value)}” is ${measureInWords(value)}.`);
}
export function plainOf(value: Value, what: string): number {
  const number = quantityOf(value, what);
  if (!number.length && !number.angle) return number.value;
  throw slip(`${what} takes a plain number, not ${measureInWords(number)}.`);
}

/** Two values in the same measure; a plain number takes that of the other. @throws Failure `formula` where they differ */
export function alike(a: Quantity, b: Quantity, what: string): Pick<Quantity, 'length' | 'angle'> {
  if (!a.length && !a.angle) return b;
  if ((b.length || b.angle) && (a.length !== b.length || a.angle !== b.angle))
    throw slip(`${what} ${measureInWords(a)} and ${measureInWords(b)} means nothing.`);
  return a;
}
