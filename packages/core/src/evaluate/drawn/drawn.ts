import { Failure } from '../../base/failure/failure';
import { type Matrix, identity, multiply, translation } from '../../base/geometry/matrix';
import { type Box, boxOfOutlines, joinBoxes } from '../../base/geometry/measure';
import { transformOutline } from '../../base/geometry/outline';
import { type Measure, itemKind, roughly } from '../../document/items';
import type { Dimension } from '../../document/items/kinds/dimension';
import type { MotifLine } from '../../document/items/kinds/motif-line';
import { type ParameterScope, type Problem, scopeOf } from '../../document/parameters';
import type { Board, Item, Master, SymbolDefinition } from '../../document/schema';
import { groupOf } from '../placed/put';
import { anchorPoint, dimensionItems } from './dimension';
import { computedBoard, computedItem, isComputed } from './formulas';
import { type Symbols, motifItems, symbolCycle } from './motif-line';

/** A master in which everything is worth what its formulas come to and what draws by a rule is drawn. */
export interface Drawn {
  readonly master: Master;
  /** What can't be computed: it stands as it was last, or is not drawn. */
  readonly problems: readonly Problem[];
}

const isRuled = (item: Item): boolean => itemKind(item).drawsByRule === true;

/** Whether anything in a list is computed or draws by a rule. Kept by the list, which an edit leaves alone where it does not touch it. */
const lists = new WeakMap<readonly Item[], boolean>();
function anyToDraw(items: readonly Item[]): boolean {
  let known = lists.get(items);
  if (known === undefined) {
    known = items.some((item) => isComputed(item) || isRuled(item) || ('items' in item && anyToDraw(item.items)));
    lists.set(items, known);
  }
  return known;
}

/** What came of an item: the same object again where it comes to the same, so that what is kept of it stays known. */
const made = new WeakMap<object, { readonly key: string; readonly item: Item }>();
function same(of: Item, item: Item): Item {
  const key = JSON.stringify(item);
  const before = made.get(of);
  if (before?.key === key) return before.item;
  made.set(of, { key, item });
  return item;
}

/** Likewise what holds items, by what it holds. */
const holding = new WeakMap<object, { readonly items: readonly Item[] }>();
function withItems<H extends { readonly items: readonly Item[] }>(of: H, items: Item[]): H {
  if (items.every((item, i) => item === of.items[i])) return of;
  const before = holding.get(of) as H | undefined;
  if (before && before.items.length === items.length && items.every((item, i) => item === before.items[i])) return before;
  const next = { ...of, items };
  holding.set(of, next);
  return next;
}

/** The marks of a motif line, and the symbols that they were bent from. */
const marked = new WeakMap<Item, { readonly from: readonly SymbolDefinition[]; readonly group: Item }>();

const scopes = new WeakMap<object, Map<string, ParameterScope>>();
const NO_PARAMETERS: readonly never[] = [];
/** What the parameters of a master are worth; kept by their list. */
export function scopeOfMaster({
  parameters = NO_PARAMETERS as never,
  unit,
}: Pick<Master, 'parameters' | 'unit'>): ParameterScope {
  let byUnit = scopes.get(parameters);
  if (!byUnit) scopes.set(parameters, (byUnit = new Map()));
  let scope = byUnit.get(unit);
  if (!scope) byUnit.set(unit, (scope = scopeOf(parameters, unit)));
  return scope;
}

const placeOfItem = (items: readonly Item[], id: string, around: Matrix): { item: Item; around: Matrix } | null => {
  for (const item of items) {
    if (item.id === id) return { item, around };
    if (!('items' in item)) continue;
    const inner = placeOfItem(item.items, id, item.transform ? multiply(around, item.transform) : around);
    if (inner) return inner;
  }
  return null;
};

