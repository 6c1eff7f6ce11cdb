import { readFileSync } from 'node:fs';
import { type Master, applyPatches, codecOf, recipeOf } from '@inkwell-twin/core';
import { demoMasters } from '@inkwell-twin/demo';
import { pictureEngine } from '@inkwell-twin/render';
import { Trial, runTrials } from '../packages/core/test/faults/trial';

const SEED = 20261124;
const ROUNDS = 4;

async function masters(): Promise<[string, Master][]> {
  const drawing = new URL('../packages/core/test/fixtures/weathervane.svg', import.meta.url);
  return [
    ...(await demoMasters({ pictures: pictureEngine }, ['drawings'], 0.25)).map(({ first, revisions }): [string, Master] => [
      first.title,
      revisions.reduce((now, { patches }) => applyPatches(now, patches).master, first),
    ]),
    ['Weathervane', (await codecOf('svg').bringIn!(readFileSync(drawing), 'weathervane.svg')).master],
  ];
}

/** Spoils true copies in every way known, by code that is not ours where there is any, and counts what the check finds. */
export async function benchmarkTrust(): Promise<Record<string, number>> {
  const trials: [string, Trial][] = [];
  for (const [title, master] of await masters())
    for (const { name } of master.boards)
      for (const [target, options] of [
        ['svg', {}],
        ['svg', { text: 'outlines', precision: 4 }],
        ['dxf', { version: 'R12' }],
        ['dxf', { version: '2000' }],
        ['hpgl', {}],
      ] as const) {
        const trial = await Trial.of(master, recipeOf(target, options, name));
        const empty = target === 'hpgl' && !/PD/.test(trial.words);
        if (!empty) trials.push([`${title}, ${name}, ${target} ${JSON.stringify(options)}`, trial]);
      }
  const { faults, harmless } = await runTrials(trials, ROUNDS, SEED);
  for (const [word, { wrong }] of [
    ['missed', faults],
    ['false alarm', harmless],
  ] as const)
    for (const { change, copy, seed, verdict } of wrong) console.log(`${word}: ${change} (${verdict}), ${copy}, seed ${seed}`);
  return {
    'faults tried': faults.tried,
    'faults caught, %': (100 * faults.right) / faults.tried,
    'harmless changes tried': harmless.tried,
    'false alarms, %': (100 * (harmless.tried - harmless.right)) / harmless.tried,
    'seed of the faults': SEED,
  };
}
