import { Failure } from '../../base/failure/failure';
import { type Command, boardName, itemsOf } from '../../document/commands';
import { newId } from '../../document/ids';
import type { Anchor, Dimension, Spot } from '../../document/items';
import { type Measure, itemKind, roughly } from '../../document/items';
import type { Board, Master } from '../../document/schema';
import { nodeInWords } from '../../document/tree';
import { boxesOf } from './arrange';

/**
 * Measures what is chosen: of one object its width or height, of two the way between them, from middle to middle.
 * @throws Failure `measure-none` for none or more than two
 */
export function measureItems(
  master: Master,
  board: Board,
  ids: readonly string[],
  along: Dimension['along'],
  { measure = roughly, id = newId() }: { measure?: Measure; id?: string } = {},
): Command {
  const found = itemsOf(master, ids).filter(({ item }) => !itemKind(item).renameIds);
  const [a, b] = found;
  if (!a || found.length > 2)
    throw new Failure('measure-none', 'One object is measured, or the way between two: choose one or two.');
  const boxes = boxesOf(master, [a.item.id, ...(b ? [b.item.id] : [])], measure);
  const room = Math.max(board.width, board.height);
  const size = Number(Math.min(8, Math.max(1.5, room / 60)).toFixed(1));
  const anchor = (of: string, spot: Spot): Anchor => ({ of, spot });
  const [from, to]: [Anchor, Anchor] = b
    ? [anchor(a.item.id, 'middle'), anchor(b.item.id, 'middle')]
    : along === 'up'
      ? [anchor(a.item.id, 'left foot'), anchor(a.item.id, 'left top')]
      : [anchor(a.item.id, 'left foot'), anchor(a.item.id, along === 'across' ? 'right foot' : 'right top')];
  // Beside what is measured, on the side that the board has room on.
  const low = Math.min(...boxes.map(({ box }) => (along === 'up' ? box.minX : box.minY)));
  const gap = 3 * size;
  const outside = low > gap + 2 * size;
  const away = along === 'up' ? (outside ? gap : -gap) : along === 'across' ? (outside ? -gap : gap) : gap;
  const layer =
    master.layers.find(({ process, visible, locked }) => process === 'note' && visible && !locked) ??
    found.map(({ item }) => item.layer).flatMap((own) => master.layers.filter((one) => one.id === own))[0] ??
    master.layers[0]!;
  const node: Dimension = {
    kind: 'dimension',
    id,
    layer: layer.id,
    style: { fill: null, stroke: '#14213a', strokeWidth: Number((size / 14).toFixed(2)) },
    from,
    to,
    along,
    away: Number(away.toFixed(1)),
    size,
    digits: 1,
    unit: master.unit,
  };
  return {
    label: `${b ? 'The way between two objects' : nodeInWords(a.item)} on ${boardName(a.path)}: measured`,
    patches: [{ op: 'insert', parent: board.id, list: 'items', after: board.items.at(-1)?.id ?? null, node }],
  };
}
