import { compareRasters } from '../content/raster/compare';
import type { Raster } from '../contracts/raster';
import type { Services } from '../contracts/services';
import type { Difference } from '../contracts/difference';
import type { CopyFile, CopyContent } from '../contracts/codec';
import { codecOf } from '../formats/registry';
import { PIXELS_ONLY } from './pixels-only';
import type { Recipe } from './recipe';

/** Differences that are told of one page. */
const MOST = 12;
/** What comes of looking at a copy beside one that is made of the master now. */
interface Sight {
  readonly differences: readonly Difference[];
  /** Pixels to the inch, of the page that had the fewest. */
  readonly ppi: number;
}

function pageDifferences(master: Raster, copy: Raster, page: number, around: number): Difference[] {
  const { differences } = compareRasters(master, copy, { tolerance: 0, carries: PIXELS_ONLY });
  return differences.slice(0, MOST).map((one) => {
    const { place } = one;
    return {
      ...one,
      leaf: page,
      what: `${one.what}, as it is seen`,
      place: place && {
        minX: place.minX - around,
        maxX: place.maxX - around,
        minY: place.minY - around,
        maxY: place.maxY - around,
      },
    };
  });
}

/**
 * Looks at the parts of a copy that its reader does not fully understand, beside what the master says now.
 * @returns null where the format can't be looked at, or the parts are not the same ones
 */
export async function lookAt(
  files: readonly CopyFile[],
  now: CopyContent,
  recipe: Recipe,
  services: Services,
): Promise<Sight | null> {
  const codec = await codecOf(recipe.target);
  if (!codec.seen) return null;
  let [theirs, ours]: (readonly Raster[] | null)[] = [null, null];
  try {
    theirs = await codec.seen(files);
    ours = theirs && (await codec.seen(await codec.write(now, recipe.options, '', services)));
  } catch {
    // What can't be drawn stays not understood.
    return null;
  }
  if (!theirs || !ours || theirs.length !== ours.length) return null;
  const around = Number(recipe.options['bleed'] ?? 0);
  return {
    differences: ours.flatMap((page, i) => pageDifferences(page, theirs[i]!, i, around)),
    ppi: Math.round(Math.min(...ours.map(({ ppi }) => ppi ?? 0))),
  };
}

/** What was looked at, for the proof. */
export const sightInWords = ({ differences, ppi }: Sight): string =>
  differences.length
    ? `What its reader does not know was looked at as pixels, ${ppi} to the inch, too.`
    : `What its reader does not know was looked at as pixels, ${ppi} to the inch: they are the same.`;
