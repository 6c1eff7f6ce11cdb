import { type Board, type Item, type Master, newId } from '@inkwell-twin/core/web';

export type NewKind = 'rectangle' | 'ellipse' | 'text';

/** What can be put on a board from here; more comes in from drawings. */
export const ADDITIONS: readonly { kind: NewKind; label: string }[] = [
  { kind: 'rectangle', label: 'rectangle' },
  { kind: 'ellipse', label: 'ellipse' },
  { kind: 'text', label: 'text' },
];

/** A new object in the middle of a board, on the first layer that is visible and not locked, of a size that can be seen there. */
export function newItem(kind: NewKind, master: Master, board: Board): Item {
  const layer = master.layers.find(({ visible, locked }) => visible && !locked) ?? master.layers[0]!;
  const [cx, cy, unit] = [board.width / 2, board.height / 2, Math.min(board.width, board.height) / 10];
  const common = { id: newId(), layer: layer.id };
  const line = { fill: null, stroke: layer.colour, strokeWidth: 0.5 };
  if (kind === 'rectangle')
    return { ...common, kind, style: line, x: cx - 2 * unit, y: cy - unit, width: 4 * unit, height: 2 * unit, radius: 0 };
  if (kind === 'ellipse') return { ...common, kind, style: line, cx, cy, rx: unit, ry: unit };
  const style = { fill: layer.colour, stroke: null, strokeWidth: 0 };
  return { ...common, kind, style, text: 'Words', x: cx, y: cy, size: unit, font: 'Commissioner', align: 'middle' };
}
