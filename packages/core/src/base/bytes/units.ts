/** Millimetres of each unit. */
export const UNITS = { mm: 1, cm: 10, m: 1000, inch: 25.4, ft: 304.8 } as const;
export type UnitName = keyof typeof UNITS;
export const UNIT_NAMES = Object.keys(UNITS) as UnitName[];
export const UPS = ['z', 'y'] as const;
export type Up = (typeof UPS)[number];
