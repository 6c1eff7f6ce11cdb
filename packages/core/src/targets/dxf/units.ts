import type { DxfFile } from './records';

/** Millimetres per drawing unit, by $INSUNITS. */
const MM_PER_UNIT: Record<number, number> = {
  1: 25.4,
  2: 304.8,
  4: 1,
  5: 10,
  6: 1000,
  8: 25.4e-6,
  9: 0.0254,
  10: 914.4,
  13: 0.001,
  14: 100,
};

/** A variable of the header, as it stands there. */
function variable(file: DxfFile, wanted: string): string | undefined {
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

/** Millimetres per unit of a drawing; undefined where its header does not say. */
export const unitOf = (file: DxfFile): number | undefined => MM_PER_UNIT[Number(variable(file, '$INSUNITS') ?? 0)];

/** By how much the dashes of a drawing are larger than its line types say. */
export function lineScaleOf(file: DxfFile): number {
  const scale = Number(variable(file, '$LTSCALE') ?? 1);
  return scale > 0 && Number.isFinite(scale) ? scale : 1;
}
