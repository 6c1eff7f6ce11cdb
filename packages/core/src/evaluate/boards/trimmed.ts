import { type Box, boxOfOutlines, joinBoxes } from '../../base/geometry/measure';
import type { Fonts } from '../../contracts/fonts';
import { type Scope, boardsIn } from '../../contracts/scope';
import type { Board, Item, Master } from '../../document/schema';
import { measureBy } from '../fonts/font-book';
import { GROUNDS } from '../sheets/layers';
import { resolveBoard } from '../resolve';
import { chosen } from './chosen';

/** What is drawn of some objects of a board, their lines as wide as they are; null where nothing is. */
function boxOfObjects(master: Master, board: Board, objects: ReadonlySet<string>, fonts: Fonts): Box | null {
  const { entries } = resolveBoard(master, board, objects, measureBy(fonts));
  const boxes = entries.flatMap((entry): Box[] => {
    const outlines = entry.kind === 'text' ? fonts.outline(entry).outlines : entry.outlines;
    if (!outlines.length) return [];
    const { minX, minY, maxX, maxY } = boxOfOutlines(outlines);
    const half = entry.style.stroke ? entry.style.strokeWidth / 2 : 0;
    return [{ minX: minX - half, minY: minY - half, maxX: maxX + half, maxY: maxY + half }];
  });
  return boxes.length ? joinBoxes(boxes) : null;
}

/** Whole hundredths of a millimetre, outwards. */
const [down, up] = [
  (value: number) => Math.floor(value * 100 + 1e-6) / 100,
  (value: number) => Math.ceil(value * 100 - 1e-6) / 100,
];

/**
 * A master whose boards are as large as the objects that a scope names, where it asks for that; else the master itself. Pure.
 * @param master with everything on its boards drawing by itself
 */
export function trimmedMaster(master: Master, scope: Scope, fonts: Fonts): Master {
  if (scope.of !== 'boards' || !scope.objects || !scope.trimmed) return master;
  const objects = new Set(scope.objects);
  const named = new Set(boardsIn(master, scope).boards);
  const boards = master.boards.map((board): Board => {
    const box = named.has(board) ? boxOfObjects(master, board, objects, fonts) : null;
    if (!box) return board;
    const [left, bottom] = [down(box.minX), down(box.minY)];
    const moved: Item = {
      kind: 'group',
      id: GROUNDS,
      layer: null,
      transform: [1, 0, 0, 1, -left, -bottom] as never,
      items: [...chosen(board.items, objects)],
    };
    const { formulas: _formulas, ...plain } = board;
    const side = (from: number, to: number): number => Math.max(0.1, Math.round((up(to) - from) * 100) / 100);
    return { ...plain, width: side(left, box.maxX), height: side(bottom, box.maxY), items: [moved] };
  });
  return { ...master, boards };
}
