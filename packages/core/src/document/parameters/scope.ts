import { Failure } from '../../base/failure/failure';
import { RESERVED, readExpression } from './expression';
import { type Value, angleOf, isQuantity, lengthOf, measureInWords, plain } from './quantity';
import type { Parameter, ParameterKind } from './schema';
import { fillSlots } from './slots';

/** mm in one unit of a master. */
export const PER_UNIT = { mm: 1, cm: 10, in: 25.4, pt: 25.4 / 72 } as const;
type MasterUnit = keyof typeof PER_UNIT;

/** Something that can't be computed: which node, which attribute of it, and why, in words. */
export interface Problem {
  readonly node: string;
  readonly attribute: string;
  readonly message: string;
}

/** The parameters of a master and what each is worth. */
export interface ParameterScope {
  /** What a name is worth. @throws Failure `formula` where there is none such, or it can't be computed */
  readonly named: (name: string) => Value;
  readonly perUnit: number;
  readonly problems: readonly Problem[];
}

const NAME = /^[\p{L}_][\p{L}\p{N}_]*$/u;

/** Why a word can't name a parameter; null where it can. */
export function wrongName(name: string, others: readonly string[]): string | null {
  if (!NAME.test(name)) return `“${name}” can’t be named in a formula: begin with a letter, go on with letters, digits and _.`;
  if (RESERVED.has(name)) return `“${name}” means something itself in formulas. Choose another name.`;
  return others.includes(name) ? `There is a parameter “${name}” already.` : null;
}

const WANTED: Readonly<Record<'length' | 'angle' | 'number', { length: number; angle: number; words: string }>> = {
  length: { length: 1, angle: 0, words: 'a length' },
  angle: { length: 0, angle: 1, words: 'an angle' },
  number: { length: 0, angle: 0, words: 'a plain number' },
};

/** A computed value as a number of what is wanted: mm, degrees or as it is. @throws Failure `formula` for slips of units */
export function numberOf(value: Value, wanted: 'length' | 'angle' | 'number'): number {
  const { length, angle, words } = WANTED[wanted];
  if (!isQuantity(value)) throw new Failure('formula', `It comes to ${measureInWords(value)}, and ${words} is needed.`);
  if ((value.length || value.angle) && (value.length !== length || value.angle !== angle))
    throw new Failure('formula', `It comes to ${measureInWords(value)}, and ${words} is needed.`);
  return value.value;
}

const COLOUR = /^#[0-9a-f]{6}$/;
/** @throws Failure `formula` */
export function colourOf(value: Value): string {
  if (typeof value === 'string' && COLOUR.test(value.toLowerCase())) return value.toLowerCase();
  const said = isQuantity(value) ? measureInWords(value) : `“${String(value)}”`;
  throw new Failure('formula', `It comes to ${said}, and a colour such as #2b4180 is needed.`);
}

const asKind = (value: number, kind: ParameterKind | undefined): Value =>
  kind === 'length' ? lengthOf(value) : kind === 'angle' ? angleOf(value) : plain(value);

/** What the value of a parameter says, its names looked up. */
function valueOfParameter({ measure: kind, value }: Parameter, named: (name: string) => Value, perUnit: number): Value {
  if (kind === 'text') return fillSlots(String(value), named, perUnit).text;
  if (kind === 'colour') {
    const said = String(value).trim();
    return colourOf(COLOUR.test(said.toLowerCase()) ? said : readExpression(said).evaluate(named));
  }
  if (typeof value === 'number') return asKind(value, kind);
  const found = readExpression(value).evaluate(named);
  if (!kind) return isQuantity(found) ? found : plain(numberOf(found, 'number'));
  return asKind(numberOf(found, kind), kind);
}

/**
 * What parameters are worth, in whatever order they name each other. Those that can't be computed are told as problems, and
 * whatever names them can't be computed either.
 */
export function scopeOf(parameters: readonly Parameter[], unit: MasterUnit): ParameterScope {
  const byName = new Map<string, Parameter>();
  const problems: Problem[] = [];
  for (const parameter of parameters) {
    const wrong = wrongName(parameter.name, [...byName.keys()]);
    if (wrong) problems.push({ node: parameter.id, attribute: 'name', message: wrong });
    else byName.set(parameter.name, parameter);
  }
  const perUnit = PER_UNIT[unit];
  const worth = new Map<string, Value | Failure>();
  const open: string[] = [];
  const named = (name: string): Value => {
    const parameter = byName.get(name);
    if (!parameter) {
      const all = [...byName.keys()];
      throw new Failure(
        'formula',
        `There is no parameter “${name}”. ${all.length ? `There are: ${all.slice(0, 20).join(', ')}.` : 'There are none yet.'}`,
      );
    }
    const known = worth.get(name);
    if (known instanceof Failure) throw new Failure('formula', `It needs “${name}”, which can’t be computed.`);
    if (known !== undefined) return known;
    if (open.includes(name))
      throw new Failure('formula', `It is computed of itself: ${[...open.slice(open.indexOf(name)), name].join(' → ')}.`);
    open.push(name);
    try {
      const value = valueOfParameter(parameter, named, perUnit);
      worth.set(name, value);
      return value;
    } finally {
      open.pop();
    }
  };
  for (const [name, { id }] of byName)
    try {
      named(name);
    } catch (error) {
      if (!(error instanceof Failure)) throw error;
      worth.set(name, error);
      problems.push({ node: id, attribute: 'value', message: error.message });
    }
  return { named, perUnit, problems };
}
