import type { Board, Item, Master, Prose } from '../../document/schema';
import type { Measure } from '../../document/items';
import { type Frame, flowText } from '../../evaluate/texts/layout/flow';
import { SETTING, type TypeSetting } from '../../evaluate/texts/layout/looks';

/** A page that a text is laid out on, mm. */
export interface PageSetting {
  readonly width: number;
  readonly height: number;
  readonly margin: number;
  /** Of the letters. */
  readonly size: number;
}

/** Pages that a text may have. */
const MOST_PAGES = 5000;

function* pages({ width, height, margin }: PageSetting): Generator<Frame> {
  for (let i = 0; i < MOST_PAGES; i++)
    yield { left: margin, top: height - margin, width: width - 2 * margin, height: height - 2.4 * margin };
}

/** A number at the foot of a page. */
const footOf = (number: number, { width, margin }: PageSetting, { colour, heading }: TypeSetting, layer: string): Item => ({
  kind: 'text',
  id: 'page-number',
  layer,
  style: { fill: colour, stroke: null, strokeWidth: 0 },
  text: String(number),
  x: width / 2,
  y: margin * 0.6,
  size: 2.8,
  font: heading,
  align: 'middle',
});

/** A text laid out on pages: a board each, in a master that has nothing else. Its objects have the ids of the blocks they are of. */
export function pagesOf(master: Master, text: Prose, page: PageSetting, measure: Measure): Master {
  const shapes = new Map(master.resources.map(({ id, width = 4, height = 3 }) => [id, height / width]));
  const layer = { id: 'words', name: 'Words', colour: '#14213a', visible: true, locked: false, process: 'print' } as const;
  const type = { ...SETTING, size: page.size };
  const { filled } = flowText(text.blocks, pages(page), {
    type,
    measure,
    layer: layer.id,
    shapeOf: (id) => shapes.get(id) ?? 0.75,
  });
  const boards = filled.map(({ items }, i): Board => ({
    id: `${text.id}-page-${i + 1}`,
    name: filled.length > 1 ? `${text.name} ${i + 1}` : text.name,
    width: page.width,
    height: page.height,
    background: null,
    items: filled.length > 1 ? [...items, footOf(i + 1, page, type, layer.id)] : [...items],
  }));
  return { ...master, layers: [layer], symbols: [], boards };
}
