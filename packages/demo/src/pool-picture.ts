import type { Pixels } from '@inkwell-twin/core';

type Pt = readonly [x: number, y: number];

/** A heron at the water's edge, its feet at 0, 0 and 40 high: its outline, legs and all. */
const HERON: readonly Pt[] = [
  ...bent([-13, 15], [-6, 24], [4, 25], [7, 19]),
  ...bent([7, 19], [9, 26], [1, 31], [5, 38]),
  ...bent([5, 38], [6, 40.5], [9, 40.5], [10, 38.6]),
  [19, 36.6],
  [10, 36.6],
  ...bent([10, 36.6], [6, 34], [12, 28], [10, 18]),
  ...bent([10, 18], [9, 13.5], [7.5, 12.4], [5.2, 12.2]),
  ...[
    [6, 6],
    [5.6, 0.4],
    [8.4, 0],
    [4.4, 0],
    [5.2, 6],
    [3.8, 12.1],
    [2.2, 12.1],
    [2.5, 6],
    [0.7, 0.4],
    [3.4, 0],
  ].map(([x, y]): Pt => [x!, y!]),
  [-0.6, 0],
  [1.6, 6],
  [0.6, 12.2],
  ...bent([0.6, 12.2], [-5, 11.4], [-9, 12.6], [-13, 15]),
];

function bent(from: Pt, c1: Pt, c2: Pt, to: Pt): Pt[] {
  return Array.from({ length: 12 }, (_, i): Pt => {
    const [t, u] = [i / 12, 1 - i / 12];
    const at = (k: 0 | 1) => u * u * u * from[k] + 3 * u * u * t * c1[k] + 3 * u * t * t * c2[k] + t * t * t * to[k];
    return [at(0), at(1)];
  });
}

/** Where the heron stands and how high a unit of it is, as shares of the picture's height; x from the left, y from below. */
const FEET: Pt = [0.62, 0.17];
const UNIT = 0.0145;

/** The heron's outline, as shares of the picture across and up. */
export const heronOutline = (width: number, height: number): [number, number][] =>
  HERON.map(([x, y]) => [FEET[0] + (x * UNIT * height) / width, FEET[1] + y * UNIT]);

/** A number between 0 and 1 for a place, always the same. */
function grain(x: number, y: number, seed: number): number {
  let h = Math.imul(x, 374761393) + Math.imul(y, 668265263) + Math.imul(seed, 2147483647);
  h = Math.imul(h ^ (h >>> 13), 1274126177);
  return ((h ^ (h >>> 16)) >>> 0) / 4294967296;
}

/** A line of values that change smoothly, one for each step. */
function slow(count: number, every: number, seed: number): Float64Array {
  return Float64Array.from({ length: count }, (_, i) => {
    const [at, t] = [Math.floor(i / every), (i % every) / every];
    const s = t * t * (3 - 2 * t);
    return grain(at, 0, seed) * (1 - s) + grain(at + 1, 0, seed) * s;
  });
}

const [SKY_HIGH, SKY_LOW, WATER, DEEP] = [
  [128, 152, 176],
  [224, 206, 186],
  [176, 178, 172],
  [82, 98, 104],
] as const;

/** Where the far bank begins, as a share from above. */
const BANK = 0.4;

