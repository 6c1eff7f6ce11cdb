import * as z from 'zod';
import { ORIGIN } from '../../document/native/origin';
import type { DrawingCarries, LineOfText } from '../../content/drawing/features';
import type { Declaration } from '../../contracts/declaration';

export const OLDEST = 'native 1';
const [FIRST, SECOND] = [OLDEST, 'native 2'] as const;

/** The fonts that both had. */
const FONTS: ReadonlySet<string> = new Set(['Commissioner', 'Commissioner Bold']);
const isPlainLine = ({ font, spacing, style: { fill, stroke } }: LineOfText): boolean =>
  FONTS.has(font) && !spacing && typeof fill === 'string' && stroke === null;
const isStraight = ({ frame: [a, b, c, d] }: LineOfText): boolean =>
  Math.abs(a - 1) + Math.abs(b) + Math.abs(c) + Math.abs(d - 1) < 1e-9;

/** What both versions hold. */
const both: DrawingCarries = {
  outlines: 'kept',
  arcs: { outcome: 'approximated', words: 'become curves', within: 0, by: 'curves' },
  curves: 'kept',
  text: {
    outcome: 'restated',
    words: 'becomes outlines where it is spaced, lined or in another font than Commissioner',
    when: 'unlike',
    from: 'start',
    like: isPlainLine,
  },
  fills: { outcome: 'restated', words: 'those by the even-odd rule become areas that do not cross', rule: 'nonzero' },
  gradients: { outcome: 'approximated', words: 'become one colour' },
  patterns: 'left out',
  pictures: { outcome: 'restated', words: 'what is neither PNG nor JPEG, cropped or corrected, becomes PNG', cut: 'at pixels' },
  'line colours': 'kept',
  'line widths': 'kept',
  dashes: 'left out',
  'line ends': 'left out',
  pens: 'left out',
  opacity: {
    outcome: 'approximated',
    words: 'of fill and line together',
    of: 'all',
    steps: 0,
    shares: 'one',
  },
  blending: 'left out',
  clips: 'left out',
  masks: 'left out',
  symbols: { outcome: 'restated', words: 'stay symbols where they are only moved, turned and scaled evenly', kept: 'alike' },
  'layer names': 'kept',
  'layer colours': 'kept',
  'board size': 'kept',
  sheets: 'kept',
  'board names': 'kept',
  background: 'kept',
  order: 'kept',
};

/** Version 1 has neither symbols nor opacity, and nothing in it is turned. */
const oldest: DrawingCarries = {
  ...both,
  text: {
    ...(both.text as Exclude<typeof both.text, string>),
    words: 'becomes outlines where it is turned, spaced, lined or in another font than Commissioner',
    like: (line) => isPlainLine(line) && isStraight(line),
  },
  pictures: { ...(both.pictures as Exclude<typeof both.pictures, string>), turned: 'left out' },
  opacity: 'left out',
  symbols: { outcome: 'restated', words: 'arrive as separate shapes' },
};

/** Masters for whoever works with an older version of this program. */
export const nativeDeclaration: Declaration = {
  id: 'native',
  label: 'Older native version',
  offered: 90,
  standard: 'Native format of this program, versions 1 and 2',
  mediaType: 'application/zip',
  writer: '2',
  options: z.strictObject({
    version: z
      .enum([FIRST, SECOND])
      .default(SECOND)
      .describe('Native version')
      .meta({ words: { [FIRST]: '1: a folder project, packed into one archive', [SECOND]: '2: a package' } }),
  }),
  versions: { option: 'version', values: [FIRST, SECOND] },
  use: () => 'older',
  extension: ({ version }) => (version === FIRST ? 'zip' : 'inkwell'),
  carries: ({ version }) => ({ drawing: version === FIRST ? oldest : both }),
  tolerance: { drawing: 0.01 },
  holds: { leaves: 'many', files: () => 'one', mark: 'inside' },
  limits: {},
  recognise: {
    structure: (_head, entries) =>
      entries.some((name) => name === ORIGIN) &&
      entries.some((name) => name === 'manifest.json' || name.toLowerCase().endsWith('.inkfolio')),
  },
};
