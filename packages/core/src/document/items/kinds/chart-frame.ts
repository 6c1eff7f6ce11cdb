import type { ItemKind } from '../kind';
import { FRAMED, frameFields, framed, freshFrame, letters, partId, z } from '../placed';

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
  ...FRAMED,
  arrival: { what: 'Charts', becomes: 'arrive as shapes and words' },
  readPart: ({ table }) => ({ list: 'tables', id: table }),
  fields: [
    { attribute: 'table', label: 'Table', kind: 'part', of: 'tables' },
    { attribute: 'form', label: 'Form', kind: 'choice', choices: CHART_FORMS },
    { attribute: 'across', label: 'Along', kind: 'column', of: 'table', unsaid: 'first column' },
    { attribute: 'up', label: 'Drawn', kind: 'column', of: 'table', unsaid: 'last number' },
    { attribute: 'by', label: 'Apart by', kind: 'column', of: 'table', unsaid: 'all together' },
    { attribute: 'take', label: 'Rows', kind: 'choice', choices: CHART_TAKES },
    ...frameFields(5),
  ],
  offered: 8,
  fresh: {
    label: 'chart',
    of: 'tables',
    make: freshFrame('table', [8, 6], 3, { form: 'lines' }),
  },
};
