import { type Master, type Services, type Recipe, type Verdict, checkCopy, declarationOf, derive } from '../../src';
import { shippedFonts } from '../../../render/src';
import { type ByteChange, type ByteChanges, Dice, textual } from './dice';
import { DXF_FAULTS, DXF_HARMLESS } from './dxf';
import { HPGL_FAULTS, HPGL_HARMLESS } from './hpgl';
import { SVG_FAULTS, SVG_HARMLESS } from './svg';

/** What can happen to a copy of each target, done by code that shares nothing with our writers and readers. */
export const CHANGES: Readonly<Record<string, ByteChanges>> = {
  svg: { faults: textual(SVG_FAULTS), harmless: textual(SVG_HARMLESS) },
  dxf: { faults: textual(DXF_FAULTS), harmless: textual(DXF_HARMLESS) },
  hpgl: { faults: textual(HPGL_FAULTS), harmless: textual(HPGL_HARMLESS) },
};

const own: Services = { fonts: shippedFonts() };
const time = '2026-11-20T10:00:00.000Z';

/** A copy that can be spoiled and checked. */
export class Trial {
  private constructor(
    readonly master: Master,
    readonly recipe: Recipe,
    readonly bytes: Uint8Array,
    private readonly says: string,
    private readonly services: Services,
  ) {}

  static async of(master: Master, recipe: Recipe, services = own): Promise<Trial> {
    const made = await derive({ master, rev: 1, time }, recipe, services);
    return new Trial(master, recipe, made.files[0]!.bytes, made.says, services);
  }

  private check(changed: Uint8Array): ReturnType<typeof checkCopy> {
    const { master, recipe, says, services } = this;
    const files = [{ part: '', bytes: changed }];
    return checkCopy({ files, intact: false, says, recipe, current: master, baseline: master }, services);
  }
  verdict = async (changed: Uint8Array): Promise<Verdict> => (await this.check(changed)).verdict;

  /** The first things that differ, in words, for whoever reads that a test failed. */
  async why(changed: Uint8Array): Promise<string> {
    const { differences, proof } = await this.check(changed);
    return [...differences.slice(0, 2).map(({ kind, what, copy }) => `${kind}: ${what} ${copy}`), proof].join('; ');
  }

  /** The changed bytes of a change that this copy offers something for and that changes it, from a seed. */
  spoil(change: ByteChange, seed: number): Uint8Array | undefined {
    const changed = change(this.bytes, new Dice(seed), Object.values(declarationOf(this.recipe.target).tolerance)[0]!);
    return changed && same(changed, this.bytes) ? undefined : changed;
  }
}
const same = (a: Uint8Array, b: Uint8Array): boolean => a.length === b.length && a.every((byte, i) => byte === b[i]);

interface Count {
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
  changes: Readonly<Record<string, ByteChanges>> = CHANGES,
): Promise<{ faults: Count; harmless: Count }> {
  const counts = { faults: { tried: 0, right: 0, wrong: [] } as Count, harmless: { tried: 0, right: 0, wrong: [] } as Count };
  for (const [copy, trial] of trials)
    for (const kind of ['faults', 'harmless'] as const)
      for (const [change, run] of Object.entries(changes[trial.recipe.target]![kind]))
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
