import * as z from 'zod';
import { beginningText } from '../beginning';
import { DESCRIPTION, describes } from '../description-option';
import { PICTURES, SMALLER, carriesPictures } from '../picture-options';
import type { Declaration } from '../../contracts/declaration';

/** Drawings for the web and for other drawing programs. */
export const svgDeclaration: Declaration = {
  id: 'svg',
  label: 'SVG drawing',
  offered: 10,
  standard: 'SVG 1.1 (Second Edition)',
  mediaType: 'image/svg+xml',
  writer: '5',
  options: z.strictObject({
    version: z.enum(['1.1']).default('1.1').describe('SVG version'),
    text: z.enum(['text', 'outlines']).default('text').describe('Text stays text, or becomes outlines that need no font'),
    symbols: z.enum(['used', 'opened']).default('used').describe('Symbols are drawn once and used, or arrive as separate shapes'),
    precision: z.coerce.number().int().min(2).max(6).default(3).describe('Decimals of a coordinate').meta({ unit: 'of a mm' }),
    sheets: z
      .enum(['one file', 'a file each'])
      .default('one file')
      .describe('Several boards stand below each other in one file, or each has a file'),
    ...DESCRIPTION,
    ...PICTURES,
  }),
  describes,
  smaller: SMALLER,
  versions: null,
  use: () => 'delivery',
  extension: () => 'svg',
  carries: ({ text, symbols, ...options }) => ({
    drawing: {
      outlines: 'kept',
      arcs: 'kept',
      curves: 'kept',
      text:
        text === 'outlines'
          ? { outcome: 'restated', words: 'becomes outlines: same look, no longer text', when: 'always' }
          : 'kept',
      fills: 'kept',
      gradients: 'kept',
      patterns: 'kept',
      pictures: carriesPictures(options, 'what is neither PNG nor JPEG, or is corrected, becomes PNG'),
      'line colours': 'kept',
      'line widths': 'kept',
      dashes: 'kept',
      'line ends': 'kept',
      pens: 'kept',
      opacity: 'kept',
      blending: 'kept',
      clips: 'kept',
      masks: 'kept',
      symbols: symbols === 'used' ? 'kept' : { outcome: 'restated', words: 'arrive as separate shapes' },
      'layer names': 'kept',
      'layer colours': 'left out',
      'board size': 'kept',
      sheets: 'kept',
      'board names': 'kept',
      background: 'kept',
      order: 'kept',
    },
  }),
  tolerance: { drawing: 0.01 },
  holds: { leaves: 'many', files: ({ sheets }) => (sheets === 'a file each' ? 'many' : 'one'), mark: 'inside' },
  limits: {},
  recognise: {
    structure: (head) => {
      const start = beginningText(head);
      // A page may show drawings: it is a page all the same.
      if (/^\W*<(!doctype\s+html|html|head|body)\b/i.test(start)) return false;
      return /<(?:[\w.-]+:)?svg[\s>]/.test(start) || /^\s*<\?xml[\s\S]*<(!DOCTYPE\s+)?svg/.test(start);
    },
  },
};
