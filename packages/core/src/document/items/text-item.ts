import * as z from 'zod';
import { Colour, FONTS, drawnBase, finite, positive } from '../schema-parts';

/** Space between letters, ems: less than an em together, ten apart. */
const spacing = finite.refine((value) => value > -1 && value <= 10, 'must be above -1 and at most 10');
/** Letters of a text, at most. */
export const LONGEST_TEXT = 200_000;
/** Parts of a text that look otherwise, at most. */
export const MOST_RUNS = 2000;

const place = z.number().int().nonnegative();

/** Letters `from` to before `to` of a wording, counted as strings count, that look otherwise than the rest. */
export const TextRun = z.object({
  from: place,
  to: place,
  font: z.enum(FONTS).optional(),
  size: positive.optional(),
  spacing: spacing.optional(),
  colour: Colour.optional(),
});
export type TextRun = z.infer<typeof TextRun>;

export const TextItem = z.object({
  kind: z.literal('text'),
  ...drawnBase,
  text: z.string().max(LONGEST_TEXT),
  x: finite,
  y: finite,
  /** Height of the em square, mm. */
  size: positive,
  font: z.enum(FONTS),
  align: z.enum(['start', 'middle', 'end']),
  /** Space between letters beyond what the font gives, ems. */
  spacing: spacing.optional(),
  /** Distance between baselines, ems of the largest letters of a line. */
  leading: positive.optional(),
  /** Of the box that lines are broken to fit, mm: it lies right of, about or left of the place, by the alignment. */
  width: positive.optional(),
  runs: z.array(TextRun).max(MOST_RUNS).optional(),
  /** `{name}` in the wording is filled in with what the parameters are worth. */
  slots: z.literal(true).optional(),
});
export type TextItem = z.infer<typeof TextItem>;
