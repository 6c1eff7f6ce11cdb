import { type Master, type Recipe, type Verdict, checkCopy, declarationOf, derive } from '../../src';
import { shippedFonts } from '../../../render/src';
import { type Change, type Changes, Dice } from './dice';
import { DXF_FAULTS, DXF_HARMLESS } from './dxf';
import { HPGL_FAULTS, HPGL_HARMLESS } from './hpgl';
import { SVG_FAULTS, SVG_HARMLESS } from './svg';

/** What can happen to a copy of each target, done by code that shares nothing with our writers and readers. */
export const CHANGES: Readonly<Record<string, { readonly faults: Changes; readonly harmless: Changes }>> = {
  svg: { faults: SVG_FAULTS, harmless: SVG_HARMLESS },
  dxf: { faults: DXF_FAULTS, harmless: DXF_HARMLESS },
  hpgl: { faults: HPGL_FAULTS, harmless: HPGL_HARMLESS },
};

const means = { fonts: shippedFonts() };
const time = '2026-11-20T10:00:00.000Z';

/** A copy that can be spoiled and checked. */
export class Trial {
  private constructor(
    readonly master: Master,
    readonly recipe: Recipe,
    readonly words: string,
    private readonly says: string,
  ) {}

  static async of(master: Master, recipe: Recipe): Promise<Trial> {
    const made = await derive({ master, rev: 1, time }, recipe, means);
    return new Trial(master, recipe, new TextDecoder().decode(made.files[0]!.bytes), made.says);
  }

  async verdict(changed: string): Promise<Verdict> {
    const { master, recipe, says } = this;
    const files = [{ part: '', bytes: new TextEncoder().encode(changed) }];
    return (await checkCopy({ files, whole: changed === this.words, says, recipe, now: master, then: master }, means)).verdict;
  }

  /** The changed text of a change that this copy offers something for and that changes it, from a seed. */
  spoil(change: Change, seed: number): string | undefined {
    const changed = change(this.words, new Dice(seed), Object.values(declarationOf(this.recipe.target).tolerance)[0]!);
    return changed === this.words ? undefined : changed;
  }
}

export interface Count {
  tried: number;
  right: number;
  /** Seeds of those that came out wrong. */
  readonly wrong: { readonly change: string; readonly copy: string; readonly seed: number; readonly verdict: Verdict }[];
}

/** Every change to every trial, `rounds` times each: how many faults are caught, how many harmless changes are let through. */
export async function runTrials(
  trials: readonly (readonly [name: string, trial: Trial])[],
  rounds: number,
  seed: number,
): Promise<{ faults: Count; harmless: Count }> {
  const counts = { faults: { tried: 0, right: 0, wrong: [] } as Count, harmless: { tried: 0, right: 0, wrong: [] } as Count };
  for (const [copy, trial] of trials)
    for (const kind of ['faults', 'harmless'] as const)
      for (const [change, run] of Object.entries(CHANGES[trial.recipe.target]![kind]))
        for (let round = 0; round < rounds; round++) {
          const own = seed + round * 7919;
          const changed = trial.spoil(run, own);
          if (changed === undefined) continue;
          const verdict = await trial.verdict(changed);
          const count = counts[kind];
          count.tried++;
          if (kind === 'faults' ? verdict === 'touched' || verdict === 'unreadable' : verdict === 'in step') count.right++;
          else count.wrong.push({ change, copy, seed: own, verdict });
        }
  return counts;
}
