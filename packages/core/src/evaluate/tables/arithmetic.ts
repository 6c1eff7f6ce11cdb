import * as numbers from 'mathjs/number';
import { innerName } from './functions';
import { WORD_FUNCTIONS } from './word-functions';

/** What formulas of tables may say, and no more of the library: the rest would be loaded by everyone. */
const PARTS = {
  abs: numbers.absDependencies,
  acos: numbers.acosDependencies,
  add: numbers.addDependencies,
  and: numbers.andDependencies,
  asin: numbers.asinDependencies,
  atan: numbers.atanDependencies,
  ceil: numbers.ceilDependencies,
  cos: numbers.cosDependencies,
  divide: numbers.divideDependencies,
  e: numbers.eDependencies,
  equal: numbers.equalDependencies,
  exp: numbers.expDependencies,
  fix: numbers.fixDependencies,
  floor: numbers.floorDependencies,
  larger: numbers.largerDependencies,
  largerEq: numbers.largerEqDependencies,
  log: numbers.logDependencies,
  log10: numbers.log10Dependencies,
  max: numbers.maxDependencies,
  min: numbers.minDependencies,
  mod: numbers.modDependencies,
  multiply: numbers.multiplyDependencies,
  not: numbers.notDependencies,
  or: numbers.orDependencies,
  parse: numbers.parseDependencies,
  pi: numbers.piDependencies,
  pow: numbers.powDependencies,
  round: numbers.roundDependencies,
  sign: numbers.signDependencies,
  sin: numbers.sinDependencies,
  smaller: numbers.smallerDependencies,
  smallerEq: numbers.smallerEqDependencies,
  sqrt: numbers.sqrtDependencies,
  subtract: numbers.subtractDependencies,
  tan: numbers.tanDependencies,
  unaryMinus: numbers.unaryMinusDependencies,
  unaryPlus: numbers.unaryPlusDependencies,
  unequal: numbers.unequalDependencies,
};

let made: numbers.MathJsInstance | undefined;

/** The library, put together at the first formula. */
export function arithmetic(): numbers.MathJsInstance {
  if (made) return made;
  made = numbers.create(PARTS as numbers.FactoryFunctionMap, {});
  // Words can be compared, too; numbers alone would be compared by the library as it is.
  const same = (a: unknown, b: unknown) => a === b;
  made.import({ equal: same, unequal: (a: unknown, b: unknown) => a !== b }, { override: true });
  made.import(Object.fromEntries(Object.entries(WORD_FUNCTIONS).map(([name, of]) => [innerName(name)!, of])), {});
  return made;
}
