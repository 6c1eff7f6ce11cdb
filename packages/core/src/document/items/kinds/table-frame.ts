import type { ItemKind } from '../kind';
import { FRAMED, frameFields, framed, freshFrame, letters, partId, z } from '../placed';

declare module '../union' {
  interface Items {
    'table-frame': TableFrame;
  }
}

/** A table on a board: its first rows, as many as there is room for. */
export const TableFrame = z.object({
  kind: z.literal('table-frame'),
  ...framed,
  table: partId,
  /** Size of its letters, mm; smaller where it is too wide for its frame. */
  size: letters,
});
export type TableFrame = z.infer<typeof TableFrame>;

export const kind: ItemKind<TableFrame> = {
  id: 'table-frame',
  schema: TableFrame,
  words: () => 'table on a board',
  ...FRAMED,
  arrival: { what: 'Tables on boards', becomes: 'arrive as words and lines: nothing of them is computed any more' },
  readPart: ({ table }) => ({ list: 'tables', id: table }),
  fields: [{ attribute: 'table', label: 'Table', kind: 'part', of: 'tables' }, ...frameFields(1)],
  offered: 7,
  fresh: {
    label: 'table',
    of: 'tables',
    make: freshFrame('table', [8, 6], 3),
  },
};
