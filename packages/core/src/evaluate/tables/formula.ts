import type { ConstantNode, FunctionNode, MathNode, OperatorNode, ParenthesisNode, SymbolNode } from 'mathjs/number';
import { Failure } from '../../base/failure/failure';
import { AGGREGATES } from './aggregates';
import { arithmetic } from './arithmetic';
import { FUNCTIONS, innerName } from './functions';
import type { Names } from './names';
import { type Comparison, WHERE_FUNCTIONS, comparisonIn } from './where';

const OPERATORS: ReadonlySet<string> = new Set([
  ...['add', 'subtract', 'multiply', 'divide', 'pow', 'mod', 'unaryMinus', 'unaryPlus'],
  ...['equal', 'unequal', 'smaller', 'larger', 'smallerEq', 'largerEq', 'and', 'or', 'not'],
]);
const CONSTANTS: ReadonlySet<string> = new Set(['pi', 'e', 'true', 'false']);
/** All functions that formulas know. */
export const ALL_FUNCTIONS: readonly string[] = [
  ...new Set([...Object.keys(FUNCTIONS), ...Object.keys(AGGREGATES), ...Object.keys(WHERE_FUNCTIONS)]),
];
/** Parts of one formula. */
const MOST_NODES = 2000;

/** A whole column that a formula takes together. */
export interface Taken {
  readonly by: string;
  readonly column: number;
  readonly share: number;
  /** Columns that decide which rows are taken, with what is wanted where that is the same in all rows. */
  readonly where?: readonly { readonly column: number; readonly test: Comparison | null }[];
}

/** A formula, read: what it depends on, and how one value of it is computed. */
export interface Formula {
  readonly text: string;
  readonly node: MathNode;
  /** Columns whose value of the same row it uses. */
  readonly row: readonly number[];
  readonly taken: readonly Taken[];
  readonly summaries: readonly number[];
  /** @param given values by name: of columns, of summaries, and of `taken` by their place as `taken 0` … */
  readonly evaluate: (given: Map<string, unknown>) => unknown;
}

const refuse = (message: string): Failure => new Failure('formula', message);
const isKind = <T extends MathNode>(node: MathNode, kind: string): node is T => node.type === kind;

/** Whether a call takes a whole column: a function of columns with the name of one. */
function takenOf(node: FunctionNode, { columns }: Pick<Names, 'columns'>): Taken | null {
  const by = node.fn.name;
  const aggregate = Object.hasOwn(AGGREGATES, by) ? AGGREGATES[by] : undefined;
  const [first, second, ...more] = node.args as MathNode[];
  if (!aggregate || !first || !isKind<SymbolNode>(first, 'SymbolNode') || more.length) return null;
  const column = columns.get(first.name);
  if (column === undefined || (second !== undefined) !== (aggregate.share === true)) return null;
  const share = second && isKind<ConstantNode>(second, 'ConstantNode') ? Number(second.value) : 0;
  if (second && !(share >= 0 && share <= 1)) throw refuse(`${by} takes a column and a share between 0 and 1.`);
  return { by, column, share };
}

/** A call that takes the rows of columns in which others say what is wanted, with the expressions that say it; null where it is none. */
function takenWhere(node: FunctionNode, { columns }: Pick<Names, 'columns'>): { taken: Taken; wanted: MathNode[] } | null {
  const by = node.fn.name;
  const row = Object.hasOwn(WHERE_FUNCTIONS, by) ? WHERE_FUNCTIONS[by] : undefined;
  if (!row) return null;
  const args = node.args as MathNode[];
  const pairs = row.hasValues ? args.slice(1) : args;
  const columnOf = (one: MathNode | undefined): number | undefined =>
    one && isKind<SymbolNode>(one, 'SymbolNode') ? columns.get(one.name) : undefined;
  const keys = pairs.filter((_, i) => i % 2 === 0).map(columnOf);
  const first = row.hasValues ? columnOf(args[0]) : keys[0];
  if (!pairs.length || pairs.length % 2 || first === undefined || keys.includes(undefined))
    throw refuse(
      `${by} takes ${row.hasValues ? 'a column, then ' : ''}pairs of a column and what it is to say, as in ${row.example}.`,
    );
  const wanted: MathNode[] = [];
  const where = keys.map((column, i) => {
    const said = pairs[2 * i + 1]!;
    const word = isKind<ConstantNode>(said, 'ConstantNode') ? (said.value as unknown) : undefined;
    const test = typeof word === 'string' ? comparisonIn(word) : null;
    if (!test) wanted.push(said);
    return { column: column!, test };
  });
  return { taken: { by, column: first, share: 0, where }, wanted };
}

