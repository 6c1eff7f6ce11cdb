import { Failure } from '@inkwell-twin/core';
import { decode } from 'bmp-ts';

export const isBmp = (bytes: Uint8Array): boolean => bytes[0] === 0x42 && bytes[1] === 0x4d && bytes.length > 26;

/**
 * A BMP as pixels; its sizes are looked at before anything is made of it.
 * @param sizeOnly leaves the pixels out
 * @throws Failure `picture-damaged`, `picture-too-large`
 */
export function bmpPixels(
  bytes: Uint8Array,
  most: number,
  sizeOnly = false,
): { width: number; height: number; ppi: number | null; data: Uint8Array } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const old = view.getUint32(14, true) === 12;
  const [width, height] = old
    ? [view.getUint16(18, true), view.getUint16(20, true)]
    : [view.getInt32(18, true), Math.abs(view.getInt32(22, true))];
  if (!(width > 0 && height > 0))
    throw new Failure('picture-damaged', `The picture says that it is ${width} × ${height} pixels.`, { byte: 18 });
  if (width * height > most)
    throw new Failure(
      'picture-too-large',
      `The picture has ${width} × ${height} pixels; at most ${Math.round(most / 1e6)} million are opened.`,
    );
  const perMetre = old || bytes.length < 46 ? 0 : view.getInt32(38, true);
  const ppi = perMetre > 0 ? Math.round(perMetre * 0.0254 * 100) / 100 : null;
  if (sizeOnly) return { width, height, ppi, data: new Uint8Array() };
  const [bits, packed] = old ? [view.getUint16(24, true), 0] : [view.getUint16(28, true), view.getUint32(30, true)];
  const row = Math.ceil((width * bits) / 32) * 4;
  if ((packed === 0 || packed === 3) && view.getUint32(10, true) + row * height > bytes.length)
    throw new Failure('picture-damaged', `The picture ends before its ${width} × ${height} pixels do.`, { byte: bytes.length });
  let data: Uint8Array;
  try {
    data = decode(Buffer.from(bytes), { toRGBA: true }).data;
  } catch (error) {
    throw new Failure('picture-damaged', `The picture is damaged: ${(error as Error).message}.`);
  }
  const out = new Uint8Array(data);
  // Only 32 bits may hold opacity, and many programs leave it empty then.
  let seen = false;
  for (let i = 3; i < out.length && !seen; i += 4) seen = out[i] !== 0;
  if (bits < 32 || !seen) for (let i = 3; i < out.length; i += 4) out[i] = 255;
  return { width, height, ppi, data: out };
}
