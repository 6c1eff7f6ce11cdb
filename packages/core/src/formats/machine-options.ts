import * as z from 'zod';
import { type MachineProfile, SHIPPED_MACHINES, machineOf } from '../base/machines';
import type { Options } from '../contracts/declaration';
import type { PlanSettings } from '../evaluate/machines/settings';

const length = (most: number) => z.coerce.number().min(0).max(most);
const mm = { unit: 'mm' } as const;

/** The machine of the bench that takes files of a standard. */
const usualFor = (language: string): string => SHIPPED_MACHINES.find((one) => one.language === language)!.id;

/** Which machine a file is for: the id of one of the bench, or a whole profile as JSON. @param language the standard of its files */
export const machineOption = (language: string) => ({
  machine: z
    .string()
    .max(40_000)
    .default(usualFor(language))
    .describe('The machine that the copy is for')
    .meta({ machines: language }),
});

/** Means something for a machine that is named. */
const known = () => ({ only: { machine: true } }) as const;

/** How a part that does not fit a machine as it is comes to fit: every choice settles a finding of the fit check. */
export const FITTING = {
  place: z
    .enum(['as drawn', 'at the origin', 'in the middle'])
    .default('as drawn')
    .describe('Where it lies: as on the board, counted from the machine’s origin, or moved onto the bed')
    .meta(known()),
  mirrored: z.enum(['no', 'yes']).default('no').describe('Mirrored, to be worked from the back').meta(known()),
  corners: z
    .enum(['asked', 'rounded', 'opened'])
    .default('asked')
    .describe('Corners tighter than the tool')
    .meta({ words: { asked: 'have to be settled', rounded: 'stay round', opened: 'are cut into' }, ...known() }),
  crossings: z
    .enum(['asked', 'united'])
    .default('asked')
    .describe('Outlines that cross themselves')
    .meta({ words: { asked: 'have to be settled', united: 'are cut around as one' }, ...known() }),
  doubles: z
    .enum(['asked', 'once', 'twice'])
    .default('asked')
    .describe('Lines that lie on each other')
    .meta({ words: { asked: 'have to be settled', once: 'are worked once', twice: 'are worked twice' }, ...known() }),
  open: z
    .enum(['asked', 'as they are'])
    .default('asked')
    .describe('Open lines where something is to be cut out')
    .meta({ words: { asked: 'have to be settled', 'as they are': 'are cut along' }, ...known() }),
  joins: length(5)
    .default(0)
    .describe('Ends nearer than this are joined')
    .meta({ ...mm, ...known() }),
  specks: length(5)
    .default(0)
    .describe('What is smaller than this is left out')
    .meta({ ...mm, ...known() }),
  leftOut: z
    .string()
    .max(20_000)
    .default('')
    .describe('Objects that are left out, by their ids')
    .meta({ objects: true, ...known() }),
};

/** Several of a part on one sheet, and marks to lay it down by again. */
export const SHEET = {
  count: z.coerce
    .number()
    .int()
    .min(1)
    .max(500)
    .default(1)
    .describe('How many of the part are laid on the bed beside each other, from its corner on')
    .meta(known()),
  spacing: length(200)
    .default(8)
    .describe('How far they lie apart')
    .meta({ ...mm, ...known() }),
  turns: z
    .enum(['none', 'quarter turns'])
    .default('none')
    .describe('Whether some may be turned where more fit then')
    .meta(known()),
  marks: z
    .enum(['none', 'drawn', 'drilled'])
    .default('none')
    .describe('Marks at three corners, by which the sheet is laid down again as it lay')
    .meta(known()),
  markAt: length(200)
    .default(10)
    .describe('How far marks are outside of all that is worked')
    .meta({ ...mm, only: { ...known().only, with: { marks: ['drawn', 'drilled'] } } }),
};

