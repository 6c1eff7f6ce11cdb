import * as z from 'zod';
import { FONTS, drawnBase, finite, positive } from '../schema-parts';
import { type ItemKind, LOOK, type TextLine, measure } from './kind';

/** Distance between the baselines of a text's lines, in ems. */
export const LINE_HEIGHT = 1.25;

export const TextItem = z.object({
  kind: z.literal('text'),
  ...drawnBase,
  text: z.string().max(20_000),
  x: finite,
  y: finite,
  /** Height of the em square, mm. */
  size: positive,
  font: z.enum(FONTS),
  align: z.enum(['start', 'middle', 'end']),
});
export type TextItem = z.infer<typeof TextItem>;

export const text: ItemKind<TextItem> = {
  id: 'text',
  schema: TextItem,
  words: (item) => `“${item.text.split('\n')[0]!.slice(0, 40)}”`,
  lists: [],
  lines: ({ text: words, x, y, size, font, align }) =>
    words
      .split('\n')
      .map((one, line): TextLine => ({ text: one, at: [x, y - line * size * LINE_HEIGHT], size, font, align, line }))
      .filter((line) => line.text.trim()),
  placed: ({ x, y }, dx, dy) => ({ x: x + dx, y: y + dy }),
  sized: true,
  fields: [
    { attribute: 'text', label: 'Wording', kind: 'text' },
    { attribute: 'font', label: 'Font', kind: 'choice', choices: FONTS },
    measure('size', 'Letter size', 0.1),
    measure('x', 'Across'),
    measure('y', 'Up'),
    ...LOOK.slice(0, 1),
  ],
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
