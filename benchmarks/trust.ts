import { readFileSync } from 'node:fs';
import { type Master, type Services, type Recipe, addFormats, applyPatches, codecOf, recipeOf } from '@inkwell-twin/core';
import { demoMasters } from '@inkwell-twin/demo';
import { chartEngine, nodeFormats, pictureEngine, shippedFonts, solidEngine } from '@inkwell-twin/render';
import { CHANGES, Trial, runTrials } from '../packages/core/test/faults/trial';
import { PDF_CHANGES } from '../packages/render/test/faults/pdf';
import { PICTURE_CHANGES } from '../packages/render/test/faults/pictures';
import { benchmarkTableTrust } from './trust-tables';

const SEED = 20261127;
/** Of each change to each copy; there are some hundred copies. */
const ROUNDS = 1;
/** Pixels of the demo's pictures each way, as a share: what is missed there is not missed for want of pixels. */
const SHARE = 0.15;

/** Masters with means that know their pictures. */
async function masters(): Promise<{ title: string; master: Master; services: Services; of: 'drawings' | 'pictures' }[]> {
  const drawing = new URL('../../packages/core/test/fixtures/weathervane.svg', import.meta.url);
  const plain: Services = { fonts: shippedFonts(), pictures: pictureEngine, charts: chartEngine, solids: solidEngine };
  const { master } = await (await codecOf('svg')).bringIn!(readFileSync(drawing), 'weathervane.svg');
  // The many small masters are made of the same few things; they would only make it last.
  const demo = await demoMasters(plain, ['drawings', 'tables', 'solids', 'texts', 'pictures'], SHARE);
  return [
    ...demo.map(({ first, revisions, kept = [] }) => {
      const files = new Map(kept.map(({ resource, bytes }) => [resource.id, bytes]));
      return {
        title: first.title,
        master: revisions.reduce((now, { patches }) => applyPatches(now, patches).master, first),
        services: { ...plain, resource: (sha: string) => files.get(sha)! },
        of: first.purpose === 'picture' ? ('pictures' as const) : ('drawings' as const),
      };
    }),
    { title: 'Weathervane', master, services: plain, of: 'drawings' },
  ];
}

/** What is made of a board of each sort of master. */
const TARGETS = {
  drawings: [
    ['svg', {}],
    ['svg', { text: 'outlines', precision: 4, symbols: 'opened' }],
    ['dxf', { version: 'R12' }],
    ['dxf', { version: '2000' }],
    ['dxf', { version: '2004', fills: 'hatches' }],
    ['hpgl', {}],
    ['pdf', {}],
  ],
  pictures: [
    ['pdf', {}],
    ['png', {}],
    ['tiff', { depth: '8' }],
    ['jpeg', { quality: 90 }],
  ],
} as const;

/** Spoils true copies in every way known, by code that is not ours where there is any, and counts what the check finds. */
export async function benchmarkTrust(): Promise<Record<string, number>> {
  addFormats(nodeFormats);
  const trials: [string, Trial][] = [];
  for (const { title, master, services, of } of await masters()) {
    for (const { name } of master.boards)
      for (const [target, options] of TARGETS[of]) {
        const trial = await Trial.of(master, recipeOf(target, options, name), services);
        const empty = target === 'hpgl' && !/PD/.test(new TextDecoder().decode(trial.bytes));
        if (!empty) trials.push([`${title}, ${name}, ${target} ${JSON.stringify(options)}`, trial]);
      }
    if (master.boards.length < 2) continue;
    const all: Recipe = recipeOf('pdf', {}, { of: 'master' });
    trials.push([`${title}, all boards, pdf`, await Trial.of(master, all, services)]);
  }
  const changes = { ...CHANGES, ...PICTURE_CHANGES, pdf: PDF_CHANGES };
  const { faults, harmless } = await runTrials(trials, ROUNDS, SEED, changes);
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
    ...(await benchmarkTableTrust(SEED)),
    'seed of the faults': SEED,
  };
}
