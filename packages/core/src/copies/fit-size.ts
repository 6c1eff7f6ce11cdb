import { Failure } from '../base/failure/failure';
import type { Options, OptionValue } from '../contracts/declaration';
import { formatMark } from '../contracts/mark';
import type { CarryReport } from '../contracts/report';
import { UNSEALED } from '../contracts/seal';
import type { Services } from '../contracts/services';
import { declarationOf } from '../formats/declarations';
import { codecOf } from '../formats/registry';
import { project, withEnclosed } from './derive';
import type { RevisionOf } from './revision';
import { type Recipe, howOf, recipeOf } from './recipe';

/** A way to make a copy, and how large that is. */
export interface SizedOptions {
  readonly options: Options;
  readonly bytes: number;
}

/** What was found on the way to a size: what was tried, in that order, and what is to be taken. */
export interface FittedSize {
  readonly recipe: Recipe;
  readonly bytes: number;
  readonly tried: readonly SizedOptions[];
}

/** What becomes of a master in a copy, and how large that will be in bytes: it is written, mark and all, but to nowhere. */
export async function forecastOf(
  revision: RevisionOf,
  recipe: Recipe,
  services: Services,
): Promise<{ report: CarryReport; bytes: number }> {
  const { master, rev, time } = revision;
  const { projection: plain, report } = await project(master, recipe, services);
  const projection = await withEnclosed(plain, revision, recipe, services);
  const mark = formatMark({ master: master.id, rev, recipe: recipe.id, says: UNSEALED, written: time, how: howOf(recipe) });
  const files = await (await codecOf(recipe.target)).write(projection, recipe.options, mark, services);
  return { report, bytes: files.reduce((sum, { bytes }) => sum + bytes.length, 0) };
}

/** A share of the size that may be left over, and how often one looks for less loss. */
const [CLOSE, LOOKS] = [0.95, 8];

const between = (from: OptionValue | undefined, to: OptionValue, share: number): OptionValue =>
  typeof from === 'number' && typeof to === 'number' ? Math.round(from + (to - from) * share) : to;

/**
 * Finds the options that keep a copy within a size with the least loss: the first step of the target that does, then as near to
 * the step before as the size lets it be.
 * @param most bytes
 * @throws Failure `size-unreachable` where nothing makes such a copy smaller, or not so small
 */
export async function fitSize(revision: RevisionOf, recipe: Recipe, most: number, services: Services): Promise<FittedSize> {
  const { label, smaller = [] } = declarationOf(recipe.target);
  const tried: SizedOptions[] = [];
  const withOptions = (options: Options): Recipe =>
    recipeOf(recipe.target, { ...recipe.options, ...options }, recipe.scope, recipe.id, recipe.choices, recipe.row);
  const sizeWith = async (options: Options): Promise<number> => {
    if (services.signal?.aborted) throw new Failure('cancelled', 'This was stopped.');
    const { bytes } = await forecastOf(revision, withOptions(options), services);
    tried.push({ options, bytes });
    return bytes;
  };
  const own = await sizeWith({});
  if (own <= most) return { recipe, bytes: own, tried };
  if (!smaller.length)
    throw new Failure(
      'size-unreachable',
      `${label}: it has ${own} bytes, and nothing makes such a copy smaller. Leave parts out.`,
    );
  let least = await sizeWith(smaller.at(-1)!);
  if (least > most)
    throw new Failure(
      'size-unreachable',
      `${label}: at its smallest it has ${least} bytes, ${least - most} too many. Leave parts out, or take another target.`,
    );
  // The steps get smaller and smaller: the first that fits lies between one that does not and one that does.
  let [over, fits] = [-1, smaller.length - 1];
  while (fits - over > 1) {
    const middle = (over + fits) >> 1;
    const bytes = await sizeWith(smaller[middle]!);
    if (bytes <= most) [fits, least] = [middle, bytes];
    else over = middle;
  }
  let best = smaller[fits]!;
  if (over >= 0 && least < CLOSE * most) {
    // Whole numbers of options: what was tried is not tried again.
    let [low, high] = [0, 1];
    const known = new Set<string>([JSON.stringify(best), JSON.stringify(smaller[over])]);
    for (let look = 0; look < LOOKS && least < CLOSE * most; look++) {
      const share = (low + high) / 2;
      const options = Object.fromEntries(
        Object.entries(smaller[fits]!).map(([name, to]) => [name, between(smaller[over]![name], to, share)]),
      );
      if (known.has(JSON.stringify(options))) break;
      known.add(JSON.stringify(options));
      const bytes = await sizeWith(options);
      if (bytes <= most) [high, best, least] = [share, options, bytes];
      else low = share;
    }
  }
  return { recipe: withOptions(best), bytes: least, tried };
}
