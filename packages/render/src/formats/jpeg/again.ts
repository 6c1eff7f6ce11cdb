import { type CopyContent, type CopyFile, type Encoding, PROFILES, type Raster, type Services } from '@inkwell-twin/core';
import { segmentsOf } from './segments';

/** Steps of lightness and of colours that most programs scale by a quality of 1 to 100 (ITU-T T.81, K.1), row by row. */
const LIGHTNESS = [
  ...[
    16, 11, 10, 16, 24, 40, 51, 61, 12, 12, 14, 19, 26, 58, 60, 55, 14, 13, 16, 24, 40, 57, 69, 56, 14, 17, 22, 29, 51, 87, 80,
    62,
  ],
  ...[
    18, 22, 37, 56, 68, 109, 103, 77, 24, 35, 55, 64, 81, 104, 113, 92, 49, 64, 78, 87, 103, 121, 120, 101, 72, 92, 95, 98, 112,
    100, 103, 99,
  ],
];
const COLOURS = [
  ...[
    17, 18, 24, 47, 99, 99, 99, 99, 18, 21, 26, 66, 99, 99, 99, 99, 24, 26, 56, 99, 99, 99, 99, 99, 47, 66, 99, 99, 99, 99, 99,
    99,
  ],
  ...Array.from({ length: 32 }, () => 99),
];
const [STEPS, FRAMES] = [0xdb, [0xc0, 0xc1, 0xc2]];

/** Places of an 8 × 8 block in the order of a file (T.81, figure 5). */
const ORDER = Array.from({ length: 64 }, (_, i) => i).sort((a, b) => {
  const [ra, ca, rb, cb] = [a >> 3, a & 7, b >> 3, b & 7];
  const [da, db] = [ra + ca, rb + cb];
  return da - db || (da % 2 ? ra - rb : ca - cb);
});

/** The steps that a quality makes of a table, as the reference implementation scales them. */
const scaled = (table: readonly number[], quality: number): number[] => {
  const share = quality < 50 ? Math.floor(5000 / quality) : 200 - 2 * quality;
  return table.map((step) => Math.min(255, Math.max(1, Math.floor((step * share + 50) / 100))));
};

/** How a JPEG was written, where its steps are the usual ones: its quality, and whether colours are at half the size. */
function writtenAs(jpeg: Uint8Array): { quality: number; chroma: '4:4:4' | '4:2:0' } | null {
  const tables = new Map<number, readonly number[]>();
  let chroma: '4:4:4' | '4:2:0' | undefined;
  for (const { marker, body } of segmentsOf(jpeg)) {
    // Tables of one byte a step; several may stand in one segment (B.2.4.1).
    if (marker === STEPS)
      for (let at = 0; at + 65 <= body.length && body[at]! >> 4 === 0; at += 65)
        tables.set(body[at]!, [...body.subarray(at + 1, at + 65)]);
    if (!FRAMES.includes(marker) || body[5] !== 3) continue;
    const factors = [7, 10, 13].map((at) => body[at]);
    if (factors[1] !== 0x11 || factors[2] !== 0x11) return null;
    chroma = factors[0] === 0x11 ? '4:4:4' : factors[0] === 0x22 ? '4:2:0' : undefined;
  }
  const [light, colours] = [tables.get(0), tables.get(1)];
  if (!light || !colours || !chroma) return null;
  const isOf = (found: readonly number[], table: readonly number[], quality: number): boolean => {
    const meant = scaled(table, quality);
    return ORDER.every((place, i) => found[i] === meant[place]);
  };
  for (let quality = 100; quality > 0; quality--)
    if (isOf(light, LIGHTNESS, quality) && isOf(colours, COLOURS, quality)) return { quality, chroma };
  return null;
}

/**
 * What a master says, once more through the loss that a file shows it went through.
 * @returns null where the file does not show how it was written
 */
export async function againAs(
  [file]: readonly CopyFile[],
  says: CopyContent,
  { pictures }: Services,
): Promise<{ content: CopyContent; words: string } | null> {
  const how = file && writtenAs(file.bytes);
  if (!how || !pictures) return null;
  const leaves = await Promise.all(
    says.leaves.map(async (leaf) => {
      const body = leaf.body as Raster;
      const profile = PROFILES.find((one) => one === body.profile) ?? 'sRGB';
      const encoding: Encoding = { format: 'jpeg', depth: 8, alpha: false, ppi: body.ppi ?? 96, profile, ...how };
      const { rows } = await pictures.raster(await pictures.encode(body.rows, encoding));
      return { ...leaf, body: { ...body, rows } };
    }),
  );
  const words = `written again with loss: quality ${how.quality}${how.chroma === '4:2:0' ? ', colours at half the size' : ''}`;
  return { content: { ...says, leaves } as CopyContent, words };
}
