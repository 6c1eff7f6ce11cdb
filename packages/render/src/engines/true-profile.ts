import { digest } from '@inkwell-twin/core';
import sharp from 'sharp';
import { profileChunk, withChunks } from '../formats/png/chunks';
import { profileName } from './icc';
import { profileBytes } from './profiles';

/** Steps of 255 that a colour may be off where two programs write down one space in their own numbers. */
const NEAR = 4;
/** Levels of red, green and blue that a profile is tried with. */
const LEVELS = [0, 85, 170, 255];
const known = new Map<string, Promise<string>>();

/** What a profile makes of a few colours, in sRGB; null where it is none for red, green and blue. */
async function tried(icc: Uint8Array): Promise<Uint8Array | null> {
  const colours = LEVELS.flatMap((r) => LEVELS.flatMap((g) => LEVELS.map((b) => [r, g, b]))).flat();
  const raw = { width: colours.length / 3, height: 1, channels: 3 as const };
  const plain = await sharp(Uint8Array.from(colours), { raw }).png().toBuffer();
  try {
    const own = withChunks(plain, [profileChunk('tried', icc)]);
    return new Uint8Array(await sharp(own, { failOn: 'error' }).toColourspace('srgb').raw().toBuffer());
  } catch (error) {
    // The library says so where a profile is of no use; whatever else went wrong is not the profile's.
    if (!/profile|colou?r|icc/i.test((error as Error).message)) throw error;
    return null;
  }
}

const isOfColours = (icc: Uint8Array): boolean => new TextDecoder('latin1').decode(icc.subarray(16, 20)) === 'RGB ';

async function checked(icc: Uint8Array): Promise<string> {
  const name = profileName(icc);
  if ((name !== 'sRGB' && name !== 'Display P3') || !isOfColours(icc)) return name;
  const ours = await profileBytes(name);
  if (digest(ours) === digest(icc)) return name;
  const [found, meant] = [await tried(icc), await tried(ours)];
  return found && meant?.every((part, i) => Math.abs(part - found[i]!) <= NEAR) ? name : `“${name}” with other colours`;
}

/**
 * What a colour profile calls itself, and a name of one of the two spaces that copies are made in only where it makes the same
 * of colours as they do: what calls itself so and is another space would be taken at its word otherwise.
 */
export function trueName(icc: Uint8Array): Promise<string> {
  const key = digest(icc);
  let found = known.get(key);
  if (!found) {
    if (known.size > 500) known.clear();
    known.set(key, (found = checked(icc)));
  }
  return found;
}
