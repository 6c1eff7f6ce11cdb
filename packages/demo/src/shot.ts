import { type PictureEngine, type Resource, digest, heldRows } from '@inkwell-twin/core';
import { poolPicture } from './pool-picture';

/** The heron at the north pool as a camera kept it, so many pixels large. */
export async function shot(
  pictures: PictureEngine,
  width: number,
  height: number,
  ppi: number,
): Promise<{ resource: Resource; bytes: Uint8Array }> {
  const encoding = { format: 'jpeg', depth: 8, alpha: false, profile: 'sRGB', quality: 90, chroma: '4:2:0', ppi } as const;
  const bytes = await pictures.encode(heldRows(poolPicture(width, height)), encoding);
  const [id, name, mediaType, size] = [digest(bytes), 'north_pool_0611.jpg', 'image/jpeg', bytes.length];
  return { resource: { id, name, mediaType, size, role: 'picture', width, height, ppi }, bytes };
}
