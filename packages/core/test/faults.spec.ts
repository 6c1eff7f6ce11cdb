import { Failure, recipeOf } from '../src';
import { targetById } from './flat';
import { spoilt as master } from './faults/board';
import { Dice } from './faults/dice';
import { CHANGES, Trial, runTrials } from './faults/trial';

const SEED = 20261124;

const made = [
  ['svg', {}],
  ['dxf', { version: 'R12' }],
  ['dxf', { version: '2000' }],
  ['dxf', { version: '2004', fills: 'hatches' }],
  ['hpgl', {}],
] as const;
let trials: (readonly [string, Trial])[];
let counts: Awaited<ReturnType<typeof runTrials>>;
beforeAll(async () => {
  trials = [];
  for (const [target, options] of made)
    trials.push([`${target} ${JSON.stringify(options)}`, await Trial.of(master, recipeOf(target, options))]);
  counts = await runTrials(trials, 3, SEED);
});

describe('a copy that someone changed', () => {
  it('offers something to every change that is known for its format', () => {
    for (const [target, { faults, harmless }] of Object.entries(CHANGES)) {
      const own = trials.filter(([, trial]) => trial.recipe.target === target);
      const idle = Object.entries({ ...faults, ...harmless }).filter(([, change]) =>
        own.every(([, trial]) =>
          Array.from({ length: 30 }, (_, i) => SEED + i).every((seed) => trial.spoil(change, seed) === undefined),
        ),
      );
      expect([target, idle.map(([name]) => name)]).toEqual([target, []]);
    }
  });

  it(`is found out, whatever was done to it (seed ${SEED})`, () => {
    expect(counts.faults.wrong).toEqual([]);
    expect(counts.faults.tried).toBeGreaterThan(180);
  });
  it('is in step where it was only written otherwise', () => {
    expect(counts.harmless.wrong).toEqual([]);
    expect(counts.harmless.tried).toBeGreaterThan(50);
  });
  it('is unreadable, and says where, when it ends too early', () => {
    for (const [, trial] of trials) {
      const cut = CHANGES[trial.recipe.target]!.faults['truncate']!(trial.bytes, new Dice(SEED), 0.01)!;
      expect(() => targetById(trial.recipe.target).read(cut)).toThrow(Failure);
    }
  });
});
