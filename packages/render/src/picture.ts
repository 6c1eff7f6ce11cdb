import sharp from 'sharp';

const MM = 25.4;
/** Largest density that the library takes. */
const DENSEST = 2400;

/**
 * A drawing as a small picture. Text has to be outlines already: no font is looked for.
 * @param size pixels of the longer side
 * @returns the bytes of a PNG
 */
export async function drawPicture(svg: string, size: number): Promise<Uint8Array> {
  const [, width = 1, height = 1] = (/viewBox="0 0 ([\d.]+) ([\d.]+)"/.exec(svg) ?? []).map(Number);
  // Drawn at its size at once, so that nothing is drawn large and then made small.
  const density = Math.min(DENSEST, Math.max(1, (size / Math.max(width, height)) * MM));
  const [across, up] = [width, height].map((side) => Math.max(1, Math.round((side * size) / Math.max(width, height))));
  return sharp(Buffer.from(svg), { density }).resize(across, up, { fit: 'fill' }).png().toBuffer();
}
