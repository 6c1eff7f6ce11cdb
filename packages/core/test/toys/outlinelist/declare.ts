import * as z from 'zod';
import type { Declaration } from '../../../src';

/** Outlines stand on a grid of so many millimetres. */
const STEP = 0.5;

/** A toy: outlines, listed in plain words. */
export const declaration: Declaration = {
  id: 'outlinelist',
  label: 'List of outlines',
  standard: 'none, it is a toy',
  mediaType: 'text/plain',
  writer: '1',
  options: z.strictObject({
    note: z.string().max(80).default('none').describe('Words for the head of the list'),
    numbered: z.boolean().default(false).describe('Outlines are numbered'),
    indent: z.coerce.number().int().min(0).max(8).default(0).describe('Blanks before each outline').meta({ unit: 'blanks' }),
  }),
  versions: null,
  use: () => 'data',
  extension: () => 'txt',
  carries: () => ({
    drawing: {
      outlines: { outcome: 'approximated', words: `are rounded to steps of ${STEP} mm`, step: STEP },
      arcs: 'kept',
      curves: { outcome: 'approximated', words: 'become arcs and lines', by: 'arcs', within: 0.1 },
      text: { outcome: 'restated', words: 'becomes outlines', when: 'always' },
      fills: 'left out',
      gradients: 'left out',
      patterns: 'left out',
      pictures: 'left out',
      dashes: 'left out',
      'line ends': 'left out',
      pens: 'left out',
      'line colours': 'left out',
      'line widths': 'left out',
      opacity: 'left out',
      blending: 'left out',
      clips: 'left out',
      masks: 'left out',
      symbols: { outcome: 'restated', words: 'arrive as separate shapes' },
      'layer names': 'kept',
      'layer colours': 'left out',
      'board size': 'left out',
      sheets: 'kept',
      'board names': 'left out',
      background: 'left out',
      order: 'left out',
    },
  }),
  tolerance: { drawing: 0.01 },
  holds: { leaves: 'one', files: () => 'one', mark: 'inside' },
  limits: {},
  recognise: { structure: (head) => new TextDecoder('latin1').decode(head).startsWith('outlines, ') },
};
