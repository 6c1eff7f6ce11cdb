import type { Hasher } from '../../bytes/hasher';
import type { Raster } from './raster';

/** Puts what pixels say into a hash. What can't be seen has no colour. */
export function digestRaster({ width, height, data, alpha, profile, ppi }: Raster, into: Hasher): void {
  const seen = data.slice();
  for (let i = 3; i < seen.length; i += 4) if (seen[i] === 0) seen[i - 1] = seen[i - 2] = seen[i - 3] = 0;
  into.update(JSON.stringify([width, height, alpha, profile, ppi === null ? null : Math.round(ppi)])).update(seen);
}
