import type {
  ConditionalNode,
  ConstantNode,
  FunctionNode,
  MathNode,
  OperatorNode,
  ParenthesisNode,
  RelationalNode,
  SymbolNode,
} from 'mathjs/number';
import { AGGREGATES } from '../../evaluate/tables/aggregates';
import { parseFormula, plainFormula } from '../../evaluate/tables/formula';
import { COLUMN_FUNCTIONS, ROW_FUNCTIONS, WHERE } from './functions';

/** How a workbook says what a formula names. */
export interface Places {
  /** The cell of a column in the row that `ROW` stands for; null where there is no such column. */
  readonly cell: (name: string) => string | null;
  /** All cells of a column. */
  readonly column: (name: string) => string | null;
  readonly summary: (name: string) => string | null;
}
/** Stands for the number of a row, as nothing else in a formula does. */
export const ROW = '\u0001';

const SIGNS: Readonly<Record<string, string>> = {
  add: '+',
  subtract: '-',
  multiply: '*',
  divide: '/',
  pow: '^',
  equal: '=',
  unequal: '<>',
  smaller: '<',
  larger: '>',
  smallerEq: '<=',
  largerEq: '>=',
};

const isKind = <T extends MathNode>(node: MathNode, type: string): node is T => node.type === type;

/**
 * A formula in the grammar of workbooks (ECMA-376-1, 18.17). What binds otherwise there (a sign before a power, powers of powers)
 * gets brackets: every operation that stands in another one has its own.
 * @returns null where it can't be said
 */
export function toWorkbook(text: string, places: Places): string | null {
  let sayable = true;
  const fail = (): string => {
    sayable = false;
    return '';
  };
  const say = (node: MathNode, inside: boolean): string => {
    if (isKind<ParenthesisNode>(node, 'ParenthesisNode')) return say(node.content, inside);
    if (isKind<ConstantNode>(node, 'ConstantNode')) {
      const value = node.value as unknown;
      return typeof value === 'number'
        ? String(value).toUpperCase()
        : typeof value === 'string'
          ? `"${value.replaceAll('"', '""')}"`
          : value === true
            ? 'TRUE'
            : 'FALSE';
    }
    if (isKind<SymbolNode>(node, 'SymbolNode')) {
      if (node.name === 'pi') return 'PI()';
      if (node.name === 'e') return 'EXP(1)';
      if (node.name === 'true' || node.name === 'false') return node.name.toUpperCase();
      return places.cell(node.name) ?? places.summary(node.name) ?? fail();
    }
    if (isKind<FunctionNode>(node, 'FunctionNode')) return call(node);
    if (isKind<ConditionalNode>(node, 'ConditionalNode'))
      return `IF(${say(node.condition, false)},${say(node.trueExpr, false)},${say(node.falseExpr, false)})`;
    if (isKind<OperatorNode>(node, 'OperatorNode')) return operation(node, inside);
    if (isKind<RelationalNode>(node, 'RelationalNode')) {
      const { params, conditionals } = node as { params: MathNode[]; conditionals: string[] };
      return `AND(${conditionals.map((sign, i) => `${say(params[i]!, true)}${SIGNS[sign]}${say(params[i + 1]!, true)}`).join(',')})`;
    }
    return fail();
  };
  const call = (node: FunctionNode): string => {
    const { name } = node.fn;
    const args = node.args as MathNode[];
    const [first, ...more] = args;
    const whole =
      first &&
      isKind<SymbolNode>(first, 'SymbolNode') &&
      Object.hasOwn(AGGREGATES, name) &&
      more.length === (AGGREGATES[name]!.share ? 1 : 0)
        ? places.column(first.name)
        : null;
    if (whole) return `${COLUMN_FUNCTIONS[name]}(${[whole, ...more.map((one) => say(one, false))].join(',')})`;
    const columnOf = (one: MathNode | undefined): string =>
      (one && isKind<SymbolNode>(one, 'SymbolNode') && places.column(one.name)) || fail();
    if (Object.hasOwn(WHERE, name)) {
      const from = name === 'count_where' ? 0 : 1;
      return `${WHERE[name]}(${args.map((one, i) => (i < from || (i - from) % 2 === 0 ? columnOf(one) : say(one, false))).join(',')})`;
    }
    if (name === 'first_where')
      // More than one pair has no call of its own.
      return args.length === 3 ? `INDEX(${columnOf(first)},MATCH(${say(args[2]!, false)},${columnOf(args[1])},0))` : fail();
    const said = args.map((one) => say(one, false));
    const step = (digits: string | undefined): string =>
      digits === undefined ? '1' : /^-?\d+$/.test(digits) ? String(Number(`1e${-Number(digits)}`)) : `10^-(${digits})`;
    if (name === 'ceil') return `CEILING(${said[0]},${step(said[1])})`;
    if (name === 'floor' && said.length > 1) return `FLOOR(${said[0]},${step(said[1])})`;
    if (name === 'weekday') return `WEEKDAY(${said[0]},2)`;
    if (name === 'fixed')
      return /^\d$/.test(said[1]!) ? `TEXT(${said[0]},"0${said[1] === '0' ? '' : `.${'0'.repeat(Number(said[1]))}`}")` : fail();
    // The logarithm of workbooks is that to the base of ten, and rounding up asks to what.
    if (name === 'log') return said.length > 1 ? `LOG(${said.join(',')})` : `LN(${said[0]})`;
    if (name === 'round' && said.length === 1) return `ROUND(${said[0]},0)`;
    return Object.hasOwn(ROW_FUNCTIONS, name) ? `${ROW_FUNCTIONS[name]}(${said.join(',')})` : fail();
  };
  const operation = (node: OperatorNode, inside: boolean): string => {
    const { fn } = node as { fn: string };
    const args = node.args as MathNode[];
    if (fn === 'mod') return `MOD(${say(args[0]!, false)},${say(args[1]!, false)})`;
    if (fn === 'and' || fn === 'or' || fn === 'not')
      return `${fn.toUpperCase()}(${args.map((one) => say(one, false)).join(',')})`;
    const text =
      fn === 'unaryMinus'
        ? `-${say(args[0]!, true)}`
        : fn === 'unaryPlus'
          ? say(args[0]!, true)
          : `${say(args[0]!, true)}${SIGNS[fn] ?? fail()}${say(args[1]!, true)}`;
    return inside ? `(${text})` : text;
  };
  const node = parseFormula(plainFormula(text));
  if (!node) return null;
  const said = say(node, false);
  return sayable ? said : null;
}
