import type { Hasher } from '../../base/bytes/hasher';
import { bands } from '../../evaluate/pictures/rows';
import type { Raster } from '../../contracts/raster';

/** Parts of pixels that are hashed at once: what is copied for it stays small beside the picture. */
const AT_ONCE = 1 << 20;

/** Puts what pixels say into a hash. What can't be seen has no colour. */
export function digestRaster({ rows, alpha, profile, ppi }: Raster, into: Hasher): void {
  const { width, height } = rows;
  into.update(JSON.stringify([width, height, alpha, profile, ppi === null ? null : Math.round(ppi)]));
  for (const [top, count] of bands(rows)) {
    const { data } = rows.rows(top, count);
    for (let from = 0; from < data.length; from += AT_ONCE) {
      const seen = data.slice(from, from + AT_ONCE);
      for (let i = 3; i < seen.length; i += 4) if (seen[i] === 0) seen[i - 1] = seen[i - 2] = seen[i - 3] = 0;
      into.update(seen);
    }
  }
}
