import * as z from 'zod';
import type { DrawingCarries } from '../../content/drawing/features';
import type { PageCarries } from '../../content/pages/features';
import type { Declaration, Options } from '../../contracts/declaration';
import { PICTURES, SMALLER, carriesPictures } from '../picture-options';
import { PAPER } from '../texts/paper';
import { begins } from '../../base/bytes/begins';

/** Decimals of a coordinate, mm: a tenth of what a check looks at. */
export const PDF_DIGITS = 4;

/** What pages carry of a drawing. */
const sheets = ({ text, ...options }: Options): DrawingCarries => ({
  outlines: { outcome: 'approximated', words: 'what has neither fill nor line is left out', step: 0, unseen: 'left out' },
  arcs: { outcome: 'approximated', words: 'become curves', within: 0, by: 'curves' },
  curves: 'kept',
  text:
    text === 'outlines'
      ? { outcome: 'restated', words: 'becomes outlines: same look, no longer text', when: 'always' }
      : { outcome: 'restated', words: 'stays text, placed by where its lines start', when: 'never', from: 'start' },
  fills: 'kept',
  gradients: { outcome: 'restated', words: 'repeating ones are written out as far as they show', repeated: 'unrolled' },
  patterns: 'kept',
  pictures: carriesPictures(options, 'what is not a plain JPEG is packed without loss'),
  'line colours': 'kept',
  'line widths': 'kept',
  dashes: 'kept',
  'line ends': 'kept',
  pens: 'kept',
  opacity: 'kept',
  blending: 'kept',
  clips: { outcome: 'restated', words: 'those of several areas become soft masks', several: 'masked' },
  masks: 'kept',
  symbols: { outcome: 'restated', words: 'arrive as separate shapes' },
  'layer names': 'kept',
  'layer colours': 'left out',
  'board size': 'kept',
  'board names': 'kept',
  background: 'kept',
  order: 'kept',
});

/** The pages that texts are laid out on. */
const laidOut = ({ paper, letters }: Options): PageCarries['flow'] => {
  const [width, height] = PAPER[(paper ?? 'A4') as keyof typeof PAPER];
  return {
    outcome: 'restated',
    words: 'is laid out on pages',
    page: { width, height, margin: width > 180 ? 22 : 15, size: Number(letters ?? 3.7) },
  };
};

/** Pages for print and for reading. */
export const pdfDeclaration: Declaration = {
  id: 'pdf',
  label: 'PDF pages',
  offered: 20,
  standard: 'PDF 1.7 (ISO 32000-1)',
  mediaType: 'application/pdf',
  writer: '3',
  options: z.strictObject({
    version: z.enum(['1.7']).default('1.7').describe('PDF version'),
    text: z.enum(['text', 'outlines']).default('text').describe('Text stays text with its font, or becomes outlines'),
    bleed: z.coerce
      .number()
      .min(0)
      .max(50)
      .default(0)
      .describe('What lies over the edge of the board is kept this far')
      .meta({ unit: 'mm' }),
    paper: z.enum(['A4', 'A5', 'Letter']).default('A4').describe('Paper that texts are laid out on'),
    letters: z.coerce.number().min(1.5).max(20).default(3.7).describe('Size of the letters of texts').meta({ unit: 'mm' }),
    ...PICTURES,
  }),
  smaller: SMALLER,
  versions: null,
  use: () => 'delivery',
  extension: () => 'pdf',
  carries: (options) => ({
    drawing: sheets(options),
    pages: { ...sheets(options), flow: laidOut(options), links: 'left out' },
  }),
  tolerance: { drawing: 0.01 },
  holds: { leaves: 'many', files: () => 'one', mark: 'inside' },
  limits: {},
  recognise: { signature: (head) => begins(head, '%PDF-') },
};
