import { Failure } from '../../base/failure/failure';
import { type Value, alike, isQuantity, measureInWords, plain, plainOf, quantityOf } from './quantity';

type Operator = (a: Value, b: Value) => Value;

const sum =
  (of: (a: number, b: number) => number, what: string): Operator =>
  (a, b) => {
    const [x, y] = [quantityOf(a, what), quantityOf(b, what)];
    return { ...alike(x, y, what), value: of(x.value, y.value) };
  };
const compared =
  (of: (a: number, b: number) => boolean): Operator =>
  (a, b) => {
    const [x, y] = [quantityOf(a, 'A comparison'), quantityOf(b, 'A comparison')];
    alike(x, y, 'Comparing');
    return of(x.value, y.value);
  };
const same: Operator = (a, b) => {
  if (isQuantity(a) && isQuantity(b)) {
    alike(a, b, 'Comparing');
    return a.value === b.value;
  }
  return a === b;
};
export const truth = (value: Value): boolean => {
  if (typeof value === 'boolean') return value;
  throw new Failure('formula', `A condition is needed, such as width > 300, not ${measureInWords(value)}.`);
};

/** The signs of formulas by the names that mathjs gives them. */
export const OPERATORS: Readonly<Record<string, Operator>> = {
  add: (a, b) => {
    if (typeof a === 'string' && typeof b === 'string') return a + b;
    return sum((x, y) => x + y, 'Adding')(a, b);
  },
  subtract: sum((x, y) => x - y, 'Subtracting'),
  mod: sum((x, y) => x - y * Math.floor(x / y), 'The rest of'),
  multiply: (a, b) => {
    const [x, y] = [quantityOf(a, 'Multiplying'), quantityOf(b, 'Multiplying')];
    return { value: x.value * y.value, length: x.length + y.length, angle: x.angle + y.angle };
  },
  divide: (a, b) => {
    const [x, y] = [quantityOf(a, 'Dividing'), quantityOf(b, 'Dividing')];
    if (y.value === 0) throw new Failure('formula', 'It divides by zero.');
    return { value: x.value / y.value, length: x.length - y.length, angle: x.angle - y.angle };
  },
  pow: (a, b) => {
    const [x, power] = [quantityOf(a, 'A power'), plainOf(b, 'A power')];
    return { value: x.value ** power, length: x.length * power, angle: x.angle * power };
  },
  equal: same,
  unequal: (a, b) => !(same(a, b) as boolean),
  smaller: compared((x, y) => x < y),
  larger: compared((x, y) => x > y),
  smallerEq: compared((x, y) => x <= y),
  largerEq: compared((x, y) => x >= y),
  and: (a, b) => truth(a) && truth(b),
  or: (a, b) => truth(a) || truth(b),
};

export const SIGNS: Readonly<Record<string, (a: Value) => Value>> = {
  unaryMinus: (a) => {
    const x = quantityOf(a, 'A minus');
    return { ...x, value: -x.value };
  },
  unaryPlus: (a) => quantityOf(a, 'A plus'),
  not: (a) => !truth(a),
};

export const CONSTANTS: Readonly<Record<string, Value>> = {
  pi: plain(Math.PI),
  e: plain(Math.E),
  true: true,
  false: false,
};