/** The box of an item and all that it opens, in the axes around it. */
export function boxOfDrawn(item: Item, around: Matrix, symbols: Symbols, measure: Measure = roughly, depth = 0): Box {
  const own = item.transform ? multiply(around, item.transform) : around;
  const kind = itemKind(item);
  if (depth > 50) return joinBoxes([]);
  const used = kind.openContents?.(item).symbol;
  if (used !== undefined) {
    const symbol = symbols.get(used);
    const at = symbol && multiply(own, translation(-symbol.anchor[0], -symbol.anchor[1]));
    return joinBoxes((symbol?.items ?? []).map((one) => boxOfDrawn(one, at!, symbols, measure, depth + 1)));
  }
  if ('items' in item) return joinBoxes(item.items.map((one) => boxOfDrawn(one, own, symbols, measure, depth + 1)));
  if ('width' in item && 'height' in item && kind.readPart) {
    const { x, y, width, height } = item as Item & { x: number; y: number; width: number; height: number };
    return cornersOf({ minX: x, minY: y, maxX: x + width, maxY: y + height }, own);
  }
  const outlines = kind.outlines?.(item);
  if (outlines) return boxOfOutlines(own === identity ? outlines : outlines.map((one) => transformOutline(one, own)));
  const lines = kind.lines?.(item, measure) ?? [];
  return joinBoxes(
    lines.map(({ text, at: [x, y], size, font, align, spacing }) => {
      const width = measure(font, text) * size + (spacing ?? 0) * [...text].length;
      const left = x - (align === 'start' ? 0 : align === 'middle' ? width / 2 : width);
      return cornersOf({ minX: left, minY: y - 0.24 * size, maxX: left + width, maxY: y + 0.76 * size }, own);
    }),
  );
}

function cornersOf({ minX, minY, maxX, maxY }: Box, [a, b, c, d, e, f]: Matrix): Box {
  const corners = [
    [minX, minY],
    [maxX, minY],
    [maxX, maxY],
    [minX, maxY],
  ] as const;
  return joinBoxes(
    corners.map(([x, y]) => {
      const [px, py] = [a * x + c * y + e, b * x + d * y + f];
      return { minX: px, minY: py, maxX: px, maxY: py };
    }),
  );
}

/** Draws one master: values first, then marks, then measures of what stands there. */
class Drawing {
  readonly problems: Problem[];
  /** Symbols with their values, and those of them that are drawn already. */
  private valued: readonly SymbolDefinition[] = [];
  private readonly finished = new Map<string, SymbolDefinition>();
  private readonly open: string[] = [];

  constructor(
    private readonly scope: ParameterScope,
    private readonly measure: Measure,
  ) {
    this.problems = [...scope.problems];
  }

  master(master: Master): Master {
    this.valued = this.holders(master.symbols, this.computed);
    const symbols = this.valued.map(({ id }) => this.symbol(id)!);
    const unchanged = symbols.every((one, i) => one === master.symbols[i]);
    const boards = this.holders(
      this.holders(
        master.boards.map((board) => computedBoard(board, this.scope, this.problems)),
        this.computed,
      ),
      this.ruled,
    );
    return { ...master, boards, symbols: unchanged ? master.symbols : symbols };
  }

  private readonly symbols: Symbols = { get: (id) => this.symbol(id) };

  /** A symbol with what is in it drawn. @throws Failure `symbol-cycle` */
  private symbol(id: string): SymbolDefinition | undefined {
    const done = this.finished.get(id);
    const valued = done ?? this.valued.find((one) => one.id === id);
    if (done || !valued || !anyToDraw(valued.items)) return valued;
    if (this.open.includes(id)) throw symbolCycle(valued.name, this.open.at(-1)!);
    this.open.push(id);
    const drawn = withItems(valued, this.ruled(valued.items));
    this.open.pop();
    this.finished.set(id, drawn);
    return drawn;
  }

  private holders<H extends Board | SymbolDefinition>(holders: readonly H[], draw: (items: readonly Item[]) => Item[]): H[] {
    const next = holders.map((one) => (anyToDraw(one.items) ? withItems(one, draw(one.items)) : one));
    // The same list where nothing in it changed: footprints are kept by it.
    return next.every((one, i) => one === holders[i]) ? (holders as H[]) : next;
  }

  private readonly computed = (items: readonly Item[]): Item[] =>
    items.map((item) => {
      const inner = 'items' in item && anyToDraw(item.items) ? withItems(item, this.computed(item.items)) : item;
      if (!isComputed(item)) return inner;
      const { item: next, problems } = computedItem(inner, this.scope);
      this.problems.push(...problems);
      return 'items' in next ? next : same(item, next);
    });

