/** A picture of one bit a pixel that the colour of areas is painted through (ISO 32000-1, 8.9.6.2), as the library gives it. */
export interface Stencil {
  readonly width: number;
  readonly height: number;
  /** Rows of whole bytes, a bit of nothing is painted; or the name under which they are to be had. */
  readonly data: unknown;
}

/** What the library says of one that is painted all over. */
export const ONE_PIXEL: Stencil = { width: 1, height: 1, data: new Uint8Array(1) };

/** Pixels of one stencil. */
const MOST = 6e7;

/**
 * A stencil as a picture of red, green, blue and opacity, as the library gives those.
 * @param bits the stencil's, once they are there
 * @param colour `#rrggbb`
 * @returns null where it is none, or too large
 */
export function painted({ width, height }: Stencil, bits: unknown, colour: string): object | null {
  const data = ArrayBuffer.isView(bits) ? bits : (bits as { data?: unknown } | null)?.data;
  const row = (width + 7) >> 3;
  if (!(data instanceof Uint8Array || data instanceof Uint8ClampedArray) || !(width * height <= MOST)) return null;
  if (data.length < row * height) return null;
  const [red, green, blue] = [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16));
  const pixels = new Uint8ClampedArray(4 * width * height);
  for (let y = 0, to = 0; y < height; y++)
    for (let x = 0; x < width; x++, to += 4) {
      pixels[to] = red!;
      pixels[to + 1] = green!;
      pixels[to + 2] = blue!;
      if (!(data[y * row + (x >> 3)]! & (0x80 >> (x & 7)))) pixels[to + 3] = 255;
    }
  // Three: red, green, blue and opacity.
  return { width, height, kind: 3, data: pixels };
}
