import * as z from 'zod';
import type { Declaration, Options } from '../../contracts/declaration';
import type { StitchSettings } from '../../evaluate/stitches/settings';
import { UNDERLAYS } from '../../base/machines/processes';
import { FITTING, machineOfOptions, machineOption } from '../machine-options';

/** A list of our own, described in docs/stitch-list.md. */
const LANGUAGE = 'Stitch list';
/** What a list begins with. */
export const HEAD = 'inkwell-stitches,1';
/** mm */
export const STEP = 0.1;

const mm = { unit: 'mm' } as const;
const { place, mirrored, leftOut } = FITTING;

function settingsOf(options: Options): StitchSettings {
  return {
    machine: machineOfOptions(options),
    place: options['place'] as StitchSettings['place'],
    mirrored: options['mirrored'] === 'yes',
    leftOut: String(options['leftOut'] ?? '')
      .split(' ')
      .filter(Boolean),
    length: Number(options['length']),
    density: Number(options['density']),
    pull: Number(options['pull']),
    under: options['under'] as StitchSettings['under'],
    trimOver: Number(options['trimOver']),
    narrow: options['narrow'] as StitchSettings['narrow'],
    letters: options['letters'] as StitchSettings['letters'],
    order: options['order'] as StitchSettings['order'],
  };
}

/** Lists of stitches for needle machines. */
export const stitchDeclaration: Declaration = {
  id: 'stitch',
  label: 'Stitches (list)',
  offered: 84,
  standard: LANGUAGE,
  mediaType: 'text/csv',
  writer: '1',
  options: z.strictObject({
    ...machineOption(LANGUAGE),
    letters: z
      .enum(['of the needle', 'as drawn'])
      .default('of the needle')
      .describe('Text in letters made for the needle, or by its outlines'),
    density: z.coerce.number().min(0.2).max(5).default(0.4).describe('How far apart rows are').meta(mm),
    length: z.coerce.number().min(0.5).max(12).default(2.5).describe('The longest stitch along a line').meta(mm),
    pull: z.coerce
      .number()
      .min(0)
      .max(2)
      .default(0.2)
      .describe('How much wider it is sewn, for the pull of the threads')
      .meta(mm),
    under: z.enum(UNDERLAYS).default('edge').describe('What is sewn under columns and areas first'),
    trimOver: z.coerce.number().min(0.5).max(12).default(2).describe('A gap that is wider has its thread cut').meta(mm),
    order: z
      .enum(['few threads', 'as drawn'])
      .default('few threads')
      .describe('An order with few changes of thread, or that of the board'),
    narrow: z
      .enum(['asked', 'along'])
      .default('asked')
      .describe('Columns that are too narrow for satin')
      .meta({ words: { asked: 'have to be settled', along: 'are sewn along' } }),
    place: place.default('in the middle'),
    mirrored,
    leftOut,
  }),
  versions: null,
  use: () => 'machine',
  extension: () => 'stitches',
  carries: (options) => ({
    stitching: {
      ways: { outcome: 'restated', words: 'become stitches', step: STEP, settings: settingsOf(options) },
      text: { outcome: 'restated', words: 'is sewn letter by letter' },
      work: { outcome: 'restated', words: 'is worked out into stitches' },
      threads: { outcome: 'restated', words: 'become threads' },
      'line widths': { outcome: 'restated', words: 'become columns' },
      order: { outcome: 'restated', words: 'is such that threads change seldom' },
      pictures: 'left out',
      dashes: 'left out',
      opacity: 'left out',
      background: 'left out',
    },
  }),
  tolerance: { stitching: 0.01 },
  holds: { leaves: 'one', files: () => 'one', mark: 'inside' },
  limits: {},
  recognise: {
    shape: (head) =>
      new TextDecoder('latin1')
        .decode(head.subarray(0, 200))
        .replace(/^\uFEFF|^ï»¿/, '')
        .startsWith(HEAD),
  },
};
