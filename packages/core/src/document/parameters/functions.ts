import { Failure } from '../../base/failure/failure';
import { type Quantity, type Value, alike, angleOf, plain, plainOf, quantityOf } from './quantity';

/** A function or sign of formulas: from how many values, and how. Angles are degrees. */
interface FunctionRow {
  readonly least: number;
  readonly most: number;
  readonly of: (values: readonly Value[]) => Value;
}

const numbers = (name: string, values: readonly Value[]): Quantity[] => values.map((value) => quantityOf(value, name));
const keeps = (name: string, of: (value: number) => number): FunctionRow => ({
  least: 1,
  most: 1,
  of: ([a]) => {
    const one = quantityOf(a!, name);
    return { ...one, value: of(one.value) };
  },
});
const ofPlain = (name: string, of: (value: number) => number): FunctionRow => ({
  least: 1,
  most: 1,
  of: ([a]) => plain(of(plainOf(a!, name))),
});
const degrees = Math.PI / 180;
const ofAngle = (name: string, of: (radians: number) => number): FunctionRow => ({
  least: 1,
  most: 1,
  of: ([a]) => {
    const one = quantityOf(a!, name);
    if (one.length || (one.angle && one.angle !== 1)) throw new Failure('formula', `${name} takes an angle.`);
    return plain(of(one.value * degrees));
  },
});
const toAngle = (name: string, of: (value: number) => number): FunctionRow => ({
  least: 1,
  most: 1,
  of: ([a]) => angleOf(of(plainOf(a!, name)) / degrees),
});
const extreme = (name: string, of: (...values: number[]) => number): FunctionRow => ({
  least: 2,
  most: 100,
  of: (values) => {
    const all = numbers(name, values);
    const measure = all.reduce((a, b) => ({ ...alike(a, b, `${name} of`), value: 0 }));
    return { ...measure, value: of(...all.map(({ value }) => value)) };
  },
});
/** Rounds away the dust of binary fractions, so that 0.1 + 0.2 steps up where 0.3 does. */
const withoutDust = (value: number): number => Number(value.toPrecision(14));
const text = (name: string, value: Value): string => {
  if (typeof value === 'string') return value;
  throw new Failure('formula', `${name} takes a text.`);
};

/** What formulas over parameters may call. The names are those of mathjs where it has them. */
export const FUNCTIONS: Readonly<Record<string, FunctionRow>> = {
  abs: keeps('abs', Math.abs),
  floor: keeps('floor', (value) => Math.floor(withoutDust(value))),
  ceil: keeps('ceil', (value) => Math.ceil(withoutDust(value))),
  round: {
    least: 1,
    most: 2,
    of: ([a, digits]) => {
      const one = quantityOf(a!, 'round');
      const places = digits === undefined ? 0 : plainOf(digits, 'round');
      if (!Number.isInteger(places) || places < 0 || places > 12)
        throw new Failure('formula', 'round takes a number of digits from 0 to 12.');
      return {
        ...one,
        value: Math.sign(one.value) * (Math.round(withoutDust(Math.abs(one.value) * 10 ** places)) / 10 ** places),
      };
    },
  },
  sqrt: {
    least: 1,
    most: 1,
    of: ([a]) => {
      const { value, length, angle } = quantityOf(a!, 'sqrt');
      return { value: Math.sqrt(value), length: length / 2, angle: angle / 2 };
    },
  },
  hypot: {
    least: 2,
    most: 2,
    of: ([a, b]) => {
      const [x, y] = [quantityOf(a!, 'hypot'), quantityOf(b!, 'hypot')];
      return { ...alike(x, y, 'hypot of'), value: Math.hypot(x.value, y.value) };
    },
  },
  exp: ofPlain('exp', Math.exp),
  log: ofPlain('log', Math.log),
  log10: ofPlain('log10', Math.log10),
  sin: ofAngle('sin', Math.sin),
  cos: ofAngle('cos', Math.cos),
  tan: ofAngle('tan', Math.tan),
  asin: toAngle('asin', Math.asin),
  acos: toAngle('acos', Math.acos),
  atan: toAngle('atan', Math.atan),
  atan2: {
    least: 2,
    most: 2,
    of: ([a, b]) => {
      const [y, x] = [quantityOf(a!, 'atan2'), quantityOf(b!, 'atan2')];
      alike(y, x, 'atan2 of');
      return angleOf(Math.atan2(y.value, x.value) / degrees);
    },
  },
  min: extreme('min', Math.min),
  max: extreme('max', Math.max),
  upper: { least: 1, most: 1, of: ([a]) => text('upper', a!).toLocaleUpperCase('en') },
  lower: { least: 1, most: 1, of: ([a]) => text('lower', a!).toLocaleLowerCase('en') },
  /** A number as a text with so many digits. */
  fixed: {
    least: 2,
    most: 2,
    of: ([a, digits]) => {
      const places = plainOf(digits!, 'fixed');
      if (!Number.isInteger(places) || places < 0 || places > 12)
        throw new Failure('formula', 'fixed takes a number of digits from 0 to 12.');
      return quantityOf(a!, 'fixed').value.toFixed(places);
    },
  },
};