/** A heron at the edge of a pool in dull light, as a camera might have seen it: a little grey and a little yellow. */
export function poolPicture(width: number, height: number): Pixels {
  const data = new Uint8Array(4 * width * height);
  const bank = slow(width, width / 60, 1);
  const far = slow(width, width / 9, 2);
  const ripples = slow(height * 4, height / 160, 3);
  const patches = slow(width, width / 14, 4);
  const edge = BANK * height;
  for (let y = 0, i = 0; y < height; y++) {
    const share = y / height;
    const below = (share - BANK) / (1 - BANK);
    for (let x = 0; x < width; x++, i += 4) {
      const noise = (grain(x, y, 5) - 0.5) * 15;
      const top = edge - height * (0.03 + 0.05 * far[x]! + 0.018 * bank[x]!);
      let [r, g, b] = [0, 0, 0];
      if (y < top) {
        const t = share / BANK;
        [r, g, b] = [0, 1, 2].map((part) => SKY_HIGH[part]! + (SKY_LOW[part]! - SKY_HIGH[part]!) * t) as [number, number, number];
      } else if (y < edge) {
        const shade = 0.75 + 0.5 * bank[(x * 7) % width]!;
        [r, g, b] = [84 * shade, 92 * shade, 70 * shade];
      } else {
        // Water shows the sky again, broken by ripples that grow towards one.
        const wave = ripples[Math.floor(y * 2 + 40 * patches[x]! + (x / width) * 60) % ripples.length]! - 0.5;
        const t = Math.min(1, Math.max(0, below * 0.9 + wave * (0.25 + 0.5 * below)));
        [r, g, b] = [0, 1, 2].map((part) => WATER[part]! + (DEEP[part]! - WATER[part]!) * t) as [number, number, number];
        if (below < 0.12 * (1 + far[x]!)) [r, g, b] = [r * 0.72, g * 0.76, b * 0.72];
      }
      data[i] = r + noise;
      data[i + 1] = g + noise;
      data[i + 2] = b + noise * 0.9;
      data[i + 3] = 255;
    }
  }
  const picture = { width, height, data };
  for (let k = 0; k < 90; k++) reed(picture, k);
  heron(picture);
  for (let k = 90; k < 130; k++) reed(picture, k);
  return picture;
}

/** Lays a colour over a pixel. */
function lay({ width, height, data }: Pixels, x: number, y: number, colour: readonly number[], cover: number): void {
  if (x < 0 || y < 0 || x >= width || y >= height) return;
  const i = 4 * (y * width + x);
  for (let part = 0; part < 3; part++) data[i + part] = data[i + part]! * (1 - cover) + colour[part]! * cover;
}

/** A reed that leans a little; the nearer, the darker and wider. */
function reed(picture: Pixels, k: number): void {
  const { width, height } = picture;
  const near = k >= 90;
  const [foot, lean] = [grain(k, 1, 7) * width, (grain(k, 2, 7) - 0.5) * 0.16 * height];
  const from = height * (near ? 1.02 : 0.5 + 0.16 * grain(k, 3, 7));
  const tall = height * (near ? 0.3 + 0.34 * grain(k, 4, 7) : 0.1 + 0.12 * grain(k, 4, 7));
  const wide = (near ? 0.0028 : 0.0012) * height;
  const shade = near ? 0.55 + 0.4 * grain(k, 5, 7) : 0.9 + 0.3 * grain(k, 5, 7);
  const colour = [104 * shade, 112 * shade, 66 * shade];
  for (let s = 0; s < tall; s++) {
    const t = s / tall;
    const [cx, half] = [foot + lean * t * t, wide * (1.1 - t)];
    for (let x = Math.floor(cx - half); x <= cx + half; x++)
      lay(picture, x, Math.round(from - s), colour, Math.min(1, Math.max(0, half - Math.abs(x - cx) + 0.5)));
  }
}

/** The heron, lit from above, and what the water shows of it. */
function heron(picture: Pixels): void {
  const { width, height } = picture;
  const points = heronOutline(width, height).map(([x, y]): Pt => [x * width, (1 - y) * height]);
  const feet = (1 - FEET[1]) * height;
  const top = Math.min(...points.map(([, y]) => y));
  for (let y = Math.floor(top); y <= feet; y++)
    for (let half = 0; half < 2; half++) {
      const level = y + 0.25 + half / 2;
      const xs = points.flatMap(([x1, y1], i) => {
        const [x2, y2] = points[(i + 1) % points.length]!;
        return y1 > level !== y2 > level ? [x1 + ((level - y1) / (y2 - y1)) * (x2 - x1)] : [];
      });
      xs.sort((a, b) => a - b);
      for (let k = 0; k + 1 < xs.length; k += 2)
        for (let x = Math.floor(xs[k]!); x < xs[k + 1]!; x++) {
          const cover = Math.min(1, x + 1 - xs[k]!, xs[k + 1]! - x) / 2;
          const [light, feather] = [1.25 - (0.7 * (level - top)) / (feet - top), 0.85 + 0.3 * grain(x >> 4, y >> 2, 9)];
          lay(picture, x, y, [118 * light * feather, 128 * light * feather, 140 * light * feather], cover / (1 - cover * half));
          const under = Math.round(feet + (feet - y) * 0.55 + 3 * Math.sin(y / 9));
          lay(picture, x, under, [92, 102, 106], 0.22 * cover);
        }
    }
}
