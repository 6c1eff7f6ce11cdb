import type { BoardFeature, BoardReading } from '../../evaluate/boards/footprint';
import { machineTakes } from '../../base/machines';
import type { PlanSettings } from '../../evaluate/machines/settings';
import type { CarriesOf } from '../../contracts/kind';
import type { Machining } from '../../contracts/machining';
import { drawingFeatures } from '../drawing/features';

declare module '../../contracts/leaf' {
  interface Kinds {
    machining: { body: Machining; carries: MachiningCarries };
  }
}

/** What a target has to say of a feature that it can't hold as it is. */
export interface MachiningHows {
  /** Ways of the tool as the settings have them, stated in a unit (mm) with so many decimals. */
  ways: { readonly unit: number; readonly decimals: number; readonly settings: PlanSettings };
  curves: { readonly within: number };
  text: object;
  work: object;
  order: object;
  feed: object;
  fills: object;
  pictures: object;
  'line colours': object;
  'line widths': object;
  dashes: object;
  opacity: object;
  background: object;
}
export type MachiningCarries = CarriesOf<MachiningHows>;

const { outlines, curves, text, fills, opacity, background } = drawingFeatures;

/** The features of machining, one row each. */
export const machiningFeatures: { readonly [F in keyof MachiningHows]: BoardFeature } = {
  ways: { ...outlines, words: 'Outlines', always: true, aside: true },
  curves,
  text,
  work: {
    words: 'Process, tool and depth',
    found: ['tool changed', 'depth changed', 'missing', 'added'],
    layer: ({ process, work }) => [process, work ?? null],
    item: ({ work }) => work,
    always: true,
  },
  order: { words: 'Order of work', found: ['re-ordered'], ordered: true },
  feed: { aside: true, words: 'Feed and turns', found: ['speed changed'] },
  fills: { ...fills, found: [] },
  pictures: { words: drawingFeatures.pictures.words, found: [] },
  'line colours': { words: drawingFeatures['line colours'].words, found: [] },
  'line widths': { words: drawingFeatures['line widths'].words, found: [] },
  dashes: { words: drawingFeatures.dashes.words, found: [] },
  opacity: { words: opacity.words, found: [] },
  background: { words: background.words, found: [] },
};

/** How the plan of a target is to be made. @throws Error where a target carries none: a defect of ours */
export function settingsOf({ ways }: MachiningCarries): MachiningHows['ways'] {
  if (typeof ways !== 'object') throw new Error('a target for machines without a machine');
  return ways;
}

/** How footprints of machining read boards: only from layers that the machine has a tool for. */
export const machiningReading: BoardReading<MachiningCarries> = {
  kind: 'machining',
  features: machiningFeatures,
  takes: ({ process, work }, carries) => work?.tool !== undefined || machineTakes(process, settingsOf(carries).settings.machine),
};
