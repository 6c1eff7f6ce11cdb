import { Failure } from '../failure/failure';
import { type Matrix, identity, meanScale, multiply, translation } from '../geometry/matrix';
import { type Box, boxOfOutlines, joinBoxes } from '../geometry/measure';
import { transformOutline } from '../geometry/outline';
import type { DisplayEntry, DisplayStyle } from '../projection/display-list';
import { assertOpens } from './count';
import { outlinesOf } from './outlines';
import type { Board, DrawnItem, Item, Layer, Master } from './schema';

/** Distance between the baselines of a text's lines, in ems. */
export const LINE_HEIGHT = 1.25;

/** One drawn object of a scope, in board millimetres, before any target has had its say. */
export type ResolvedEntry = DisplayEntry & {
  readonly source: string;
  readonly layerId: string;
  /** Items passed through on the way: groups and symbol uses. */
  readonly within: readonly { readonly id: string; readonly kind: 'group' | 'use' }[];
  /** For a text: how many lines its item has, and which this is. */
  readonly line?: number;
};

/** A board with everything expanded: what a derivation starts from. */
export interface ResolvedBoard {
  readonly board: Board;
  readonly layers: readonly Layer[];
  readonly entries: readonly ResolvedEntry[];
  /** Objects on hidden layers, which are not in `entries`. */
  readonly hidden: readonly string[];
}

/** The board that a scope names, by id or by name; the first one when it names none; undefined where there is none such. */
export const findBoard = (master: Master, name = ''): Board | undefined =>
  name === ''
    ? master.boards[0]
    : (master.boards.find(({ id }) => id === name) ?? master.boards.find((one) => one.name === name));

/** The board that a scope names. @throws Failure `board-unknown` that lists the boards there are */
export function boardOf(master: Master, name?: string): Board {
  const board = findBoard(master, name);
  if (board) return board;
  const known = master.boards.map((one) => one.name).join(', ');
  throw new Failure('board-unknown', `There is no board “${name}” in this master. It has: ${known}.`);
}

/**
 * Expands symbol uses and groups and drops what is hidden. Pure.
 * @throws Failure `symbol-cycle` when a symbol uses itself, `symbol-missing`, `layer-missing`, and before opening anything
 * `too-many-objects` or `too-deep`
 */
export function resolveBoard(master: Master, board: Board): ResolvedBoard {
  const layers = new Map(master.layers.map((layer) => [layer.id, layer]));
  const symbols = new Map(master.symbols.map((symbol) => [symbol.id, symbol]));
  const entries: ResolvedEntry[] = [];
  const hidden: string[] = [];
  assertOpens(master, board);
  const open = new Set<string>();

  const visit = (
    items: readonly Item[],
    matrix: Matrix,
    holderLayer: string,
    opacity: number,
    within: ResolvedEntry['within'],
    source?: string,
  ) => {
    for (const item of items) {
      const layerId = item.layer ?? holderLayer;
      const own = item.transform ? multiply(matrix, item.transform) : matrix;
      if (item.kind === 'group')
        visit(item.items, own, layerId, opacity * (item.opacity ?? 1), [...within, { id: item.id, kind: 'group' }], source);
      else if (item.kind === 'use') {
        const symbol = symbols.get(item.symbol);
        if (!symbol) throw new Failure('symbol-missing', `The symbol ${item.symbol} is not in this master.`, { node: item.id });
        if (open.has(symbol.id))
          throw new Failure('symbol-cycle', `The symbol ${symbol.name} uses itself, directly or through another.`, {
            node: item.id,
          });
        open.add(symbol.id);
        const placed = multiply(own, translation(-symbol.anchor[0], -symbol.anchor[1]));
        visit(symbol.items, placed, layerId, opacity, [...within, { id: item.id, kind: 'use' }], source ?? item.id);
        open.delete(symbol.id);
      } else {
        const layer = layers.get(layerId);
        if (!layer) throw new Failure('layer-missing', `The layer ${layerId} is not in this master.`, { node: item.id });
        if (!layer.visible) hidden.push(source ?? item.id);
        else draw(item, own, layer, opacity, within, source ?? item.id);
      }
    }
  };

  const draw = (
    item: DrawnItem,
    matrix: Matrix,
    layer: Layer,
    opacity: number,
    within: ResolvedEntry['within'],
    source: string,
  ) => {
    const style: DisplayStyle = {
      fill: item.style.fill,
      fillRule: item.style.fillRule ?? 'nonzero',
      stroke: item.style.stroke,
      strokeWidth: item.style.stroke ? item.style.strokeWidth * meanScale(matrix) : 0,
      opacity: opacity * (item.style.opacity ?? 1),
    };
    const common = { layer: layer.name, layerId: layer.id, style, source, within };
    if (item.kind !== 'text') {
      const plain = matrix === identity;
      const outlines = outlinesOf(item).map((outline) => (plain ? outline : transformOutline(outline, matrix)));
      entries.push({ kind: 'path', outlines, ...common });
      return;
    }
    item.text.split('\n').forEach((text, line) => {
      if (!text.trim()) return;
      const frame = multiply(matrix, translation(item.x, item.y - line * item.size * LINE_HEIGHT));
      // Always the mean scale, however slanted: a frame that is similar but for its last written decimal reads the same.
      const scale = meanScale(frame) || 1;
      const unit: Matrix = [frame[0] / scale, frame[1] / scale, frame[2] / scale, frame[3] / scale, frame[4], frame[5]];
      entries.push({
        kind: 'text',
        text,
        frame: unit,
        size: item.size * scale,
        font: item.font,
        align: item.align,
        line,
        ...common,
      });
    });
  };

  visit(board.items, identity, master.layers[0]!.id, 1, []);
  return { board, layers: master.layers, entries, hidden };
}

/** The box of an object on its board, mm, curves taken within 0.01; null for one that draws no outline (text has none yet). */
export function boxOfItem({ entries }: ResolvedBoard, id: string): Box | null {
  const box = joinBoxes(
    entries.flatMap((entry) =>
      entry.kind === 'path' && (entry.source === id || entry.within.some((holder) => holder.id === id))
        ? [boxOfOutlines(entry.outlines)]
        : [],
    ),
  );
  return box.minX <= box.maxX ? box : null;
}
