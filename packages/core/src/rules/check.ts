import type { Master } from '../master/schema';
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
