import * as z from 'zod';
import { OutlineSchema } from '../../outline-schema';
import { Id, finite, itemBase, positive } from '../../schema-parts';
import { POINTS, outlined } from '../by-hand';
import { type ItemKind, measure } from '../kind';
import { opensNothing } from '../placed';
import { mappedOutlines, outlinesByPoints } from '../shaped';

declare module '../union' {
  interface Items {
    'motif-line': MotifLine;
  }
}

/** How marks stand on their line: turned with it, as they were drawn, or bent along it so that neighbours meet. */
const MANNERS = ['follow', 'upright', 'bend'] as const;
/** The least distance of marks, mm. */
const LEAST_SPACING = 0.1;

/** A symbol again and again along a line. */
export const MotifLine = z.object({
  kind: z.literal('motif-line'),
  ...itemBase,
  outlines: z.array(OutlineSchema).min(1),
  symbol: Id,
  /** From mark to mark along the line, mm. */
  spacing: positive.refine((value) => value >= LEAST_SPACING, `must be at least ${LEAST_SPACING}`),
  /** From the start of the line to the first mark, mm. */
  offset: finite.optional(),
  /** How far to the left of the line the marks stand, mm. */
  aside: finite.optional(),
  manner: z.enum(MANNERS),
  /** The spacing gives way a little so that whole steps fill the line. */
  even: z.literal(true).optional(),
  /** Symbols in the place of the first and the last mark. */
  first: Id.optional(),
  last: Id.optional(),
});
export type MotifLine = z.infer<typeof MotifLine>;

export const kind: ItemKind<MotifLine> = {
  id: 'motif-line',
  schema: MotifLine,
  words: () => 'motif line',
  lists: [],
  openContents: opensNothing,
  drawsByRule: true,
  symbols: ({ symbol, first, last }) => [symbol, first, last].filter((id) => id !== undefined),
  arrival: { what: 'Motif lines', becomes: 'arrive as marks one by one: their spacing can’t be set any more' },
  byPoints: outlinesByPoints,
  mapShape: ({ outlines }, matrix) => mappedOutlines(outlines, matrix),
  sized: false,
  fields: [
    { attribute: 'symbol', label: 'Mark', kind: 'symbol' },
    measure('spacing', 'Spacing', LEAST_SPACING),
    { attribute: 'even', label: 'Whole steps', kind: 'yes' },
    { ...measure('offset', 'Begins at'), unsaid: '0' },
    { ...measure('aside', 'Aside'), unsaid: '0' },
    { attribute: 'manner', label: 'Marks', kind: 'choice', choices: MANNERS },
    { attribute: 'first', label: 'First mark', kind: 'symbol', unsaid: 'the same' },
    { attribute: 'last', label: 'Last mark', kind: 'symbol', unsaid: 'the same' },
  ],
  offered: 5,
  byHand: [{ label: 'motif line', way: 'curve', words: `Draw the line that the marks stand on. ${POINTS}`, from: outlined }],
  fresh: {
    label: 'motif line',
    of: 'symbols',
    make: ({ cx, cy, unit, part }) => ({
      symbol: part,
      spacing: Math.max(LEAST_SPACING, unit),
      manner: 'follow',
      outlines: [{ start: [cx - 4 * unit, cy], segments: [{ kind: 'line', to: [cx + 4 * unit, cy] }], closed: false }],
    }),
  },
};
