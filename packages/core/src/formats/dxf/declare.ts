import { isBinary } from './binary';
import * as z from 'zod';
import type { Declaration, Options } from '../../contracts/declaration';
import { PALETTE } from './colours';
import { blockName, layerName } from './names';

/** Line widths that group 370 may hold, in mm. */
const LINE_WIDTHS = [0, 5, 9, 13, 15, 18, 20, 25, 30, 35, 40, 50, 53, 60, 70, 80, 90, 100, 106, 120, 140, 158, 200, 211].map(
  (hundredths) => hundredths / 100,
);

/** Versions of the format that can be written, oldest first. */
const VERSIONS = ['R12', '2000', '2004', '2007', '2010', '2013', '2018'] as const;
export type DxfVersion = (typeof VERSIONS)[number];
/** Whether a version has what came with another (DXF reference, of each). */
export const hasSince = (version: DxfVersion, since: DxfVersion): boolean => VERSIONS.indexOf(version) >= VERSIONS.indexOf(since);

/** Whether pictures stand beside. */
const beside = ({ version, pictures }: Partial<Options>): boolean => pictures === 'files beside' && version !== 'R12';

/** Whether a text begins with a section, after remarks (group 999) and empty lines; each line is looked at once. */
function beginsAsText(text: string): boolean {
  const lines = text.split('\n');
  for (let at = 0; at < lines.length; at++) {
    const code = lines[at]!.trim();
    if (code === '999') at++;
    else if (code) return code === '0' && /^\s*SECTION\b/.test(lines[at + 1] ?? '');
  }
  return false;
}

/** Drawings for programs that draw to scale. */
export const dxfDeclaration: Declaration = {
  id: 'dxf',
  label: 'Drawing interchange (DXF)',
  offered: 70,
  standard: 'DXF reference, AC1009 to AC1032',
  mediaType: 'image/vnd.dxf',
  writer: '7',
  options: z.strictObject({
    version: z.enum(VERSIONS).default('2000').describe('Version of the format'),
    encoding: z
      .enum(['text', 'binary'])
      .default('text')
      .describe('Text can be read by eye; the binary form is faster to read, mostly smaller, and not every program takes it'),
    curves: z
      .enum(['as the version allows', 'arcs', 'short lines'])
      .default('as the version allows')
      .describe('Free curves: splines where there are any, arcs, or short lines'),
    text: z.enum(['text', 'outlines']).default('text').describe('Text stays text, or becomes outlines that need no font'),
    symbols: z
      .enum(['blocks', 'opened'])
      .default('blocks')
      .describe('Symbols are blocks that are inserted, or arrive as separate shapes: some machines read no blocks'),
    fills: z
      .enum(['left out', 'hatches'])
      .default('left out')
      .describe('What is filled, from version 2000: machines that follow lines want none of it'),
    pictures: z
      .enum(['left out', 'files beside'])
      .default('left out')
      .describe('Pictures, from version 2000: files that stand beside the drawing, which refers to them'),
    chord: z.coerce
      .number()
      .min(0.001)
      .max(1)
      .default(0.01)
      .describe('What stands for a curve is at most this far off')
      .meta({ unit: 'mm' }),
  }),
  versions: { option: 'version', values: VERSIONS },
  ages: true,
  use: () => 'older',
  extension: () => 'dxf',
  carries: ({ version, curves, text, chord, fills, symbols, pictures }) => {
    const r12 = version === 'R12';
    // True colours and what lets through came with 2004.
    const exact = hasSince(version as DxfVersion, '2004');
    const palette = exact ? null : PALETTE;
    const nearest = { outcome: 'approximated', words: 'become the nearest of the format’s colours' } as const;
    const within = Number(chord);
    const spelt = 'are spelt as the format allows';
    return {
      drawing: {
        outlines: 'kept',
        arcs: 'kept',
        curves:
          curves === 'short lines'
            ? { outcome: 'approximated', words: 'become short lines', by: 'chords', within }
            : curves === 'arcs' || r12
              ? { outcome: 'approximated', words: 'become arcs and lines', by: 'arcs', within }
              : 'kept',
        text: {
          outcome: 'restated',
          words: text === 'outlines' ? 'becomes outlines: same look, no longer text' : 'becomes outlines where it is slanted',
          when: text === 'outlines' ? 'always' : 'slanted',
        },
        fills:
          fills === 'hatches' && !r12
            ? {
                outcome: 'restated',
                words: 'become hatches that stand by themselves, filled by odd parity',
                apart: true,
                palette,
              }
            : 'left out',
        gradients:
          exact && fills === 'hatches'
            ? { outcome: 'approximated', words: 'become two colours across the shape, those of lines one', across: 'box' }
            : { outcome: 'approximated', words: 'become one colour' },
        pictures: beside({ version, pictures })
          ? { outcome: 'restated', words: 'are files beside, other formats PNG' }
          : 'left out',
        patterns:
          fills === 'hatches' && !r12
            ? { outcome: 'restated', words: 'become hatches, one for each family of lines', lines: 'families' }
            : 'left out',
        'line colours': {
          ...(exact ? { outcome: 'restated', words: 'of what has none become the layer’s' } : nearest),
          palette,
          unstroked: 'layer colour',
        },
        'line widths': r12
          ? 'left out'
          : { outcome: 'approximated', words: 'become the nearest standard width', widths: LINE_WIDTHS },
        dashes: { outcome: 'restated', words: 'become line types, from the start of each line' },
        'line ends': 'left out',
        pens: 'left out',
        opacity: exact
          ? { outcome: 'restated', words: 'of objects is kept, that of groups is left out', of: 'objects', steps: 255 }
          : 'left out',
        blending: 'left out',
        clips: 'left out',
        masks: 'left out',
        symbols:
          symbols === 'blocks'
            ? { outcome: 'restated', words: 'become blocks that are inserted, a block for each scale', kept: 'alike' }
            : { outcome: 'restated', words: 'arrive as separate shapes' },
        'layer names': { outcome: 'restated', words: spelt, spelt: ({ name }) => layerName(name, r12) },
        'layer colours': exact ? 'kept' : { ...nearest, palette: PALETTE },
        'board size': 'left out',
        sheets: 'kept',
        'board names': { outcome: 'restated', words: spelt, spelt: (name) => blockName(name, r12) },
        background: 'left out',
        order: 'left out',
      },
    };
  },
  tolerance: { drawing: 0.01 },
  holds: { leaves: 'many', files: (options) => (beside(options) ? 'many' : 'one'), mark: 'inside' },
  limits: {},
  recognise: {
    signature: isBinary,
    structure: (head) => beginsAsText(new TextDecoder('latin1').decode(head)),
  },
};
