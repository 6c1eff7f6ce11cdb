import { readFileSync } from 'node:fs';
import { type Master, applyPatches, recipeOf, targetById } from '@inkwell-twin/core';
import { demoMasters } from '@inkwell-twin/demo';
import { Trial, runTrials } from '../packages/core/test/faults/trial';

const SEED = 20261124;
const ROUNDS = 4;

function masters(): [string, Master][] {
  const drawing = new URL('../packages/core/test/fixtures/weathervane.svg', import.meta.url);
  return [
    ...demoMasters().map(({ first, revisions }): [string, Master] => [
      first.title,
      revisions.reduce((now, { patches }) => applyPatches(now, patches).master, first),
    ]),
    ['Weathervane', targetById('svg').bringIn!(readFileSync(drawing), 'weathervane.svg').master],
  ];
}

/** Spoils true copies in every way known, by code that is not ours where there is any, and counts what the check finds. */
export function benchmarkTrust(): Record<string, number> {
  const trials = masters().flatMap(([title, master]) =>
    master.boards.flatMap(({ name }) =>
      (
        [
          ['svg', {}],
          ['svg', { text: 'outlines', precision: 4 }],
          ['dxf', { version: 'R12' }],
          ['dxf', { version: '2000' }],
          ['hpgl', {}],
        ] as const
      ).flatMap(([target, options]): [string, Trial][] => {
        const trial = new Trial(master, recipeOf(target, options, name));
        const empty = target === 'hpgl' && !/PD/.test(trial.words);
        return empty ? [] : [[`${title}, ${name}, ${target} ${JSON.stringify(options)}`, trial]];
      }),
    ),
  );
  const { faults, harmless } = runTrials(trials, ROUNDS, SEED);
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