  private readonly ruled = (items: readonly Item[], all: readonly Item[] = items): Item[] =>
    items.map((item): Item => {
      if ('items' in item) return anyToDraw(item.items) ? withItems(item, this.ruled(item.items, all)) : item;
      const rule = this.rules[item.kind];
      if (!rule) return item;
      try {
        return rule(item, all);
      } catch (error) {
        if (!(error instanceof Failure)) throw error;
        this.problems.push({ node: item.id, attribute: '', message: error.message });
        return same(item, groupOf(item, []));
      }
    });

  /** How each kind that draws by a rule does. */
  private readonly rules: Readonly<Record<string, (item: Item, all: readonly Item[]) => Item>> = {
    'motif-line': (item) => this.marks(item as MotifLine),
    dimension: (item, all) => same(item, groupOf(item, this.dimension(item as Dimension, all))),
  };

  private marks(item: MotifLine): Item {
    // What a line in a symbol draws of that symbol never ends.
    for (const id of itemKind(item).symbols?.(item) ?? []) this.symbol(id);
    const from = item.manner === 'bend' ? this.valued : [];
    const before = marked.get(item);
    if (before && before.from.length === from.length && from.every((one, i) => one === before.from[i])) return before.group;
    const group = groupOf(item, motifItems(item, this.symbols));
    marked.set(item, { from, group });
    return group;
  }

  private dimension(item: Dimension, all: readonly Item[]): Item[] {
    const boxOf = (id: string): Box | null => {
      const found = placeOfItem(all, id, identity);
      // A dimension of a dimension, and of what is not there, measures nothing.
      if (!found || itemKind(found.item).renameIds) return null;
      const target = this.rules[found.item.kind]?.(found.item, all) ?? found.item;
      const box = boxOfDrawn(target, found.around, this.symbols, this.measure);
      return box.minX <= box.maxX ? box : null;
    };
    const [from, to] = [anchorPoint(item.from, boxOf), anchorPoint(item.to, boxOf)];
    if (!from || !to)
      throw new Failure(
        'dimension-loose',
        'What it measured is not on this board any more. Choose another object, or delete it.',
      );
    return dimensionItems(item, from, to);
  }
}

const known = new WeakMap<Master, WeakMap<Measure, Drawn>>();
/** Masters that came of drawing: there is nothing left to draw in them. */
const done = new WeakMap<Master, Drawn>();

const isPlain = ({ boards, symbols, parameters }: Pick<Master, 'boards' | 'symbols' | 'parameters'>): boolean =>
  !parameters?.length &&
  boards.every((board) => !board.formulas && !anyToDraw(board.items)) &&
  symbols.every(({ items }) => !anyToDraw(items));

/**
 * Computes formulas, fills slots, sets the marks of motif lines and draws dimensions. Pure; the same master where there is nothing of
 * that, and unchanged nodes stay the same objects.
 * @param measure how wide texts are, for dimensions of them
 */
export function drawnMaster(master: Master, measure: Measure = roughly): Drawn {
  const finished = done.get(master);
  if (finished) return finished;
  let byMeasure = known.get(master);
  if (!byMeasure) known.set(master, (byMeasure = new WeakMap()));
  let drawn = byMeasure.get(measure);
  if (!drawn) {
    if (isPlain(master)) drawn = { master, problems: [] };
    else {
      const drawing = new Drawing(scopeOfMaster(master), measure);
      drawn = { master: drawing.master(master), problems: drawing.problems };
      done.set(drawn.master, drawn);
    }
    byMeasure.set(measure, drawn);
  }
  return drawn;
}

/** A board of a master, or a variant of one, with what is on it drawn; and the master whose symbols it is drawn with. */
export function drawnBoard(master: Master, board: Board, measure: Measure = roughly): { master: Master; board: Board } {
  const at = master.boards.indexOf(board);
  if (at >= 0) {
    const drawn = drawnMaster(master, measure).master;
    return { master: drawn, board: drawn.boards[at]! };
  }
  if (!board.formulas && !anyToDraw(board.items) && (done.has(master) || isPlain({ ...master, boards: [] })))
    return { master, board };
  const drawn = drawnMaster({ ...master, boards: [board] }, measure).master;
  return { master: drawn, board: drawn.boards[0]! };
}
