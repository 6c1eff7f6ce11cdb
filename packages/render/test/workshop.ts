import {
  type Master,
  type Services,
  type PictureItem,
  type Pixels,
  type Scope,
  addFormats,
  addSources,
  bringInAny,
  checkCopy,
  derive,
  heldRows,
  recipeOf,
} from '@inkwell-twin/core';
import { nodeFormats, pictureEngine, pictureSources, shippedFonts } from '../src';

addFormats(nodeFormats);
addSources(pictureSources);

const TIME = '2026-11-20T10:00:00.000Z';

/** A picture with a bit of everything: slopes, edges, a thin line, grain. */
export function sample(width: number, height: number, alpha = false): Pixels {
  const data = new Uint8Array(4 * width * height);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i += 4) {
      const noise = ((x * 7919 + y * 104729) % 17) - 8;
      const dark = (x >> 4) % 3 === 0 && (y >> 5) % 2 === 0 ? 60 : 0;
      data[i] = 90 + (120 * x) / width - dark + noise;
      data[i + 1] = 80 + (110 * y) / height - dark + noise;
      data[i + 2] = 150 - (60 * x) / width + noise;
      if (y === height >> 1 || x === width >> 2) data.fill(30, i, i + 3);
      data[i + 3] = alpha && Math.hypot(x - width / 2, y - height / 2) > height / 3 ? 0 : 255;
    }
  return { width, height, data };
}

/** Means that know some files. */
export const servicesWith = (files: ReadonlyMap<string, Uint8Array>): Services => ({
  fonts: shippedFonts(),
  pictures: pictureEngine,
  resource: (sha) => files.get(sha)!,
});

/** A picture as a master, with what making copies of it takes. */
export async function masterOf(
  pixels: Pixels,
  name = 'sample.png',
  format: 'png' | 'jpeg' = 'png',
): Promise<{ master: Master; services: Services }> {
  const bytes = await pictureEngine.encode(heldRows(pixels), {
    format,
    depth: 8,
    alpha: format === 'png',
    profile: 'sRGB',
    quality: format === 'png' ? null : 90,
    ppi: 200,
  });
  const { master, kept } = await bringInAny(bytes, name, { pictures: pictureEngine });
  return { master, services: servicesWith(new Map(kept.map((one) => [one.resource.id, one.bytes]))) };
}

/** The picture on the first board changed. */
export const withPicture = (master: Master, change: Partial<PictureItem>): Master => ({
  ...master,
  boards: master.boards.map((board, i) =>
    i ? board : { ...board, items: board.items.map((item) => ({ ...item, ...change })) as typeof board.items },
  ),
});

/** Makes a copy, and can check what became of it. */
export async function copyOf(
  master: Master,
  services: Services,
  target: string,
  options: Record<string, unknown> = {},
  scope?: Scope,
) {
  const recipe = recipeOf(target, options, scope);
  const made = await derive({ master, rev: 1, time: TIME }, recipe, services);
  const bytes = made.files[0]!.bytes;
  const check = (now: Uint8Array, master2 = master) =>
    checkCopy(
      {
        files: [{ part: '', bytes: now }],
        intact: Buffer.compare(now, bytes) === 0,
        says: made.says,
        recipe,
        current: master2,
        baseline: master,
      },
      services,
      true,
    );
  return { ...made, bytes, check };
}
