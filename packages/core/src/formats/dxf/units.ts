import type { DxfFile } from './records';

/** Millimetres per drawing unit, by $INSUNITS. */
const MM_PER_UNIT: Record<number, number> = {
  1: 25.4,
  2: 304.8,
  3: 1_609_344,
  4: 1,
  5: 10,
  6: 1000,
  7: 1e6,
  8: 25.4e-6,
  9: 0.0254,
  10: 914.4,
  11: 1e-7,
  12: 1e-6,
  13: 0.001,
  14: 100,
  15: 1e4,
  16: 1e5,
  17: 1e12,
  // Of the surveys of the United States: a foot is 1200/3937 m (NIST SP 811, appendix B.6).
  21: 1_200_000 / 3937,
  22: 100_000 / 3937,
  23: 3_600_000 / 3937,
  24: (1_200_000 * 5280) / 3937,
};

/** A variable of the header, as it stands there. */
export function variable(file: DxfFile, wanted: string): string | undefined {
  let [name, stated]: [string, string | undefined] = ['', undefined];
  file.sections
    .get('HEADER')
    ?.at(0)
    ?.each((code, _number, text) => {
      if (code === 9) name = text().trim();
      else if (name === wanted) stated = text().trim();
    });
  return stated;
}

/** The number of the unit that a drawing states; 0 where it states none. */
export const statedUnit = (file: DxfFile): number => Number(variable(file, '$INSUNITS') ?? 0);

/** Millimetres per unit of a drawing; undefined where its header does not say. */
export const unitOf = (file: DxfFile): number | undefined => MM_PER_UNIT[statedUnit(file)];

/** By how much the dashes of a drawing are larger than its line types say. */
export function lineScaleOf(file: DxfFile): number {
  const scale = Number(variable(file, '$LTSCALE') ?? 1);
  return scale > 0 && Number.isFinite(scale) ? scale : 1;
}
