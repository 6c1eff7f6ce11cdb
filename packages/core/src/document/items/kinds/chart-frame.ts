import { type ItemKind, measure } from '../kind';
import { framed, letters, moved, opensNothing, partId, z } from '../placed';
import { stretchedFrame } from '../shaped';

declare module '../union' {
  interface Items {
    'chart-frame': ChartFrame;
  }
}

const CHART_FORMS = ['lines', 'bars', 'points'] as const;
const CHART_TAKES = ['means', 'each'] as const;

/** A chart of a table on a board. */
export const ChartFrame = z.object({
  kind: z.literal('chart-frame'),
  ...framed,
  table: partId,
  form: z.enum(CHART_FORMS),
  /** The column along the bottom, and the one that is drawn over it; the first that fit where they are not said. */
  across: partId.optional(),
  up: partId.optional(),
  /** The column whose values are drawn each for itself. */
  by: partId.optional(),
  /** Rows that stand in the same place: their mean, or each. */
  take: z.enum(CHART_TAKES).optional(),
  /** Size of its letters, mm. */
  size: letters,
});
export type ChartFrame = z.infer<typeof ChartFrame>;

export const kind: ItemKind<ChartFrame> = {
  id: 'chart-frame',
  schema: ChartFrame,
  words: () => 'chart',
  lists: [],
  openContents: opensNothing,
  arrival: { what: 'Charts', becomes: 'arrive as shapes and words' },
  readPart: ({ table }) => ({ list: 'tables', id: table }),
  placed: moved,
  mapShape: stretchedFrame,
  sized: true,
  fields: [
    { attribute: 'table', label: 'Table', kind: 'part', of: 'tables' },
    { attribute: 'form', label: 'Form', kind: 'choice', choices: CHART_FORMS },
    { attribute: 'across', label: 'Along', kind: 'column', of: 'table', unsaid: 'first column' },
    { attribute: 'up', label: 'Drawn', kind: 'column', of: 'table', unsaid: 'last number' },
    { attribute: 'by', label: 'Apart by', kind: 'column', of: 'table', unsaid: 'all together' },
    { attribute: 'take', label: 'Rows', kind: 'choice', choices: CHART_TAKES },
    measure('size', 'Letter size', 0.5),
    measure('x', 'Across'),
    measure('y', 'Up'),
    measure('width', 'Width', 5),
    measure('height', 'Height', 5),
  ],
  offered: 8,
  fresh: {
    label: 'chart',
    of: 'tables',
    make: ({ cx, cy, unit, part }) => ({
      table: part,
      form: 'lines',
      x: cx - 4 * unit,
      y: cy - 3 * unit,
      width: 8 * unit,
      height: 6 * unit,
      size: 3,
    }),
  },
};
