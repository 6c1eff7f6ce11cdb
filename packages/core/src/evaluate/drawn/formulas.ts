import type * as z from 'zod';
import { Failure } from '../../base/failure/failure';
import { type Field, itemKind } from '../../document/items';
import { type ParameterScope, type Problem, colourOf, numberOf, readExpression } from '../../document/parameters';
import type { Formulas } from '../../document/parameters/schema';
import { fillSlots } from '../../document/parameters/slots';
import { Board, type Item, Style } from '../../document/schema';
import type { TextItem } from '../../document/items/kinds/text';

/** What the values of an attribute are, for a formula to come to. */
type Wanted = 'length' | 'angle' | 'number' | 'colour';

const BOARD: Readonly<Record<string, Wanted>> = { width: 'length', height: 'length', background: 'colour' };

function wantedOf({ kind, unit }: Field): Wanted | undefined {
  if (kind === 'paint') return 'colour';
  if (kind === 'share') return 'number';
  if (kind !== 'number') return undefined;
  return unit === 'mm' ? 'length' : unit === '°' ? 'angle' : 'number';
}

/** What a formula for an attribute of an item has to come to; undefined where it can't be computed. */
export const wantedFor = (item: Item, attribute: string): Wanted | undefined => {
  const field = itemKind(item).fields.find((one) => one.attribute === attribute);
  return field && wantedOf(field);
};

/** What a formula comes to. @throws Failure `formula` */
function computed(formula: string, wanted: Wanted, { named }: ParameterScope): number | string {
  const value = readExpression(formula).evaluate(named);
  return wanted === 'colour' ? colourOf(value) : Number(numberOf(value, wanted).toFixed(9));
}

type Loose = Record<string, unknown>;
const told = (problems: Problem[], node: string, attribute: string, act: () => void): void => {
  try {
    act();
  } catch (error) {
    if (!(error instanceof Failure)) throw error;
    problems.push({ node, attribute, message: error.message });
  }
};

/** Refuses what the schema of an attribute refuses, in its words. */
function assertFits(shape: Readonly<Record<string, z.ZodType>>, attribute: string, value: unknown): void {
  const [first, second] = attribute.split('.') as [string, string | undefined];
  const schema = second ? (Style.shape as Readonly<Record<string, z.ZodType>>)[second] : shape[first];
  const parsed = schema?.safeParse(value);
  if (parsed && !parsed.success)
    throw new Failure('formula', `It comes to ${String(value)}, which ${parsed.error.issues[0]!.message}.`);
}

/** A node with what its formulas come to in the place of its last values. */
function withValues(
  node: Loose,
  formulas: Formulas,
  shape: Readonly<Record<string, z.ZodType>>,
  wanted: (attribute: string) => Wanted | undefined,
  scope: ParameterScope,
  problems: Problem[],
): Loose {
  const { formulas: _done, ...rest } = node;
  let next: Loose = rest;
  for (const [attribute, formula] of Object.entries(formulas))
    told(problems, String(node['id']), attribute, () => {
      const what = wanted(attribute);
      if (!what) throw new Failure('formula', 'This can’t be computed: give it a value.');
      const value = computed(formula, what, scope);
      assertFits(shape, attribute, value);
      const [first, second] = attribute.split('.') as [string, string | undefined];
      next = { ...next, [first]: second ? { ...(next[first] as Loose | undefined), [second]: value } : value };
    });
  return next;
}

function filled(item: TextItem, { named, perUnit }: ParameterScope, problems: Problem[]): TextItem {
  const { slots: _filled, ...rest } = item;
  let next: TextItem = rest;
  told(problems, item.id, 'text', () => {
    const { text, placeOf } = fillSlots(item.text, named, perUnit);
    const runs = item.runs
      ?.map((run) => ({ ...run, from: placeOf(run.from, false), to: placeOf(run.to, true) }))
      .filter(({ from, to }) => to > from);
    next = { ...rest, text, ...(runs ? { runs } : {}) };
  });
  return next;
}

/** Whether an item itself has something to be computed. */
export const isComputed = (item: Item): boolean => item.formulas !== undefined || ('slots' in item && item.slots === true);

/** An item with its formulas computed and its slots filled; where one can't be, its last value stays and the problem is told. */
export function computedItem(item: Item, scope: ParameterScope): { item: Item; problems: readonly Problem[] } {
  const problems: Problem[] = [];
  let next = item;
  if (item.formulas) {
    const { shape } = itemKind(item).schema as { shape: Readonly<Record<string, z.ZodType>> };
    const wanted = (attribute: string) => wantedFor(item, attribute);
    next = withValues(item as Loose, item.formulas, shape, wanted, scope, problems) as Item;
  }
  if (next.kind === 'text' && next.slots) next = filled(next, scope, problems);
  return { item: next, problems };
}

/** Likewise a board's own measures. */
export function computedBoard(board: Board, scope: ParameterScope, problems: Problem[]): Board {
  if (!board.formulas) return board;
  return withValues(board as Loose, board.formulas, Board.shape, (attribute) => BOARD[attribute], scope, problems) as Board;
}
