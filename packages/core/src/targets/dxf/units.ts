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

/** Millimetres per unit of a drawing; undefined where its header does not say. */
export function unitOf(file: DxfFile): number | undefined {
  let [name, stated] = ['', '0'];
  file.sections.get('HEADER')?.[0]?.each((code, _number, text) => {
    if (code === 9) name = text().trim();
    else if (name === '$INSUNITS') stated = text().trim();
  });
  return MM_PER_UNIT[Number(stated)];
}
