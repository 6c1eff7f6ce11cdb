import sharp from 'sharp';
import {
  type Master,
  type Services,
  addFormats,
  bringInAny,
  checkCopy,
  codecOf,
  derive,
  heldRows,
  newMaster,
  project,
  recipeOf,
} from '@inkwell-twin/core';
import { poolPicture } from '@inkwell-twin/demo';
import { nodeFormats, pictureEngine, shippedFonts } from '@inkwell-twin/render';
import { largeMaster } from './large-master';
import { median } from './timing';

const time = '2026-11-20T10:00:00.000Z';

/** A photograph-like picture as a JPEG from a camera. */
const photograph = (width: number, height: number): Promise<Uint8Array> =>
  pictureEngine.encode(heldRows(poolPicture(width, height)), {
    format: 'jpeg',
    depth: 8,
    alpha: false,
    profile: 'sRGB',
    quality: 90,
    chroma: '4:2:0',
    ppi: 300,
  });

/** A board of ten pictures of 12 megapixels. */
export async function album(): Promise<{ master: Master; services: Services }> {
  const files = new Map<string, Uint8Array>();
  let master = newMaster('album', 'Album', 'Ines Okoro', 'sheet');
  const bytes = await photograph(4000, 3000);
  const { kept } = await bringInAny(bytes, 'pool.jpg', { pictures: pictureEngine });
  const resource = kept[0]!.resource;
  const resources = [];
  const items = [];
  for (let i = 0; i < 10; i++) {
    // Ten files that differ: a comment at the end of each.
    const own = Buffer.concat([bytes.subarray(0, 2), Buffer.from([0xff, 0xfe, 0, 3, 48 + i]), bytes.subarray(2)]);
    const id = `${i}`.repeat(64);
    files.set(id, own);
    resources.push({ ...resource, id, size: own.length });
    items.push({
      kind: 'picture' as const,
      id: `p${i}`,
      layer: 'layer-1',
      style: { fill: null, stroke: null, strokeWidth: 0 },
      resource: id,
      x: (i % 5) * 80,
      y: Math.floor(i / 5) * 60,
      width: 76,
      height: 57,
    });
  }
  master = { ...master, resources, boards: [{ ...master.boards[0]!, width: 400, height: 120, items }] };
  return { master, services: { fonts: shippedFonts(), pictures: pictureEngine, resource: (sha) => files.get(sha)! } };
}

/** PDF of many objects. */
export async function benchmarkPages(): Promise<Record<string, number>> {
  addFormats(nodeFormats);
  const services: Services = { fonts: shippedFonts(), pictures: pictureEngine };
  const recipe = recipeOf('pdf', {});
  const master = largeMaster('pages');
  const { projection } = await project(master, recipe, services);
  const write = async () => (await codecOf('pdf')).write(projection, recipe.options, 'says=', services);
  const { files, says } = await derive({ master, rev: 1, time }, recipe, services);
  const check = () => checkCopy({ files, intact: false, says, recipe, current: { ...master }, baseline: master }, services, true);
  return {
    'write PDF of 20,000 objects, ms': await median(5, write),
    'read and compare PDF of 20,000 objects, ms': await median(5, check),
  };
}

/** PDF of many pictures, in a process of its own for its memory. */
export async function benchmarkAlbum(): Promise<Record<string, number>> {
  addFormats(nodeFormats);
  const { master, services } = await album();
  const start = performance.now();
  await derive({ master, rev: 1, time }, recipeOf('pdf', {}), services);
  return { 'derive PDF of ten pictures of 12 megapixels, ms': performance.now() - start };
}

/** A picture of 20 megapixels as a master. */
async function large(): Promise<{ bytes: Uint8Array; master: Master; services: Services }> {
  const bytes = await photograph(5472, 3648);
  const { master, kept } = await bringInAny(bytes, 'pool.jpg', { pictures: pictureEngine });
  const files = new Map(kept.map((one) => [one.resource.id, one.bytes]));
  return { bytes, master, services: { fonts: shippedFonts(), pictures: pictureEngine, resource: (sha) => files.get(sha)! } };
}

/** Copies of 20 megapixels read and compared, in a process of its own for its memory. */
export async function benchmarkRasterCheck(): Promise<Record<string, number>> {
  addFormats(nodeFormats);
  const { master, services } = await large();
  const figures: Record<string, number> = {};
  for (const target of ['png', 'jpeg']) {
    const recipe = recipeOf(target, {});
    const { files, says } = await derive({ master, rev: 1, time }, recipe, services);
    figures[`raster check of 20 megapixels, ${target}, ms`] = await median(3, () =>
      checkCopy({ files, intact: false, says, recipe, current: { ...master }, baseline: master }, services, true),
    );
  }
  return figures;
}

/** Copies of 20 megapixels beside the library that packs them, alone. */
export async function benchmarkPictures(): Promise<Record<string, number>> {
  addFormats(nodeFormats);
  const { bytes, master, services } = await large();
  const figures: Record<string, number> = {};
  for (const [label, target, alone] of [
    ['PNG', 'png', () => sharp(bytes).png({ compressionLevel: 6 }).toBuffer()],
    ['JPEG', 'jpeg', () => sharp(bytes).jpeg({ quality: 90, chromaSubsampling: '4:4:4' }).toBuffer()],
  ] as const) {
    const recipe = recipeOf(target, {});
    const ours = await median(3, async () =>
      (await codecOf(target)).write((await project(master, recipe, services)).projection, recipe.options, 'says=', services),
    );
    const theirs = await median(3, alone);
    figures[`20 megapixels to ${label}, ms`] = ours;
    figures[`20 megapixels to ${label}, times sharp alone`] = ours / theirs;
  }
  return figures;
}
