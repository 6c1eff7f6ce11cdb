import { PURPOSES } from './purposes';
import type { Master, Prose, Solid, Table } from './schema';

/** What of a purpose somebody wishes otherwise; lengths in mm. */
export interface Beginning {
  readonly width?: number | undefined;
  readonly height?: number | undefined;
  readonly unit?: Master['unit'] | undefined;
  readonly background?: string | null | undefined;
  /** Pixels per inch, and the colours of copies in pixels; null for as it comes. */
  readonly ppi?: number | null | undefined;
  readonly profile?: Master['profile'] | undefined;
}

/** What a new master of measurements is for: a table, and no board yet. */
export const SERIES = { id: 'series', label: 'Measured series' } as const;

/** What a new master of a part is for: a solid, and no board yet. */
export const PART = { id: 'part', label: 'Part in three dimensions' } as const;

/** What a new master of words is for: a text, and no board yet. */
export const TEXT = { id: 'text', label: 'Text that flows' } as const;

/** A heading and a place to begin to write. */
const firstText = (): Prose => ({
  id: 'text-1',
  name: 'Text',
  language: 'en',
  blocks: [
    { id: 'text-1-b1', block: 'words', role: 'heading 1', spans: [{ text: 'Heading' }] },
    { id: 'text-1-b2', block: 'words', role: 'body', spans: [] },
  ],
});

/** A plate to begin with. */
const firstSolid = (): Solid => ({
  id: 'solid-1',
  name: 'Part',
  parameters: [
    { id: 'solid-1-p1', name: 'width', value: 100 },
    { id: 'solid-1-p2', name: 'depth', value: 60 },
    { id: 'solid-1-p3', name: 'height', value: 8 },
  ],
  features: [
    {
      id: 'solid-1-f1',
      name: 'Plate',
      op: 'extrude',
      plane: 'xy',
      offset: 0,
      outline: { shape: 'rectangle', x: 0, y: 0, width: 'width', height: 'depth' },
      by: 'height',
      join: 'add',
    },
  ],
});

const seriesTable = (): Table => ({
  id: 'table-1',
  name: 'Measurements',
  key: 'table-1-c1',
  columns: [
    { id: 'table-1-c1', name: 'Sample', type: 'text' },
    { id: 'table-1-c2', name: 'Date', type: 'date' },
    { id: 'table-1-c3', name: 'Value', type: 'number' },
  ],
  rows: [{ id: 'table-1-r1', cells: {} }],
  summaries: [],
});

/** Purposes that begin with something else than a board. */
const BEGINNINGS: Readonly<Record<string, () => Partial<Pick<Master, 'tables' | 'solids' | 'texts'>>>> = {
  [SERIES.id]: () => ({ tables: [seriesTable()] }),
  [PART.id]: () => ({ solids: [firstSolid()] }),
  [TEXT.id]: () => ({ texts: [firstText()] }),
};

/** An empty master with one board and one layer, or with one table, one solid or one text. */
export function newMaster(id: string, title: string, owner: string, purposeId: string, wish: Beginning = {}): Master {
  const purpose = PURPOSES.find((one) => one.id === purposeId) ?? PURPOSES[0]!;
  const beginning = Object.hasOwn(BEGINNINGS, purposeId) ? BEGINNINGS[purposeId] : undefined;
  const [ppi, profile] = beginning
    ? []
    : [wish.ppi === undefined ? purpose.ppi : wish.ppi, wish.profile === undefined ? purpose.profile : wish.profile];
  return {
    id,
    title,
    owner,
    purpose: beginning ? purposeId : purpose.id,
    unit: wish.unit ?? purpose.unit,
    layers: [
      {
        id: 'layer-1',
        name: purpose.process === 'cut' ? 'Cut' : 'Print',
        colour: '#14213a',
        visible: true,
        locked: false,
        process: purpose.process,
      },
    ],
    symbols: [],
    ...beginning?.(),
    boards: beginning
      ? []
      : [
          {
            id: 'board-1',
            name: 'Front',
            width: wish.width ?? purpose.width,
            height: wish.height ?? purpose.height,
            background: wish.background === undefined ? purpose.background : wish.background,
            items: [],
          },
        ],
    resources: [],
    description: '',
    ...(ppi ? { ppi } : {}),
    ...(profile ? { profile } : {}),
  };
}
