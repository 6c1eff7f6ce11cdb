import { type Pixels, type ProfileName, fromLight, toLight } from '@inkwell-twin/core';
import sharp from 'sharp';

const known = new Map<ProfileName, Promise<Uint8Array>>();

/** The bytes of a colour profile, as the library writes it into pictures. */
export function profileBytes(name: ProfileName): Promise<Uint8Array> {
  let found = known.get(name);
  if (!found) {
    found = (async () => {
      const dot = sharp({ create: { width: 1, height: 1, channels: 3, background: '#808080' } });
      const file = await dot
        .withIccProfile(name === 'Display P3' ? 'p3' : 'srgb')
        .png()
        .toBuffer();
      return (await sharp(file).metadata()).icc!;
    })();
    known.set(name, found);
  }
  return found;
}

/** Light of red, green and blue from one space into the other: both have the same white and the same bend (SMPTE EG 432-1, IEC 61966-2-1). */
const TO_P3 = [
  [0.8224621, 0.177538, 0],
  [0.0331941, 0.9668058, 0],
  [0.0170827, 0.0723974, 0.9105199],
] as const;
const FROM_P3 = [
  [1.2249401, -0.2249404, 0],
  [-0.0420569, 1.0420571, 0],
  [-0.0196376, -0.0786361, 1.0982735],
] as const;

const LIGHT = Float32Array.from({ length: 65536 }, (_, i) => toLight(i / 65535));
/** Parts for light, in steps that are fine enough for 16 bits in the dark, too. */
const PARTS = Uint16Array.from({ length: 65536 * 4 + 1 }, (_, i) => Math.round(fromLight(i / (65536 * 4)) * 65535));

/** Pixels of 16 bits stated in another space; what it can't state is cut off. */
export function restated(pixels: Pixels, to: 'Display P3' | 'sRGB'): Pixels {
  const { data } = pixels;
  const rows = to === 'Display P3' ? TO_P3 : FROM_P3;
  const out = data.slice();
  for (let i = 0; i < data.length; i += 4) {
    const [r, g, b] = [LIGHT[data[i]!]!, LIGHT[data[i + 1]!]!, LIGHT[data[i + 2]!]!];
    for (let part = 0; part < 3; part++) {
      const row = rows[part]!;
      const light = row[0] * r + row[1] * g + row[2] * b;
      out[i + part] = PARTS[light <= 0 ? 0 : light >= 1 ? 65536 * 4 : Math.round(light * 65536 * 4)]!;
    }
  }
  return { ...pixels, data: out };
}
