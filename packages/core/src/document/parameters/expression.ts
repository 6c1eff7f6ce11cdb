import {
  type ConstantNode,
  type FunctionNode,
  type MathNode,
  type OperatorNode,
  type SymbolNode,
  create,
  parseDependencies,
} from 'mathjs/number';
import { Failure } from '../../base/failure/failure';
import { FUNCTIONS } from './functions';
import { CONSTANTS, OPERATORS, SIGNS, truth } from './operators';
import { UNITS, type Value, isQuantity, plain } from './quantity';

/** An expression, read: the names that it uses, and what it comes to. */
interface Expression {
  readonly names: ReadonlySet<string>;
  /** @param named what a name is worth. @throws Failure `formula` for slips of units and what can't be computed */
  readonly evaluate: (named: (name: string) => Value) => Value;
}

let reader: ((text: string) => MathNode) | undefined;
/** The library's reader and no more of it, put together at the first expression. */
const parse = (text: string): MathNode => (reader ??= create({ parseDependencies: parseDependencies! }).parse)(text);

const MOST_NODES = 500;
/** Words that mean something by themselves and can't be names. */
export const RESERVED: ReadonlySet<string> = new Set([
  ...Object.keys(FUNCTIONS),
  ...Object.keys(CONSTANTS),
  ...Object.keys(UNITS),
  ...['in', 'to', 'mod', 'and', 'or', 'not', 'xor', 'end'],
]);

const refuse = (message: string): Failure => new Failure('formula', message);

/**
 * What people write, as mathjs reads it: `in` is a unit here and an operator there, whole numbers stand before fractions
 * (`1 3/8 in`), and there are better signs than those of a keyboard.
 */
const asRead = (text: string): string =>
  text
    .replace(/[\u2212\u2013]/g, '-')
    .replace(/\u00d7/g, '*')
    .replace(/\u00f7/g, '/')
    .replace(/\u00b0/g, ' deg')
    .replace(/[\u00a0\u2009\u202f]/g, ' ')
    .replace(/(?<![\w.])(\d+)\s+(\d+)\s*\/\s*(\d+)(?![\w.])/g, '($1+$2/$3)')
    .replace(/([\d)])(\s*)in\b/g, '$1$2 inch');

type Step = (named: (name: string) => Value) => Value;
const is = <T extends MathNode>(node: MathNode, type: string): node is T => node.type === type;

const isUnit = (node: MathNode): boolean => is<SymbolNode>(node, 'SymbolNode') && Object.hasOwn(UNITS, node.name);
const holdsName = (node: MathNode): boolean =>
  node.filter((one) => one.type === 'SymbolNode' && !isUnit(one) && !Object.hasOwn(CONSTANTS, (one as SymbolNode).name)).length >
  0;

/** Turns a tree of mathjs into steps of our own, which know units; what formulas have no use for is refused. */
class Reader {
  readonly names = new Set<string>();
  private count = 0;

  read(node: MathNode): Step {
    if (++this.count > MOST_NODES) throw refuse(`It has more than ${MOST_NODES} parts. Split it over several parameters.`);
    if (is<ConstantNode>(node, 'ConstantNode')) return this.constant(node);
    if (is<SymbolNode>(node, 'SymbolNode')) return this.symbol(node);
    if (is<OperatorNode>(node, 'OperatorNode')) return this.operator(node);
    if (is<FunctionNode>(node, 'FunctionNode')) return this.call(node);
    const parts = node as unknown as Readonly<Record<string, MathNode>>;
    switch (node.type as string) {
      case 'ParenthesisNode':
        return this.read(parts['content']!);
      case 'ConditionalNode': {
        const [condition, yes, no] = [parts['condition']!, parts['trueExpr']!, parts['falseExpr']!].map((one) => this.read(one));
        return (named) => (truth(condition!(named)) ? yes!(named) : no!(named));
      }
      case 'RelationalNode': {
        const { params, conditionals } = node as unknown as { params: MathNode[]; conditionals: string[] };
        const steps = params.map((one) => this.read(one));
        return (named) => {
          const values = steps.map((step) => step(named));
          return conditionals.every((fn, i) => OPERATORS[fn]!(values[i]!, values[i + 1]!) as boolean);
        };
      }
    }
    throw refuse(`“${node.toString().slice(0, 40)}” means nothing here.`);
  }

  private constant({ value }: ConstantNode): Step {
    const said: unknown = value;
    if (typeof said !== 'number' && typeof said !== 'string' && typeof said !== 'boolean')
      throw refuse('There is nothing to compute.');
    const known = typeof said === 'number' ? plain(said) : said;
    return () => known;
  }

  private symbol({ name }: SymbolNode): Step {
    const known = Object.hasOwn(CONSTANTS, name) ? CONSTANTS[name] : Object.hasOwn(UNITS, name) ? UNITS[name] : undefined;
    if (known !== undefined) return () => known;
    if (RESERVED.has(name)) throw refuse(`“${name}” is no name of a parameter: it means something itself.`);
    this.names.add(name);
    return (named) => named(name);
  }

