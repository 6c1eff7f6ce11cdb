import { type Outline, fromPoints } from '../../base/geometry/outline';
import type { Board, Item, Layer, Master } from '../../document/schema';
import { drawnMaster } from '../drawn/drawn';
import { GROUNDS, MARKS } from './layers';
import { MARK_WIDTH, marksOf } from './marks';
import { type PlacedPage, plannedSheets } from './places';
import type { SheetPlan } from '../../base/geometry/sheet-plan';

const layer = (id: string, name: string): Layer => ({
  id,
  name,
  colour: '#000000',
  visible: true,
  locked: false,
  process: 'print',
});

const rectangle = (left: number, bottom: number, right: number, top: number): Outline =>
  fromPoints(
    [
      [left, bottom],
      [right, bottom],
      [right, top],
      [left, top],
    ],
    true,
  );

const drawn = (outlines: readonly Outline[]): Item[] =>
  outlines.length
    ? [
        {
          kind: 'path',
          id: MARKS,
          layer: MARKS,
          style: { fill: null, stroke: '#000000', strokeWidth: MARK_WIDTH },
          outlines: [...outlines] as never,
        },
      ]
    : [];

/** What shows of a board: cut off where it is not kept. */
function page(board: Board, { x, y, beyond }: Omit<PlacedPage, 'page'>, grounded: boolean): Item {
  const area = rectangle(-beyond.left, -beyond.bottom, board.width + beyond.right, board.height + beyond.top);
  const ground: Item[] =
    grounded && board.background
      ? [
          {
            kind: 'path',
            id: GROUNDS,
            layer: GROUNDS,
            style: { fill: board.background, stroke: null, strokeWidth: 0 },
            outlines: [area as never],
          },
        ]
      : [];
  return {
    kind: 'group',
    id: GROUNDS,
    layer: null,
    ...(x || y ? { transform: [1, 0, 0, 1, x, y] as never } : {}),
    clip: [{ rule: 'nonzero', outlines: [area as never] }],
    items: [...ground, ...board.items],
  };
}

/**
 * Boards as a printer gets them: with marks around them, or on sheets of several, each cut off at its edge. Pure.
 * @param boards those of the master, in order
 * @returns a master whose boards are the sheets
 * @throws Failure `option-invalid` where a board does not fit onto the paper
 */
export function onSheets(master: Master, boards: readonly Board[], plan: SheetPlan): Master {
  if (plan.way === 'each' && plan.marks === 'none') return { ...master, boards: [...boards] };
  // Sizes may be computed; everything else is drawn where it stands.
  const sizes = new Map(drawnMaster(master).master.boards.map((one) => [one.id, one]));
  const sized = boards.map((one) => {
    const { formulas: _formulas, ...board } = one;
    const { width, height } = sizes.get(one.id) ?? one;
    return { ...board, width, height };
  });
  const { bleed } = plan;
  const around = { left: bleed, right: bleed, bottom: bleed, top: bleed };
  const sheets =
    plan.way === 'each'
      ? sized.map((board): Board => {
          const { width, height } = board;
          const marks = marksOf({ x: [0, width], y: [0, height], folds: [] }, plan);
          return { ...board, items: [page(board, { x: 0, y: 0, beyond: around }, false), ...drawn(marks)] };
        })
      : plannedSheets(sized, plan).map(({ label, width, height, pages, cuts, folds }, i): Board => ({
          id: `sheet-${i + 1}`,
          name: label,
          width,
          height,
          background: null,
          items: [...pages.map((one) => page(sized[one.page]!, one, true)), ...drawn(marksOf({ ...cuts, folds }, plan))],
        }));
  return { ...master, layers: [...master.layers, layer(GROUNDS, 'Grounds'), layer(MARKS, 'Marks')], boards: sheets };
}
