import { AXES, type Feature, type FeatureOp, JOINING, PLANES, type SolidOutline } from '@inkwell-twin/core/web';

/** One value of a feature that can be changed where it stands. */
export interface Field {
  readonly path: readonly (string | number)[];
  readonly label: string;
  readonly unit?: 'mm' | '°' | '';
  readonly choices?: readonly { readonly value: string; readonly label: string }[];
  /** It need not be there; what it is then. */
  readonly otherwise?: string;
}

const amount = (label: string, path: Field['path'], unit: Field['unit'] = 'mm'): Field => ({ label, path, unit });
const plain = (values: readonly string[]) => values.map((value) => ({ value, label: value }));
const plane: Field = {
  label: 'Lies',
  path: ['plane'],
  choices: PLANES.map((value) => ({ value, label: { xy: 'flat (x, y)', xz: 'upright (x, z)', yz: 'upright (y, z)' }[value] })),
};
const joining: Field = {
  label: 'Is',
  path: ['join'],
  choices: JOINING.map((value) => ({ value, label: { add: 'added', cut: 'cut away', common: 'kept where common' }[value] })),
};
const axis: Field = { label: 'Along', path: ['axis'], choices: plain(AXES) };
const spot = (name: string): Field[] => ['x', 'y', 'z'].map((label, k) => amount(label, [name, k]));

const OUTLINES: Readonly<Record<SolidOutline['shape'], readonly Field[]>> = {
  rectangle: [
    amount('Width', ['outline', 'width']),
    amount('Height', ['outline', 'height']),
    { ...amount('Corners', ['outline', 'corner']), otherwise: 'sharp' },
    amount('Middle x', ['outline', 'x']),
    amount('y', ['outline', 'y']),
  ],
  circle: [amount('Diameter', ['outline', 'diameter']), amount('Middle x', ['outline', 'x']), amount('y', ['outline', 'y'])],
  regular: [
    amount('Sides', ['outline', 'sides'], ''),
    amount('Across', ['outline', 'across']),
    amount('Middle x', ['outline', 'x']),
    amount('y', ['outline', 'y']),
  ],
  points: [],
  object: [amount('Shifted x', ['outline', 'x']), amount('y', ['outline', 'y'])],
};

const FIELDS: Readonly<Record<FeatureOp, readonly Field[]>> = {
  extrude: [plane, amount('Starts at', ['offset']), amount('By', ['by']), joining],
  revolve: [plane, amount('Angle', ['angle'], '°'), joining],
  hole: [axis, amount('Diameter', ['diameter']), { ...amount('Depth', ['depth']), otherwise: 'through' }, ...spot('at')],
  row: [amount('Count', ['count'], ''), ...spot('step').map((one) => ({ ...one, label: `Step ${one.label}` }))],
  ring: [amount('Count', ['count'], ''), amount('Every', ['angle'], '°'), { ...axis, label: 'About' }, ...spot('centre')],
  fillet: [amount('Radius', ['radius'])],
  chamfer: [amount('Distance', ['distance'])],
  file: [],
};

/** The values of a feature, its outline's among them. */
export const fieldsOf = (feature: Feature): readonly Field[] => {
  const own = FIELDS[feature.op];
  return 'outline' in feature ? [...OUTLINES[feature.outline.shape], ...own] : own;
};

/** Outlines of each shape to begin with. */
export const BEGINNINGS: Readonly<Record<SolidOutline['shape'], (object: string) => SolidOutline>> = {
  rectangle: () => ({ shape: 'rectangle', x: 0, y: 0, width: 20, height: 20 }),
  circle: () => ({ shape: 'circle', x: 0, y: 0, diameter: 20 }),
  regular: () => ({ shape: 'regular', x: 0, y: 0, sides: 6, across: 20 }),
  points: () => ({
    shape: 'points',
    points: [
      [0, 0],
      [20, 0],
      [0, 20],
    ],
  }),
  object: (object) => ({ shape: 'object', object, x: 0, y: 0 }),
};
export const SHAPE_WORDS: Readonly<Record<SolidOutline['shape'], string>> = {
  rectangle: 'a rectangle',
  circle: 'a circle',
  regular: 'equal sides',
  points: 'corners',
  object: 'an object on a board',
};
