import type { Command } from '../../document/commands';
import { type Patch, applyPatches } from '../../document/patches';
import type { Master } from '../../document/schema';
import type { Breach, Standard } from './breach';
import type { HouseRules } from './house';
import { fonts } from './standards/fonts';
import { layers } from './standards/layers';
import { dashes, widths } from './standards/lines';
import { symbols } from './standards/symbols';

/** One file for each standard: another one is added here and nowhere else. */
const STANDARDS: readonly Standard[] = [layers, widths, dashes, fonts, symbols];

/** Everything in a master that is not as the house has it, standard by standard. Names of files are the shelf's matter. */
export const houseBreaches = (master: Master, rules: HouseRules): readonly Breach[] =>
  STANDARDS.flatMap(({ breaches }) => breaches(master, rules));

/** Whether the house says anything at all of what is in a master. */
export const hasStandards = ({ layers: l, widths: w, lines, fonts: f, symbols: s }: HouseRules): boolean =>
  [l, w, lines, f, s].some((list) => list.length > 0);

/** Repairs may follow from repairs, but not without end. */
const MOST_ROUNDS = 20;

/** Every repair that there is, as one act: those that touch the same thing go on from one another. */
export function mendAll(master: Master, rules: HouseRules): Command {
  const patches: Patch[] = [];
  let count = 0;
  for (let now = master, rounds = 0; ; rounds++) {
    const touched = new Set<string>();
    const round: Patch[] = [];
    for (const { nodes, repair } of houseBreaches(now, rules)) {
      if (!repair || nodes.some((id) => touched.has(id))) continue;
      for (const id of nodes) touched.add(id);
      round.push(...repair.patches);
      count++;
    }
    if (!round.length || rounds === MOST_ROUNDS)
      return { label: `${count === 1 ? '1 breach' : `${count} breaches`} of the house rules mended`, patches };
    patches.push(...round);
    now = applyPatches(now, round).master;
  }
}
