import { spoilt } from './faults/board';
import { ELSEWHERE, kindsAmong, tryElsewhere } from './faults/elsewhere';
import { Trial } from './faults/trial';
import { judgedBy } from './judged-by';

const SEED = 20_261_127;
/** So many kinds of fault, and of change without harm, there are at least of each format. */
const KINDS: Readonly<Record<string, readonly [faults: number, harmless: number]>> = {
  SVG: [200, 110],
  'DXF R12': [65, 24],
  'DXF 2000': [95, 28],
  'HP-GL': [38, 28],
};

describe('copies that other hands changed', () => {
  for (const { name, extension, judges, recipe } of ELSEWHERE)
    judgedBy(...judges).it(`${name}: whatever shows is found out, and nothing else alarms (seed ${SEED})`, async () => {
      const { wrong, faults, harmless } = await tryElsewhere(await Trial.of(spoilt, recipe), extension, SEED, 1);
      expect(wrong).toEqual([]);
      expect(kindsAmong(faults)).toBeGreaterThanOrEqual(KINDS[name]![0]);
      expect(kindsAmong(harmless)).toBeGreaterThanOrEqual(KINDS[name]![1]);
    });
});