const parsed = (text: string): MathNode => {
  try {
    return arithmetic().parse(text);
  } catch (error) {
    const said = error instanceof Error ? error.message : '';
    const at = /\(char (\d+)\)/.exec(said)?.[1];
    throw refuse(`It can’t be read${at ? ` at letter ${at}` : ''}: ${said.replace(/\s*\(char \d+\)/, '')}.`);
  }
};

/**
 * Reads a formula over the names of a table, in the grammar of mathjs: arithmetic, comparisons, `condition ? a : b`, and the
 * functions listed here. A function of columns (`mean(gloss)`) takes the whole column, every other name its value in the row.
 * @throws Failure `formula` in words: what can't be read, which name is not there
 */
export function readFormula(text: string, names: Names): Formula {
  const row = new Set<number>();
  const summaries = new Set<number>();
  const taken: Taken[] = [];
  let count = 0;
  const check = (node: MathNode): MathNode => {
    if (++count > MOST_NODES) throw refuse(`It has more than ${MOST_NODES} parts. Split it over several columns.`);
    if (isKind<FunctionNode>(node, 'FunctionNode')) {
      const whole = takenOf(node, names);
      if (whole) return new (arithmetic().SymbolNode)(`taken ${taken.push(whole) - 1}`);
      const rows = takenWhere(node, names);
      if (rows)
        return new (arithmetic().FunctionNode)(
          `taken ${taken.push(rows.taken) - 1}`,
          rows.wanted.map((one) => check(one)),
        );
      const { name } = node.fn;
      const allowed = Object.hasOwn(FUNCTIONS, name) ? FUNCTIONS[name] : undefined;
      if (!allowed && Object.hasOwn(AGGREGATES, name))
        throw refuse(`${name} takes the name of a column, as in ${name}(${[...names.columns.keys()][0] ?? 'x'}).`);
      if (!allowed) throw refuse(`There is no function “${name || node.fn.toString()}”. There are: ${ALL_FUNCTIONS.join(', ')}.`);
      if (node.args.length < allowed[0] || node.args.length > allowed[1])
        throw refuse(
          `${name} takes ${allowed[0] === allowed[1] ? allowed[0] : `${allowed[0]} to ${allowed[1]}`} values, not ${node.args.length}.`,
        );
      const inner = innerName(name);
      return inner
        ? new (arithmetic().FunctionNode)(
            inner,
            node.args.map((one) => check(one)),
          )
        : node.map(checkArgument);
    }
    if (isKind<SymbolNode>(node, 'SymbolNode')) {
      const [column, summary] = [names.columns.get(node.name), names.summaries.get(node.name)];
      if (column !== undefined) row.add(column);
      else if (summary !== undefined) summaries.add(summary);
      else if (!CONSTANTS.has(node.name))
        throw refuse(
          `There is no column or summary “${node.name}”. There are: ${[...names.columns.keys(), ...names.summaries.keys()].join(', ')}.`,
        );
      return node;
    }
    if (isKind<OperatorNode>(node, 'OperatorNode') && node.implicit && node.args.every(({ type }) => type === 'SymbolNode')) {
      const [a, b] = node.args.map((one) => (one as SymbolNode).name) as [string, string];
      throw refuse(`A sign is missing between “${a}” and “${b}”. A name of several words is written ${a}_${b}.`);
    }
    if (isKind<OperatorNode>(node, 'OperatorNode') && !OPERATORS.has(node.fn))
      throw refuse(`The sign “${node.op}” means nothing here.`);
    if (!['OperatorNode', 'ConstantNode', 'ParenthesisNode', 'ConditionalNode', 'RelationalNode'].includes(node.type))
      throw refuse(`“${node.toString().slice(0, 40)}” means nothing here.`);
    return node.map(check);
  };
  // The name of a function is a symbol, too, which is not to be looked for among the columns.
  const checkArgument = (node: MathNode, path: string): MathNode => (path === 'fn' ? node : check(node));
  const node = parsed(text);
  if (!/\S/.test(text) || (node.type === 'ConstantNode' && (node as ConstantNode).value === undefined))
    throw refuse('There is nothing to compute.');
  const checked = check(node);
  // Names with a blank in them can be of nothing else.
  const compiled = checked.compile();
  return {
    text,
    node,
    row: [...row],
    taken,
    summaries: [...summaries],
    evaluate: (given) => compiled.evaluate(given) as unknown,
  };
}

