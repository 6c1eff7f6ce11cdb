import { Failure } from '../../base/failure/failure';
import type { Amount, Solid } from '../../document/solids/schema';
import { readFormula } from '../tables/formula';
import { namesOf } from '../tables/names';

/** The parameters of a solid as formulas call them, and what each is worth. */
export interface Values {
  readonly words: readonly string[];
  readonly values: readonly number[];
  /** What an amount is worth. @throws Failure `solid-invalid` that says where */
  readonly amount: (amount: Amount, where: string) => number;
}

const invalid = (where: string, message: string): Failure => new Failure('solid-invalid', `${where}: ${message}`);

/**
 * Computes the parameters of a solid, in whatever order they name each other.
 * @throws Failure `solid-invalid` for circles, unknown names and what is no number, with the parameter that it is
 */
export function valuesOf({ parameters }: Pick<Solid, 'parameters'>): Values {
  const { summaries: names } = namesOf(
    [],
    parameters.map(({ name }) => name),
  );
  const words = [...names.keys()];
  const known: (number | undefined)[] = parameters.map(() => undefined);
  const open: number[] = [];
  const given = (needed: readonly number[]) => new Map<string, unknown>(needed.map((i) => [words[i]!, valueOf(i)]));
  const computed = (amount: Amount, where: string): number => {
    if (typeof amount === 'number') return amount;
    let value: unknown;
    try {
      const formula = readFormula(amount, { of: new Map(), columns: new Map(), summaries: names });
      value = formula.evaluate(given(formula.summaries));
    } catch (error) {
      if (!(error instanceof Failure) || error.code !== 'formula') throw error;
      throw invalid(where, error.message.replace('column or summary', 'parameter').replace(/There are: \.$/, 'There are none.'));
    }
    if (typeof value === 'number' && Number.isFinite(value) && Math.abs(value) <= 1e6) return value;
    throw invalid(where, `${amount} is ${String(value)}, and a number up to a million is needed.`);
  };
  const valueOf = (i: number): number => {
    const done = known[i];
    if (done !== undefined) return done;
    const { name, value } = parameters[i]!;
    if (open.includes(i))
      throw invalid(name, `it is computed of itself: ${[...open.slice(open.indexOf(i)), i].map((k) => words[k]).join(' → ')}.`);
    open.push(i);
    const found = computed(value, name);
    open.pop();
    return (known[i] = found);
  };
  return { words, values: parameters.map((_, i) => valueOf(i)), amount: computed };
}
