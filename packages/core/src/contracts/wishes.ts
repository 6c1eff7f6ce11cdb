import * as z from 'zod';
import { Failure } from '../base/failure/failure';
import { ENCODINGS } from '../base/bytes/encodings';
import { UNIT_NAMES } from '../base/bytes/units';

/** What is wished of a file that comes in: of parts that a master can't hold as they are, and how a text of cells is read. */
const PartWishesSchema = z.strictObject({
  ppi: z.coerce.number().min(36).max(1200).default(300).describe('Pixels per inch of the pictures that they become'),
  parts: z
    .enum(['as pictures', 'left out'])
    .default('as pictures')
    .describe('Each comes in as a picture of itself, or stays away'),
  fonts: z
    .enum(['as outlines', 'nearest'])
    .default('as outlines')
    .describe('Text in a font that the file carries becomes outlines of its letters, or stays text in the nearest shipped font'),
  encoding: z.enum(ENCODINGS).optional().describe('How the letters of a text are encoded; found where nothing is said'),
  delimiter: z.enum(['comma', 'semicolon', 'tab', 'bar']).optional().describe('What stands between its cells'),
  decimal: z.enum(['point', 'comma']).optional().describe('The decimal mark of its numbers'),
  unit: z.enum(UNIT_NAMES).optional().describe('What one number of a file of triangles is'),
  up: z.enum(['z', 'y']).optional().describe('The axis of a file of triangles that points up'),
  dates: z.enum(['year first', 'day first', 'month first']).optional().describe('The order of its dates'),
  heading: z.enum(['first row', 'none']).optional().describe('Whether its first row is a heading'),
  quotes: z.enum(['double', 'apostrophe']).optional().describe('The marks around cells that hold the delimiter'),
  lines: z
    .enum(['paragraphs', 'parts of paragraphs'])
    .optional()
    .describe('Whether each line of a plain text is a paragraph, or empty lines part them; found where nothing is said'),
});
export type PartWishes = z.infer<typeof PartWishesSchema>;

/** Wishes as somebody states them, what is not stated as usual. @throws Failure `option-invalid` */
export function partWishes(stated: Readonly<Record<string, unknown>> = {}): PartWishes {
  const parsed = PartWishesSchema.safeParse(stated);
  if (parsed.success) return parsed.data;
  const issue = parsed.error.issues[0]!;
  const known = Object.keys(PartWishesSchema.shape).join(', ');
  throw new Failure('option-invalid', `How it comes in: ${issue.path.join('.')} ${issue.message}. What can be said: ${known}.`);
}
