import * as z from 'zod';
import type { DrawingCarries } from '../../content/drawing/features';
import type { PageCarries } from '../../content/pages/features';
import type { Declaration, Options } from '../../contracts/declaration';
import { DESCRIPTION, describes } from '../description-option';
import { PICTURES, SMALLER, carriesPictures } from '../picture-options';
import {
  type SheetMarks,
  type SheetPlan,
  type SheetWay,
  SHEET_MARKS,
  SHEET_WAYS,
  aroundPage,
} from '../../base/geometry/sheet-plan';
import { PAPER, SHEET_PAPER } from '../texts/paper';
import { namelessLayer } from '../../base/naming/nameless';
import { begins } from '../../base/bytes/begins';

/** Versions and grades: those of `A` keep for good. */
export const PDF_VERSIONS = ['1.4', '1.7', '2.0', 'A-2b', 'A-3b'] as const;
export type PdfVersion = (typeof PDF_VERSIONS)[number];

/** Decimals of a coordinate, mm: a tenth of what a check looks at. */
export const PDF_DIGITS = 4;

/** What a printer's sheets are, as the report says it. */
const WAYS: Readonly<Record<SheetWay, string>> = {
  each: 'get marks around them',
  spreads: 'have two pages beside each other',
  folded: 'have two pages beside each other, in the order that folding asks for',
  gathered: 'have as many pages as fit',
  repeated: 'have one page as often as it fits',
};

/** What options make of pages. Options of copies from before there were sheets have none of them. */
const planOf = ({ sheets = 'each', marks = 'none', bleed = 0, onto = 'A4', gap = 0 }: Options): SheetPlan => ({
  way: sheets as SheetWay,
  marks: marks as SheetMarks,
  bleed: Number(bleed),
  onto: SHEET_PAPER[onto as keyof typeof SHEET_PAPER],
  gap: Number(gap),
});

/** What lies around the edge of each page in the file: what is kept there, and all with room for marks, mm. */
export function pdfEdges(options: Options): { readonly bleed: number; readonly around: number } {
  const plan = planOf(options);
  return { bleed: plan.way === 'each' ? plan.bleed : 0, around: aroundPage(plan) };
}

const sheetsOf = (options: Options): DrawingCarries['sheets'] => {
  const plan = planOf(options);
  if (plan.way === 'each' && plan.marks === 'none') return 'kept';
  return { outcome: 'restated', words: WAYS[plan.way], plan };
};

/** What pages carry of a drawing. */
const carriesOfBoards = ({ text, ...options }: Options): DrawingCarries => ({
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
  // Optional content came with 1.5 (ISO 32000-1, 8.11.1).
  'layer names':
    options['version'] === '1.4'
      ? { outcome: 'approximated', words: 'are lost: all is on one layer', spelt: () => namelessLayer() }
      : 'kept',
  'layer colours': 'left out',
  'board size': 'kept',
  'board names': 'kept',
  background: 'kept',
  order: 'kept',
  sheets: sheetsOf(options),
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
  standard: 'PDF 1.7 (ISO 32000-1), 1.4, 2.0 (ISO 32000-2), PDF/A-2b and A-3b (ISO 19005)',
  mediaType: 'application/pdf',
  writer: '5',
  options: z.strictObject({
    version: z
      .enum(PDF_VERSIONS)
      .default('1.7')
      .describe('PDF version')
      .meta({
        words: {
          '1.4': '1.4: for old programs, without layers',
          '1.7': '1.7: for most',
          '2.0': '2.0',
          'A-2b': 'A-2b: to keep for good',
          'A-3b': 'A-3b: to keep for good, may carry files',
        },
      }),
    inside: z
      .enum(['nothing', 'master'])
      .default('nothing')
      .describe('What travels inside')
      .meta({ words: { nothing: 'The pages alone', master: 'The native master, too' } }),
    text: z.enum(['text', 'outlines']).default('text').describe('Text stays text with its font, or becomes outlines'),
    bleed: z.coerce
      .number()
      .min(0)
      .max(50)
      .default(0)
      .describe('What lies over the edge of the board is kept this far')
      .meta({ unit: 'mm', only: { part: 'boards' } }),
    marks: z
      .enum(SHEET_MARKS)
      .default('none')
      .describe('Marks outside of the edge')
      .meta({
        words: { none: 'None', cut: 'Where it is cut', 'cut and register': 'Where it is cut, and to lay plates over each other' },
      }),
    sheets: z
      .enum(SHEET_WAYS)
      .default('each')
      .describe('How pages get onto sheets')
      .meta({
        words: {
          each: 'Each by itself',
          spreads: 'Two beside each other',
          folded: 'To fold and staple',
          gathered: 'As many as fit',
          repeated: 'Each as often as it fits',
        },
      }),
    onto: z
      .enum(Object.keys(SHEET_PAPER) as [keyof typeof SHEET_PAPER])
      .default('A4')
      .describe('Paper that several pages get onto')
      .meta({ only: { with: { sheets: ['gathered', 'repeated'] } } }),
    gap: z.coerce
      .number()
      .min(0)
      .max(100)
      .default(0)
      .describe('Between pages on one paper')
      .meta({ unit: 'mm', only: { with: { sheets: ['gathered', 'repeated'] } } }),
    paper: z
      .enum(['A4', 'A5', 'Letter'])
      .default('A4')
      .describe('Paper that texts are laid out on')
      .meta({ only: { part: 'texts' } }),
    letters: z.coerce
      .number()
      .min(1.5)
      .max(20)
      .default(3.7)
      .describe('Size of the letters of texts')
      .meta({ unit: 'mm', only: { part: 'texts' } }),
    ...DESCRIPTION,
    ...PICTURES,
  }),
  describes,
  smaller: SMALLER,
  clash: ({ version, inside }) =>
    version === 'A-2b' && inside === 'master'
      ? 'PDF/A-2b may not carry a master inside (ISO 19005-2, 6.8). Choose A-3b, which may, or let the pages travel alone.'
      : null,
  // What is to be kept must be readable for good (ISO 19005-2, 6.1.3).
  locks: ({ version }) => (String(version).startsWith('A-') ? null : 'AES-256 (ISO 32000-2, 7.6)'),
  encloses: ({ inside }) => inside === 'master',
  named: ({ version }) => (version === '1.7' ? '' : String(version)),
  versions: null,
  use: ({ version }) => (String(version).startsWith('A-') ? 'keep' : 'delivery'),
  alsoFor: { keep: { version: 'A-2b' } },
  extension: () => 'pdf',
  carries: (options) => ({
    drawing: carriesOfBoards(options),
    pages: { ...carriesOfBoards(options), flow: laidOut(options), links: 'left out' },
  }),
  tolerance: { drawing: 0.01 },
  holds: { leaves: 'many', files: () => 'one', mark: 'inside' },
  limits: {},
  recognise: { signature: (head) => begins(head, '%PDF-') },
};
