import { applyPatches, derive, footprintHash, moveItems, recipeOf } from '@inkwell-twin/core';
import { shippedFonts } from '@inkwell-twin/render';
import { OBJECTS, largeMaster } from './large-master';
import { median, peakMemory } from './timing';

const COPIES = 1_000;
const SAMPLE = 6;

/** Asking 1,000 copies whether they are fresh after one edit in 20,000 objects, beside deriving them again. */
export async function benchmarkFootprints(): Promise<Record<string, number>> {
  const recipes = [
    ...['text', 'outlines'].flatMap((text) => [2, 3, 4].map((precision) => recipeOf('svg', { text, precision }))),
    ...['R12', '2000'].flatMap((version) => [0.01, 0.02].map((chord) => recipeOf('dxf', { version, chord }))),
    ...[0.05, 0.1].map((chord) => recipeOf('hpgl', { chord })),
  ];
  const copies = Array.from({ length: COPIES }, (_, i) => recipes[i % recipes.length]!);
  let now = largeMaster('bench');
  const before = new Map(recipes.map((recipe) => [recipe, footprintHash(now, recipe)]));
  let step = 0;
  const check = await median(5, () => {
    now = applyPatches(now, moveItems(now, [`r${(step += 977) % OBJECTS}`], 0.5, 0).patches).master;
    return copies.filter((recipe) => footprintHash(now, recipe) !== before.get(recipe)).length;
  });
  const memory = peakMemory();
  const services = { fonts: shippedFonts() };
  const start = process.hrtime.bigint();
  for (let i = 0; i < SAMPLE; i++)
    await derive({ master: now, rev: 2, time: '2026-11-20T10:00:00.000Z' }, copies[(i * 5) % recipes.length]!, services);
  const deriving = (Number(process.hrtime.bigint() - start) / 1e6 / SAMPLE) * COPIES;
  return {
    'footprint check of 1,000 copies after one edit, ms': check,
    'memory at its highest after the footprint check, MB': memory,
    'deriving 1,000 copies again, ms (from a sample of 6)': deriving,
    'footprint check, times cheaper than deriving': deriving / check,
  };
}
