import * as z from 'zod';
import { Id, PointSchema, drawnBase, finite, positive } from '../../schema-parts';
import { type ItemKind, LOOK, measure } from '../kind';
import { opensNothing } from '../placed';

declare module '../union' {
  interface Items {
    dimension: Dimension;
  }
}

/** Places on the box of an object, and their shares of its width and height. */
export const SPOTS = {
  'left foot': [0, 0],
  foot: [0.5, 0],
  'right foot': [1, 0],
  left: [0, 0.5],
  middle: [0.5, 0.5],
  right: [1, 0.5],
  'left top': [0, 1],
  top: [0.5, 1],
  'right top': [1, 1],
} as const;
export type Spot = keyof typeof SPOTS;

/** One end of what is measured: a spot of an object, with which it goes, or a place on the board. */
export const Anchor = z.union([
  z.object({ of: Id, spot: z.enum(Object.keys(SPOTS) as [Spot, ...Spot[]]) }),
  z.object({ at: PointSchema }),
]);
export type Anchor = z.infer<typeof Anchor>;

/** Along which a distance is measured. */
const DIRECTIONS = ['across', 'up', 'straight'] as const;

/** A distance between two places, drawn and said; measured anew whenever they move. */
export const Dimension = z.object({
  kind: z.literal('dimension'),
  ...drawnBase,
  from: Anchor,
  to: Anchor,
  along: z.enum(DIRECTIONS),
  /** From what is measured to the line that says it, mm: up, to the left of what is upright, to the left of the way that is slanted. */
  away: finite,
  /** Size of its letters, mm. */
  size: positive.refine((value) => value <= 200, 'must be at most 200'),
  digits: z.number().int().min(0).max(6),
  unit: z.enum(['mm', 'cm', 'in', 'pt']),
  /** What stands before and after the number. */
  before: z.string().max(50).optional(),
  after: z.string().max(50).optional(),
});
export type Dimension = z.infer<typeof Dimension>;

export const kind: ItemKind<Dimension> = {
  id: 'dimension',
  schema: Dimension,
  words: () => 'dimension',
  lists: [],
  openContents: opensNothing,
  drawsByRule: true,
  arrival: { what: 'Dimensions', becomes: 'arrive as lines and words: they measure no more' },
  renameIds: ({ from, to }, ids) => {
    const end = (anchor: Anchor): Anchor => ('of' in anchor ? { ...anchor, of: ids.get(anchor.of) ?? anchor.of } : anchor);
    return { from: end(from), to: end(to) };
  },
  placed: ({ along, away }, dx, dy) => ({ away: away + (along === 'up' ? -dx : dy) }),
  sized: true,
  fields: [
    { attribute: 'from', label: 'From', kind: 'anchor' },
    { attribute: 'to', label: 'To', kind: 'anchor' },
    { attribute: 'along', label: 'Measured', kind: 'choice', choices: DIRECTIONS },
    measure('away', 'Away'),
    measure('size', 'Letter size', 0.1),
    { attribute: 'digits', label: 'Digits', kind: 'number', least: 0, most: 6 },
    { attribute: 'unit', label: 'Unit', kind: 'choice', choices: ['mm', 'cm', 'in', 'pt'] },
    { attribute: 'before', label: 'Before', kind: 'words', unsaid: 'nothing' },
    { attribute: 'after', label: 'After', kind: 'words', unsaid: 'nothing' },
    ...LOOK.slice(1, 3),
  ],
};
