import type { DisplayEntry, DisplayStyle } from '../content/drawing/display-list';
import { Failure } from '../failure/failure';
import { type Matrix, identity, meanScale, multiply, translation } from '../geometry/matrix';
import { type Box, boxOfOutlines, joinBoxes } from '../geometry/measure';
import { transformOutline } from '../geometry/outline';
import { assertOpens } from './count';
import { type TextLine, itemKind } from './kinds';
import type { Board, DrawnItem, GroupItem, Item, Layer, Master } from './schema';

/** One drawn object of a scope, in board millimetres, before any target has had its say. */
export type ResolvedEntry = DisplayEntry & {
  readonly source: string;
  readonly layerId: string;
  /** Items passed through on the way: groups and symbol uses. */
  readonly within: readonly { readonly id: string; readonly kind: 'group' | 'use' }[];
  /** For a text: which line of its item it is. */
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

/**
 * A line of text placed by a map: its own axes without their scale, and its size with it. Always the mean scale, however
 * slanted: a frame that is similar but for its last written decimal reads the same.
 */
export function placeLine(matrix: Matrix, [x, y]: TextLine['at'], size: number): { frame: Matrix; size: number } {
  const frame = multiply(matrix, translation(x, y));
  const scale = meanScale(frame) || 1;
  return {
    frame: [frame[0] / scale, frame[1] / scale, frame[2] / scale, frame[3] / scale, frame[4], frame[5]],
    size: size * scale,
  };
}

/**
 * Expands symbol uses and groups and drops what is hidden. Pure.
 * @param objects only these objects and what is in them; all where it is null
 * @throws Failure `symbol-cycle` when a symbol uses itself, `symbol-missing`, `layer-missing`, and before opening anything
 * `too-many-objects` or `too-deep`
 */
export function resolveBoard(master: Master, board: Board, objects: ReadonlySet<string> | null = null): ResolvedBoard {
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
    chosen: boolean,
    source?: string,
  ) => {
    for (const item of items) {
      const layerId = item.layer ?? holderLayer;
      const own = item.transform ? multiply(matrix, item.transform) : matrix;
      const taken = chosen || objects!.has(item.id);
      const opened = itemKind(item).opens?.(item);
      if (opened?.items) {
        const inside = [...within, { id: item.id, kind: 'group' as const }];
        visit(opened.items, own, layerId, opacity * ((item as GroupItem).opacity ?? 1), inside, taken, source);
      } else if (!taken) continue;
      else if (opened) {
        const symbol = symbols.get(opened.symbol ?? '');
        if (!symbol) throw new Failure('symbol-missing', `The symbol ${opened.symbol} is not in this master.`, { node: item.id });
        if (open.has(symbol.id))
          throw new Failure('symbol-cycle', `The symbol ${symbol.name} uses itself, directly or through another.`, {
            node: item.id,
          });
        open.add(symbol.id);
        const placed = multiply(own, translation(-symbol.anchor[0], -symbol.anchor[1]));
        visit(symbol.items, placed, layerId, opacity, [...within, { id: item.id, kind: 'use' }], true, source ?? item.id);
        open.delete(symbol.id);
      } else {
        const layer = layers.get(layerId);
        if (!layer) throw new Failure('layer-missing', `The layer ${layerId} is not in this master.`, { node: item.id });
        if (!layer.visible) hidden.push(source ?? item.id);
        else draw(item as DrawnItem, own, layer, opacity, within, source ?? item.id);
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
    const kind = itemKind(item);
    if (kind.outlines) {
      const plain = matrix === identity;
      const own = kind.outlines(item);
      entries.push({ kind: 'path', outlines: plain ? own : own.map((outline) => transformOutline(outline, matrix)), ...common });
    }
    for (const { text, at, size, font, align, line } of kind.lines?.(item) ?? [])
      entries.push({ kind: 'text', text, ...placeLine(matrix, at, size), font, align, line, ...common });
  };

  visit(board.items, identity, master.layers[0]!.id, 1, [], objects === null);
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
