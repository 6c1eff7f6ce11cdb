import { ELSEWHERE, kindsAmong, tryElsewhere } from './faults/elsewhere';
import { judgedBy } from './judged-by';

const SEED = 20_261_127;
/** So many kinds of fault, and of change without harm, there are at least of each format. */
const KINDS: Readonly<Record<string, readonly [faults: number, harmless: number]>> = {
  SVG: [200, 110],
  'DXF R12': [65, 24],
  'DXF 2000': [95, 28],
  'HP-GL': [60, 28],
  'HP-GL for a machine': [60, 25],
  'G-code': [60, 25],
  'G-code with ramps': [60, 25],
  Stitches: [60, 25],
};

describe('copies that other hands changed', () => {
  for (const one of ELSEWHERE) {
    const { name, judges } = one;
    judgedBy(...judges).it(`${name}: whatever shows is found out, and nothing else alarms (seed ${SEED})`, async () => {
      const { wrong, faults, harmless } = await tryElsewhere(one, SEED, 1);
      expect(wrong).toEqual([]);
      expect(kindsAmong(faults)).toBeGreaterThanOrEqual(KINDS[name]![0]);
      expect(kindsAmong(harmless)).toBeGreaterThanOrEqual(KINDS[name]![1]);
    });
  }
});