/** A formula as a tree; null where it can't be read. */
export function parseFormula(text: string): MathNode | null {
  try {
    return arithmetic().parse(text);
  } catch {
    return null;
  }
}

/** Signs and numbers that a function says as well, chains of comparisons, brackets that change nothing: one way of writing each. */
function inOneWay(given: MathNode): MathNode {
  const { OperatorNode, SymbolNode } = arithmetic();
  const node = given.map(inOneWay);
  if (isKind<ParenthesisNode>(node, 'ParenthesisNode')) return node.content;
  if (isKind<FunctionNode>(node, 'FunctionNode')) {
    if (node.fn.name === 'mod') return new OperatorNode('mod', 'mod', node.args as [MathNode, MathNode]);
    if (Object.hasOwn(WHERE_FUNCTIONS, node.fn.name)) return node.map(withoutBlanks);
    return node.toString() === 'exp(1)' ? new SymbolNode('e') : node;
  }
  if (isKind<OperatorNode>(node, 'OperatorNode')) {
    if (node.fn === 'mod') return new OperatorNode('mod', 'mod', node.args as [MathNode, MathNode]);
    return node.fn === 'unaryPlus' ? (node.args[0] as MathNode) : node;
  }
  if (node.type !== 'RelationalNode') return node;
  const { params, conditionals } = node as unknown as { params: MathNode[]; conditionals: string[] };
  const pairs = conditionals.map(
    (fn, i) => new OperatorNode(COMPARED[fn]! as '<', fn as 'smaller', [params[i]!, params[i + 1]!]) as MathNode,
  );
  return pairs.reduce((a, b) => new OperatorNode('and', 'and', [a, b]));
}
/** A comparison with a value, as in `"> 5"`, without blanks. */
function withoutBlanks(node: MathNode): MathNode {
  const word = isKind<ConstantNode>(node, 'ConstantNode') ? (node.value as unknown) : undefined;
  const test = typeof word === 'string' ? comparisonIn(word) : null;
  return test ? new (arithmetic().ConstantNode)(`${test.sign}${test.value}` as never) : node;
}
const COMPARED: Readonly<Record<string, string>> = {
  equal: '==',
  unequal: '!=',
  smaller: '<',
  larger: '>',
  smallerEq: '<=',
  largerEq: '>=',
};

/** A formula written in one way, however it was typed. */
export const plainFormula = (text: string): string => {
  const node = parseFormula(text);
  return node ? inOneWay(node).toString({ parenthesis: 'auto' }) : text.trim();
};

/** A formula in which names became others, as when columns are renamed. */
export function renamed(text: string, names: ReadonlyMap<string, string>): string {
  let node: MathNode;
  try {
    node = arithmetic().parse(text);
  } catch {
    return text;
  }
  let changed = false;
  const next = node.transform((one, path) => {
    if (one.type !== 'SymbolNode' || path === 'fn') return one;
    const name = names.get((one as SymbolNode).name);
    if (name === undefined) return one;
    changed = true;
    return new (arithmetic().SymbolNode)(name);
  });
  return changed ? next.toString({ parenthesis: 'keep' }) : text;
}
