import type { BoardFeature, BoardReading } from '../../evaluate/boards/footprint';
import { machineTakes } from '../../base/machines';
import type { StitchSettings } from '../../evaluate/stitches/settings';
import type { CarriesOf } from '../../contracts/kind';
import type { Machining } from '../../contracts/machining';
import { drawingFeatures } from '../drawing/features';

declare module '../../contracts/leaf' {
  interface Kinds {
    stitching: { body: Machining; carries: StitchingCarries };
  }
}

/** What a target has to say of a feature that it can't hold as it is. */
export interface StitchingHows {
  /** Stitches as the settings have them, on a grid of so many mm. */
  ways: { readonly step: number; readonly settings: StitchSettings };
  text: object;
  work: object;
  threads: object;
  'line widths': object;
  order: object;
  pictures: object;
  dashes: object;
  opacity: object;
  background: object;
}
export type StitchingCarries = CarriesOf<StitchingHows>;

const { outlines, text, opacity, background } = drawingFeatures;

/** The features of stitching, one row each. */
export const stitchingFeatures: { readonly [F in keyof StitchingHows]: BoardFeature } = {
  ways: { ...outlines, words: 'Outlines', aside: true, found: [...outlines.found, 'motion changed', 'trim changed'] },
  text,
  work: {
    words: 'How it is sewn',
    found: ['missing', 'added', 'moved', 'thread changed'],
    layer: ({ process, work }) => [process, work ?? null],
    item: ({ work }) => work,
    always: true,
  },
  threads: {
    words: 'Colours of threads',
    found: ['thread changed'],
    item: ({ style: { fill, stroke } }) => [fill ?? null, stroke ?? null],
    always: true,
  },
  'line widths': {
    words: 'Widths of lines',
    found: ['moved', 'missing', 'added'],
    item: ({ style }) => (style.stroke ? style.strokeWidth : undefined),
    always: true,
  },
  order: { words: 'Order of work', found: ['re-ordered'], ordered: true },
  pictures: { words: drawingFeatures.pictures.words, found: [] },
  dashes: { words: drawingFeatures.dashes.words, found: [] },
  opacity: { words: opacity.words, found: [] },
  background: { words: background.words, found: [] },
};

/** How stitches of a target are to be made. @throws Error where a target carries none: a defect of ours */
export function stitchesOf({ ways }: StitchingCarries): StitchingHows['ways'] {
  if (typeof ways !== 'object') throw new Error('a target for needles without a needle');
  return ways;
}

/** How footprints of stitching read boards: only from layers that the machine has a needle for. */
export const stitchingReading: BoardReading<StitchingCarries> = {
  kind: 'stitching',
  features: stitchingFeatures,
  takes: ({ process, work }, carries) =>
    work?.tool !== undefined || (process === 'stitch' && machineTakes(process, stitchesOf(carries).settings.machine)),
};
