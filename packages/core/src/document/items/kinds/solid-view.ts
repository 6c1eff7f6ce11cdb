import { VIEWS } from '../../solids/views';
import { positive } from '../../schema-parts';
import type { ItemKind } from '../kind';
import { PLACE, SHOWING, letters, partId, placedBase, z } from '../placed';

declare module '../union' {
  interface Items {
    'solid-view': SolidView;
  }
}

const HIDDEN_EDGES = ['dashed', 'left out'] as const;
const DIMENSIONED = ['none', 'overall', 'overall and holes'] as const;

/** A solid as it is seen from one side, drawn about a place on a board. */
export const SolidView = z.object({
  kind: z.literal('solid-view'),
  ...placedBase,
  solid: partId,
  view: z.enum(VIEWS),
  /** Millimetres on the board for one of the solid. */
  scale: positive.refine((value) => value <= 1000, 'must be at most 1000'),
  /** A box that it is made to fit into, mm, in the place of the scale. */
  fit: z.tuple([positive, positive]).readonly().optional(),
  hidden: z.enum(HIDDEN_EDGES).optional(),
  dimensions: z.enum(DIMENSIONED).optional(),
  /** Size of the letters of its dimensions, mm. */
  size: letters,
});
export type SolidView = z.infer<typeof SolidView>;

export const kind: ItemKind<SolidView> = {
  id: 'solid-view',
  schema: SolidView,
  words: ({ view }) => `${view} view`,
  ...SHOWING,
  arrival: { what: 'Views of solids', becomes: 'arrive as lines: no solid can be made of them again' },
  readPart: ({ solid }) => ({ list: 'solids', id: solid }),
  sized: true,
  fields: [
    { attribute: 'solid', label: 'Solid', kind: 'part', of: 'solids' },
    { attribute: 'view', label: 'Seen from', kind: 'choice', choices: VIEWS },
    { attribute: 'scale', label: 'Scale', kind: 'number', least: 0.001, most: 1000 },
    { attribute: 'hidden', label: 'Hidden edges', kind: 'choice', choices: HIDDEN_EDGES },
    { attribute: 'dimensions', label: 'Dimensions', kind: 'choice', choices: DIMENSIONED },
    ...PLACE,
  ],
  offered: 9,
  fresh: {
    label: 'view of a solid',
    of: 'solids',
    make: ({ cx, cy, part }) => ({ solid: part, view: 'front', scale: 1, dimensions: 'overall', x: cx, y: cy, size: 3.5 }),
  },
};