  private operator(node: OperatorNode): Step {
    const { fn, op, implicit } = node as OperatorNode & { readonly fn: string };
    const [a, b] = node.args as [MathNode, MathNode | undefined];
    if (implicit && b && !(isUnit(b) && !holdsName(a)))
      throw refuse(`A sign is missing between “${a.toString().slice(0, 20)}” and “${b.toString().slice(0, 20)}”.`);
    if (b) {
      const of = Object.hasOwn(OPERATORS, fn) ? OPERATORS[fn] : undefined;
      if (!of) throw refuse(`The sign “${op}” means nothing here.`);
      const [x, y] = [this.read(a), this.read(b)];
      return (named) => of(x(named), y(named));
    }
    const of = Object.hasOwn(SIGNS, fn) ? SIGNS[fn] : undefined;
    if (!of) throw refuse(`The sign “${op}” means nothing here.`);
    const x = this.read(a);
    return (named) => of(x(named));
  }

  private call(node: FunctionNode): Step {
    const { name } = node.fn as { readonly name?: string };
    const row = name !== undefined && Object.hasOwn(FUNCTIONS, name) ? FUNCTIONS[name] : undefined;
    if (!row)
      throw refuse(`There is no function “${name || node.fn.toString()}”. There are: ${Object.keys(FUNCTIONS).join(', ')}.`);
    const { least, most, of } = row;
    if (node.args.length < least || node.args.length > most)
      throw refuse(`${name} takes ${least === most ? least : `${least} to ${most}`} values, not ${node.args.length}.`);
    const steps = node.args.map((one) => this.read(one));
    return (named) => of(steps.map((step) => step(named)));
  }
}

function treeOf(text: string): MathNode {
  try {
    return parse(asRead(text));
  } catch (error) {
    const said = error instanceof Error ? error.message : '';
    const at = /\(char (\d+)\)/.exec(said)?.[1];
    throw refuse(`It can’t be read${at ? ` at letter ${at}` : ''}: ${said.replace(/\s*\(char \d+\)/, '')}.`);
  }
}

const known = new Map<string, Expression | Failure>();
const MOST_KNOWN = 20_000;

function read(text: string): Expression {
  if (!/\S/.test(text)) throw refuse('There is nothing to compute.');
  const reader = new Reader();
  const step = reader.read(treeOf(text));
  return {
    names: reader.names,
    evaluate: (named) => {
      const value = step(named);
      if (isQuantity(value) && !Number.isFinite(value.value)) throw refuse(`It comes to ${value.value}.`);
      return value;
    },
  };
}

/**
 * Reads an expression in the grammar of mathjs: arithmetic, comparisons, `condition ? a : b`, functions, units after numbers
 * (`12 mm`, `3/8 in`, `30 deg`) and the names of parameters.
 * @throws Failure `formula` in words: what can't be read and where
 */
export function readExpression(text: string): Expression {
  let found = known.get(text);
  if (!found) {
    if (known.size >= MOST_KNOWN) known.clear();
    try {
      found = read(text);
    } catch (error) {
      if (!(error instanceof Failure)) throw error;
      found = error;
    }
    known.set(text, found);
  }
  if (found instanceof Failure) throw found;
  return found;
}

/** An expression in which names became other names, or stand as something else in brackets. */
export function withNames(text: string, names: ReadonlyMap<string, string>): string {
  let tree: MathNode;
  try {
    tree = treeOf(text);
  } catch {
    return text;
  }
  let changed = false;
  const next = tree.transform((one, path) => {
    const name = is<SymbolNode>(one, 'SymbolNode') && path !== 'fn' ? names.get(one.name) : undefined;
    if (name === undefined) return one;
    changed = true;
    return parse(name);
  });
  return changed ? next.toString({ parenthesis: 'auto' }) : text;
}

/** An expression and a number added to it, taken together with the number that it ends on. */
export function shifted(text: string, by: number): string {
  if (!by) return text;
  const ends = /^(.*[^\s+\-*/^(,<>=?:])\s*([+-])\s*(\d+(?:\.\d+)?)$/.exec(text.trim());
  // Only where nothing binds the last number closer than the sum does.
  if (ends && /^[\w\s.+\-*/()]*$/.test(ends[1]!) && balanced(ends[1]!)) {
    const sum = Number(((ends[2] === '-' ? -1 : 1) * Number(ends[3]) + by).toFixed(6));
    return sum ? `${ends[1]} ${sum < 0 ? '-' : '+'} ${Math.abs(sum)}` : ends[1]!;
  }
  const bracketed = /[?<>=&|]|\b(and|or|not|mod|to)\b/.test(text) ? `(${text})` : text;
  return `${bracketed} ${by < 0 ? '-' : '+'} ${Number(Math.abs(by).toFixed(6))}`;
}
const balanced = (text: string): boolean => {
  let depth = 0;
  for (const letter of text) {
    if (letter === '(') depth++;
    if (letter === ')' && --depth < 0) return false;
  }
  return depth === 0;
};