/** What areas become. */
export const ENGRAVING = {
  engraving: z
    .enum(['outlines', 'filled', 'filled and outlined'])
    .default('outlines')
    .describe('What is engraved and closed: along its outline, filled by lines, or both')
    .meta(known()),
  hatchStep: length(20)
    .default(0)
    .describe('How far such lines are apart; 0: as wide as the tool')
    .meta({ ...mm, only: { ...known().only, with: { engraving: ['filled', 'filled and outlined'] } } }),
  hatchAngle: z.coerce
    .number()
    .min(-90)
    .max(90)
    .default(0)
    .describe('At which angle such lines lie, and those that clear a pocket')
    .meta({ unit: '°', ...known() }),
};

/** In which order objects are worked. */
export const SEQUENCE = {
  sequence: z
    .enum(['short way', 'as drawn'])
    .default('short way')
    .describe('Objects one after the other by the shortest way, or as Contents lists them; holes before what they are in')
    .meta(known()),
};

/** What knives are told. */
export const KNIFE = {
  blade: length(5)
    .default(0)
    .describe('How far the tip of the blade is behind its axis: corners are swivelled around')
    .meta({ ...mm, ...known() }),
  overcut: length(20)
    .default(0)
    .describe('How far a closed outline is cut past where it began')
    .meta({ ...mm, ...known() }),
  frame: length(100)
    .default(0)
    .describe('A frame to weed by, so far around all that is cut; 0: none')
    .meta({ ...mm, ...known() }),
};

/** What tools that go into the stock are told. */
export const MILLING = {
  direction: z
    .enum(['climb', 'conventional'])
    .default('conventional')
    .describe('The turning edge goes along the feed (climb), or against it'),
  entry: z.enum(['ramp', 'plunge']).default('ramp').describe('The tool goes down along its way, or straight'),
  lead: length(50).default(0).describe('Radius of the arc by which an outline is come to and left; 0: none').meta(mm),
  finish: length(5).default(0).describe('What is left standing for a last round; 0: nothing').meta(mm),
  clearing: z.enum(['rings', 'lines']).default('rings').describe('Pockets are cleared in rings, or by lines and a last round'),
  tabs: z.coerce.number().int().min(0).max(20).default(0).describe('Bridges that hold a part in its sheet, for each outline'),
  tabLength: length(100).default(6).describe('How long a bridge is').meta(mm),
  tabHeight: length(100).default(2).describe('How high a bridge is').meta(mm),
};

export const machineOfOptions = ({ machine }: Options): MachineProfile => machineOf(String(machine));

/** Settings of a plan from the options of a target; those that it does not ask are as if nothing were wanted. */
export function planSettings(options: Options): PlanSettings {
  const number = (name: string): number => Number(options[name] ?? 0);
  return {
    machine: machineOfOptions(options),
    arcs: options['arcs'] === 'lines' ? 0.005 : true,
    direction: (options['direction'] ?? 'conventional') as PlanSettings['direction'],
    entry: (options['entry'] ?? 'plunge') as PlanSettings['entry'],
    lead: number('lead'),
    finish: number('finish'),
    tabs: number('tabs'),
    tabLength: number('tabLength'),
    tabHeight: number('tabHeight'),
    sequence: (options['sequence'] ?? 'short way') as PlanSettings['sequence'],
    blade: number('blade'),
    overcut: number('overcut'),
    frame: number('frame'),
    count: Number(options['count'] ?? 1),
    spacing: number('spacing'),
    turns: (options['turns'] ?? 'none') as PlanSettings['turns'],
    marks: (options['marks'] ?? 'none') as PlanSettings['marks'],
    markAt: number('markAt'),
    engraving: (options['engraving'] ?? 'outlines') as PlanSettings['engraving'],
    clearing: (options['clearing'] ?? 'rings') as PlanSettings['clearing'],
    hatchStep: number('hatchStep'),
    hatchAngle: number('hatchAngle'),
    place: options['place'] as PlanSettings['place'],
    mirrored: options['mirrored'] === 'yes',
    corners: options['corners'] as PlanSettings['corners'],
    crossings: options['crossings'] as PlanSettings['crossings'],
    doubles: options['doubles'] as PlanSettings['doubles'],
    open: options['open'] as PlanSettings['open'],
    joins: number('joins'),
    specks: number('specks'),
    leftOut: String(options['leftOut'] ?? '')
      .split(' ')
      .filter(Boolean),
  };
}
