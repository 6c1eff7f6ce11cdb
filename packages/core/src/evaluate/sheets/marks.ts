import { type Outline, fromPoints } from '../../base/geometry/outline';
import type { Point } from '../../base/geometry/point';
import type { SheetPlan } from '../../base/geometry/sheet-plan';

/** mm: how far a mark keeps off what is printed, how long it is, how wide its line; the ring of a register mark. */
const [AWAY, LONG, RING] = [1, 5, 2];
export const MARK_WIDTH = 0.1;

const line = (from: Point, to: Point): Outline => fromPoints([from, to], false);

/** A ring with a cross through it, by which plates are laid over each other. */
const register = ([x, y]: Point): Outline[] => [
  {
    start: [x + RING, y],
    segments: [
      { kind: 'arc', to: [x - RING, y], centre: [x, y], clockwise: false },
      { kind: 'arc', to: [x + RING, y], centre: [x, y], clockwise: false },
    ],
    closed: true,
  },
  line([x - LONG / 2, y], [x + LONG / 2, y]),
  line([x, y - LONG / 2], [x, y + LONG / 2]),
];

/** What is to be marked: a block of pages with its outer edges first and last, mm. */
interface Marked {
  readonly x: readonly number[];
  readonly y: readonly number[];
  readonly folds: readonly number[];
}

/** Lines outside of what is printed, where it is to be cut; folds are told by two short ones. */
export function marksOf({ x, y, folds }: Marked, { marks, bleed }: Pick<SheetPlan, 'marks' | 'bleed'>): Outline[] {
  if (marks === 'none') return [];
  const [left, right] = [Math.min(...x), Math.max(...x)];
  const [bottom, top] = [Math.min(...y), Math.max(...y)];
  const near = bleed + AWAY;
  const far = near + LONG;
  const upright = (at: number, from: number, to: number): Outline[] => [
    line([at, top + from], [at, top + to]),
    line([at, bottom - from], [at, bottom - to]),
  ];
  const level = (at: number): Outline[] => [
    line([left - near, at], [left - far, at]),
    line([right + near, at], [right + far, at]),
  ];
  const middle = near + LONG / 2;
  const [across, up] = [(left + right) / 2, (bottom + top) / 2];
  const [length, gap] = [LONG / 3, LONG / 6];
  return [
    ...x.flatMap((at) => upright(at, near, far)),
    ...y.flatMap(level),
    ...folds.flatMap((at) => [...upright(at, near, near + length), ...upright(at, near + length + gap, near + 2 * length + gap)]),
    ...(marks === 'cut and register'
      ? (
          [
            // Beside a fold or a cut in the middle, where they can be told apart.
            [left - middle, up],
            [right + middle, up],
            [across + (folds.length || x.length % 2 ? 3 * RING : 0), top + middle],
            [across + (folds.length || x.length % 2 ? 3 * RING : 0), bottom - middle],
          ] as Point[]
        ).flatMap(register)
      : []),
  ];
}
