import { FONTS } from '../../schema-parts';
import { byHand } from '../by-hand';
import { type ItemKind, LOOK, measure } from '../kind';
import { stretchOf } from '../shaped';
import { TextItem } from '../text-item';
import { LEADING, linesOf } from '../text-lines';
import { runsAfter } from '../text-runs';

declare module '../union' {
  interface Items {
    text: TextItem;
  }
}

export { TextItem };

const orNone = <T>(list: readonly T[]): readonly T[] | undefined => (list.length ? list : undefined);

export const kind: ItemKind<TextItem> = {
  id: 'text',
  schema: TextItem,
  words: (item) => `“${item.text.split('\n')[0]!.slice(0, 40)}”`,
  lists: [],
  lines: linesOf,
  followChange: ({ text: before, runs }, attribute, value) =>
    attribute === 'text' && runs ? { runs: orNone(runsAfter(before, String(value), runs)) } : {},
  placed: ({ x, y }, dx, dy) => ({ x: x + dx, y: y + dy }),
  mapShape: ({ x, y, size, width, runs }, matrix) => {
    const by = stretchOf(matrix);
    // Letters grow evenly or not at all: an uneven stretch is left to the transform.
    if (!by || Math.abs(by.sx - by.sy) > 1e-6 * by.sx) return null;
    const grown = (value: number) => Number((value * by.sx).toFixed(9));
    return {
      x: by.sx * x + by.e,
      y: by.sy * y + by.f,
      size: grown(size),
      ...(width === undefined ? {} : { width: grown(width) }),
      ...(runs?.some((run) => run.size) ? { runs: runs.map((run) => (run.size ? { ...run, size: grown(run.size) } : run)) } : {}),
    };
  },
  sized: true,
  fields: [
    { attribute: 'text', label: 'Wording', kind: 'wording' },
    { attribute: 'font', label: 'Font', kind: 'choice', choices: FONTS },
    measure('size', 'Letter size', 0.1),
    { attribute: 'spacing', label: 'Letter spacing', kind: 'number', unit: 'em', least: -0.9, most: 10, unsaid: '0' },
    { attribute: 'leading', label: 'Line distance', kind: 'number', unit: 'em', least: 0.1, most: 100, unsaid: String(LEADING) },
    { ...measure('width', 'Lines break at', 0.1), unsaid: 'line ends' },
    { attribute: 'align', label: 'Aligned by', kind: 'choice', choices: ['start', 'middle', 'end'] },
    measure('x', 'Across'),
    measure('y', 'Up'),
    ...LOOK.slice(0, 1),
  ],
  offered: 4,
  byHand: [
    {
      label: 'text',
      way: 'spot',
      words: 'Press where the words begin. Enter puts them into the middle.',
      from: ({ at }) => (at ? { x: byHand(at[0]), y: byHand(at[1]), align: 'start' } : null),
    },
  ],
  example: ({ number, pick }) => ({
    text: pick(['Sedge', 'Mere 7', 'Łódka & Öl', 'two\nlines']),
    x: number(0, 200),
    y: number(0, 100),
    size: number(2, 10),
    font: 'Commissioner',
    align: 'start',
  }),
  fresh: {
    label: 'text',
    make: ({ cx, cy, unit, colour }) => ({
      style: { fill: colour, stroke: null, strokeWidth: 0 },
      text: 'Words',
      x: cx,
      y: cy,
      size: unit,
      font: 'Commissioner',
      align: 'middle',
    }),
  },
};
