import type { Contrast, Exposure, Levels, Saturation, SingleInk, WhitePoint } from '../../document/corrections';
import type * as z from 'zod';
import { type Pixels } from '../../contracts/pictures';

type Of<S extends z.ZodType> = z.infer<S>;

/** The largest number that a pixel's parts have. */
export const fullOf = ({ data }: Pixels): number => (data instanceof Uint16Array ? 65535 : 255);

/** Red, green and blue of "#rrggbb", 0 to 1. */
export const partsOf = (colour: string): readonly [number, number, number] => {
  const value = parseInt(colour.slice(1), 16);
  return [(value >> 16) / 255, ((value >> 8) & 255) / 255, (value & 255) / 255];
};

/** Light from an sRGB part, and back (IEC 61966-2-1). */
export const toLight = (part: number): number => (part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4);
export const fromLight = (light: number): number => (light <= 0.0031308 ? light * 12.92 : 1.055 * light ** (1 / 2.4) - 0.055);

const clamp = (value: number): number => (value < 0 ? 0 : value > 1 ? 1 : value);

/** Each part by itself: a table of what every value becomes. */
function byTable(pixels: Pixels, ...curves: readonly ((part: number) => number)[]): Pixels {
  const { data } = pixels;
  const full = fullOf(pixels);
  const tables = curves.map((curve) => {
    const table = new Uint16Array(full + 1);
    for (let i = 0; i <= full; i++) table[i] = Math.round(clamp(curve(i / full)) * full);
    return table;
  });
  const [red, green = red, blue = red] = tables as [Uint16Array, Uint16Array?, Uint16Array?];
  for (let i = 0; i < data.length; i += 4) {
    data[i] = red[data[i]!]!;
    data[i + 1] = green[data[i + 1]!]!;
    data[i + 2] = blue[data[i + 2]!]!;
  }
  return pixels;
}

export const levels = (pixels: Pixels, { black, white, gamma }: Of<typeof Levels>): Pixels => {
  const span = white - black;
  return byTable(pixels, (part) => (Math.abs(span) < 1e-6 ? Number(part > black) : clamp((part - black) / span) ** (1 / gamma)));
};

/** In light, not in numbers: a stop is twice the light. */
export const exposure = (pixels: Pixels, { stops }: Of<typeof Exposure>): Pixels =>
  byTable(pixels, (part) => fromLight(clamp(toLight(part) * 2 ** stops)));

/** About the middle grey: straight up to twice as steep as a line can be, flat at −1. */
export const contrast = (pixels: Pixels, { amount }: Of<typeof Contrast>): Pixels => {
  const slope = amount < 0 ? 1 + amount : 1 / Math.max(1 - amount, 1e-3);
  return byTable(pixels, (part) => 0.5 + (part - 0.5) * slope);
};

/** Light of red, green and blue as the eye weighs them (ITU-R BT.709), on the numbers as they are. */
const [R, G, B] = [0.2126, 0.7152, 0.0722];

export function saturation(pixels: Pixels, { amount }: Of<typeof Saturation>): Pixels {
  const { data } = pixels;
  const full = fullOf(pixels);
  for (let i = 0; i < data.length; i += 4) {
    const [r, g, b] = [data[i]!, data[i + 1]!, data[i + 2]!];
    const grey = R * r + G * g + B * b;
    data[i] = bounded(grey + (r - grey) * amount, full);
    data[i + 1] = bounded(grey + (g - grey) * amount, full);
    data[i + 2] = bounded(grey + (b - grey) * amount, full);
  }
  return pixels;
}
const bounded = (value: number, full: number): number => (value < 0 ? 0 : value > full ? full : value + 0.5);

/** Light of each part is multiplied so that the colour has equal parts and the same light as before. */
export function whitePoint(pixels: Pixels, { colour }: Of<typeof WhitePoint>): Pixels {
  const light = partsOf(colour).map((part) => Math.max(toLight(part), 1e-3)) as [number, number, number];
  const grey = R * light[0] + G * light[1] + B * light[2];
  return byTable(pixels, ...light.map((one) => (part: number) => fromLight(clamp((toLight(part) * grey) / one))));
}

export function singleInk(pixels: Pixels, { colour }: Of<typeof SingleInk>): Pixels {
  const { data } = pixels;
  const full = fullOf(pixels);
  const [r, g, b] = partsOf(colour);
  for (let i = 0; i < data.length; i += 4) {
    const grey = (R * data[i]! + G * data[i + 1]! + B * data[i + 2]!) / full;
    data[i] = Math.round((r + (1 - r) * grey) * full);
    data[i + 1] = Math.round((g + (1 - g) * grey) * full);
    data[i + 2] = Math.round((b + (1 - b) * grey) * full);
  }
  return pixels;
}
