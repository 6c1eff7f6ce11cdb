import { type ItemKind, measure } from '../kind';
import { framed, letters, moved, opensNothing, partId, z } from '../placed';
import { stretchedFrame } from '../shaped';

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
  lists: [],
  openContents: opensNothing,
  arrival: { what: 'Tables on boards', becomes: 'arrive as words and lines: nothing of them is computed any more' },
  readPart: ({ table }) => ({ list: 'tables', id: table }),
  placed: moved,
  mapShape: stretchedFrame,
  sized: true,
  fields: [
    { attribute: 'table', label: 'Table', kind: 'part', of: 'tables' },
    measure('size', 'Letter size', 0.5),
    measure('x', 'Across'),
    measure('y', 'Up'),
    measure('width', 'Width', 1),
    measure('height', 'Height', 1),
  ],
  offered: 7,
  fresh: {
    label: 'table',
    of: 'tables',
    make: ({ cx, cy, unit, part }) => ({
      table: part,
      x: cx - 4 * unit,
      y: cy - 3 * unit,
      width: 8 * unit,
      height: 6 * unit,
      size: 3,
    }),
  },
};
