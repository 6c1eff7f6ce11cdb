import { Failure, type Pixels, fromLight } from '@inkwell-twin/core';
import sharp, { type Metadata } from 'sharp';
import { WHOLE_LIMIT } from './limits';
import { damaged, megapixels } from './words';

/** Kinds of number of which a file does not say what is white. */
const UNSCALED = new Set(['char', 'short', 'int', 'uint', 'float', 'double', 'complex']);
export const isUnscaled = ({ depth }: Pick<Metadata, 'depth'>): boolean => UNSCALED.has(depth ?? '');

/** Whites that programs usually mean, from the least. */
const USUAL = [1, 255, 65_535];
/** The largest number of each kind. */
const LARGEST: Readonly<Record<string, number>> = { char: 127, short: 32_767, int: 2 ** 31 - 1, uint: 2 ** 32 - 1 };

interface Unscaled {
  readonly pixels: Pixels;
  /** What was taken as white, in words. */
  readonly taken: string;
}

/** Numbers beyond a usual white by this share are still meant by it: what was sharpened swings over. */
const OVER = 1.02;

function whiteFor(depth: string, most: number): number {
  // A whole number of at most 1 is black or nearly so; a broken one is white.
  const largest = LARGEST[depth] ?? Infinity;
  const usual = USUAL.slice(depth in LARGEST ? 1 : 0).find((white) => white <= largest && most <= white * OVER);
  return usual ?? LARGEST[depth] ?? most;
}

const known = new WeakMap<Uint8Array, Promise<Unscaled>>();

/**
 * A picture of numbers that are wider than 16 bits, signed or broken, as pixels of 16 bits. White is the least of 1, 255, 65,535
 * and the largest number there is that holds them all; red, green and blue of at most 1 are light (as in scRGB, IEC 61966-2-2).
 * @throws Failure `picture-too-large`, `picture-damaged`
 */
export function unscaled(bytes: Uint8Array, meta: Metadata): Promise<Unscaled> {
  let found = known.get(bytes);
  if (!found) known.set(bytes, (found = scaled(bytes, meta)));
  return found;
}

async function scaled(
  bytes: Uint8Array,
  { width, height, depth = 'float', space = 'b-w', channels }: Metadata,
): Promise<Unscaled> {
  if (width * height > WHOLE_LIMIT / 4)
    throw new Failure(
      'picture-too-large',
      `The picture has ${width} × ${height} pixels of ${depth} numbers; at most ${megapixels(WHOLE_LIMIT / 4)} of those are opened. Save it with 16 bits first.`,
    );
  let data: Float32Array;
  let parts: number;
  try {
    const native = sharp(bytes, { ignoreIcc: true, failOn: 'error' }).pipelineColourspace(space).toColourspace(space);
    const raw = await native.raw({ depth: 'float' }).toBuffer({ resolveWithObject: true });
    data = new Float32Array(raw.data.buffer, raw.data.byteOffset, raw.data.byteLength / 4);
    parts = raw.info.channels;
  } catch (error) {
    throw damaged(error);
  }
  const hasOpacity = channels === 2 || channels === 4;
  let most = 0;
  for (let i = 0; i < data.length; i++) {
    const isOpacity = hasOpacity && i % parts === parts - 1;
    if (!isOpacity && data[i]! > most && Number.isFinite(data[i])) most = data[i]!;
  }
  const white = whiteFor(depth, most) || 1;
  const isLight = space === 'scrgb' && white === 1;
  const out = new Uint16Array(4 * width * height);
  const part = (value: number): number => {
    const share = Math.min(1, Math.max(0, value / white)) || 0;
    return Math.round((isLight ? fromLight(share) : share) * 65_535);
  };
  const colours = parts - (hasOpacity ? 1 : 0);
  for (let p = 0, i = 0; i < out.length; p += parts, i += 4) {
    for (let k = 0; k < 3; k++) out[i + k] = part(data[p + (colours >= 3 ? k : 0)]!);
    out[i + 3] = hasOpacity ? Math.round((Math.min(1, Math.max(0, data[p + parts - 1]! / white)) || 0) * 65_535) : 65_535;
  }
  const taken = isLight ? 'numbers of light, 1 taken as white' : `numbers that don’t say what is white, ${white} taken as it`;
  return { pixels: { width, height, data: out }, taken };
}
