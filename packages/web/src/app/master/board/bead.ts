import type { Correction, CorrectionKind } from '@inkwell-twin/core/web';

/** A number of a correction that a person may set. */
export interface BeadNumber {
  readonly attribute: string;
  readonly label: string;
  readonly unit: string;
  readonly least: number;
  readonly most: number;
  readonly step: number;
}

interface Bead {
  /** One as it is when it is put on the string: it does something that can be seen. */
  readonly fresh: Correction;
  readonly numbers: readonly BeadNumber[];
  readonly colour?: string;
}

const number = (attribute: string, label: string, unit: string, least: number, most: number, step: number): BeadNumber => ({
  attribute,
  label,
  unit,
  least,
  most,
  step,
});

/** How each correction is set, in the order in which they are offered. */
export const BEADS: { readonly [K in CorrectionKind]: Bead } = {
  levels: {
    fresh: { kind: 'levels', black: 0.05, white: 0.95, gamma: 1 },
    numbers: [
      number('black', 'Darkest', '', 0, 1, 0.01),
      number('white', 'Lightest', '', 0, 1, 0.01),
      number('gamma', 'Between', 'γ', 0.1, 10, 0.05),
    ],
  },
  exposure: { fresh: { kind: 'exposure', stops: 0.5 }, numbers: [number('stops', 'Light', 'stops', -5, 5, 0.1)] },
  contrast: { fresh: { kind: 'contrast', amount: 0.2 }, numbers: [number('amount', 'Contrast', '', -1, 1, 0.05)] },
  saturation: { fresh: { kind: 'saturation', amount: 1.3 }, numbers: [number('amount', 'Colour', '×', 0, 3, 0.05)] },
  'white point': { fresh: { kind: 'white point', colour: '#fff2dd' }, numbers: [], colour: 'To be neutral' },
  'single ink': { fresh: { kind: 'single ink', colour: '#1f3a5f' }, numbers: [], colour: 'Ink' },
  sharpen: {
    fresh: { kind: 'sharpen', radius: 1.5, amount: 0.8 },
    numbers: [number('radius', 'Radius', 'px', 0.3, 50, 0.1), number('amount', 'Amount', '', 0, 5, 0.1)],
  },
  blur: { fresh: { kind: 'blur', radius: 4 }, numbers: [number('radius', 'Radius', 'px', 0.3, 200, 0.5)] },
  straighten: { fresh: { kind: 'straighten', angle: 1 }, numbers: [number('angle', 'Turn', '°', -45, 45, 0.1)] },
  'cut-out': {
    fresh: { kind: 'cut-out', by: 'colour', colour: '#ffffff', distance: 12, points: [], soft: 2 },
    numbers: [number('distance', 'Distance', 'ΔE', 0, 150, 1), number('soft', 'Soft edge', 'px', 0, 100, 0.5)],
    colour: 'Takes away',
  },
};
export const KINDS = Object.keys(BEADS) as CorrectionKind[];
