import { compareRasters } from '../content/raster/compare';
import type { Raster } from '../contracts/raster';
import type { ShownPicture } from '../contracts/kind';
import { kindById } from '../content/kinds';
import { apply } from '../base/geometry/matrix';
import { type Box, emptyBox, growBox } from '../base/geometry/measure';
import { type Difference, byImportance, formatAmount } from '../contracts/difference';
import type { PictureEngine } from '../contracts/pictures';
import { heldRows } from '../evaluate/pictures/rows';
import type { CopyContent } from '../contracts/codec';
import { PIXELS_ONLY } from './pixels-only';

/** Pixels of pictures that are looked at closely in one check; beyond them it is only said that they differ. */
const MOST_PIXELS = 60_000_000;
/** Differences that are told of one picture. */
const MOST = 12;

function shownBy(says: CopyContent, leaf: number, entry: number | undefined): ShownPicture | null {
  const part = says.leaves[leaf];
  return part && entry !== undefined ? (kindById(part.kind).pictureAt?.(part.body, entry) ?? null) : null;
}

/** A box of pixels, counted up from the lower left corner, as it lies on the board. */
function onBoard({ minX, minY, maxX, maxY }: Box, { picture: { width, height }, at }: ShownPicture): Box {
  const box = emptyBox();
  for (const x of [minX, maxX]) for (const y of [minY, maxY]) growBox(box, ...apply(at, [x / width, y / height]));
  return box;
}

async function regionsOf(one: Difference, a: ShownPicture, b: ShownPicture, engine: PictureEngine): Promise<Difference[]> {
  const raster = async ({ picture }: ShownPicture): Promise<Raster> => {
    const pixels = await engine.pixels(picture.bytes, 8);
    // A pixel is a millimetre here: places come out in pixels.
    return { rows: heldRows(pixels), alpha: true, depth: 8, profile: null, ppi: 25.4 };
  };
  const { differences } = compareRasters(await raster(a), await raster(b), { tolerance: 0, carries: PIXELS_ONLY });
  const inWords = (found: Difference) =>
    found.amount === null ? found.kind : `${found.kind}, ${formatAmount(found.amount, found.unit === 'mm' ? 'px' : found.unit)}`;
  return differences.slice(0, MOST).map((found) => ({
    ...one,
    kind: found.kind,
    what: `${one.what}: ${found.what.toLowerCase()}`,
    place: found.place ? onBoard(found.place, a) : one.place,
    amount: found.amount,
    unit: found.unit,
    master: found.master ?? one.master,
    copy: found.copy ?? inWords(found),
  }));
}

/**
 * Says of placed pictures that differ where and by how much, as of copies that are pixels.
 * @returns the differences, those of pictures put in the place of "picture changed"
 */
export async function pictureRegions(
  differences: readonly Difference[],
  master: CopyContent,
  copy: CopyContent,
  engine: PictureEngine | undefined,
): Promise<readonly Difference[]> {
  if (!engine || !differences.some(({ kind }) => kind === 'picture changed')) return differences;
  let left = MOST_PIXELS;
  const all: Difference[] = [];
  for (const one of differences) {
    const pairs = one.kind === 'picture changed' && one.masterEntries.length === one.copyEntries.length ? one.masterEntries : [];
    const told: Difference[] = [];
    for (const [i, entry] of pairs.entries()) {
      const label = master.leaves[one.leaf]?.label;
      const same = copy.leaves.length === master.leaves.length ? one.leaf : copy.leaves.findIndex((leaf) => leaf.label === label);
      const [a, b] = [shownBy(master, one.leaf, entry), shownBy(copy, same, one.copyEntries[i])];
      if (!a || !b) continue;
      const pixels = a.picture.width * a.picture.height;
      if (pixels > left) continue;
      left -= pixels;
      told.push(...(await regionsOf(one, a, b, engine)));
    }
    all.push(...(told.length ? told : [one]));
  }
  return all.sort(byImportance);
}
