import type { PictureEngine, Pixels } from '../../contracts/pictures';
import { drawnPicture } from '../../contracts/pictures';
import type { DrawnPicture } from '../../contracts/drawn-picture';
import { isPicture } from '../../document/paint';
import { PHOTOGRAPH } from '../../document/picture-encoding';
import type { ResolvedPart } from '../resolve';
import { deltaE, labOf } from './lab';
import { ssimOf } from './ssim';

/** How pictures are made smaller: no denser than this where they are shown, and packed at a quality. */
export interface Shrinking {
  /** Pixels an inch. */
  readonly ppi: number;
  /** 1 to 100. */
  readonly quality: number;
}

/** What making a picture smaller saved, and what it cost. */
export interface Saving {
  /** Pixels before and after. */
  readonly before: number;
  readonly after: number;
  /** How far colours are off, on average (CIEDE2000), and how alike the structure is, 1 for the same (SSIM). */
  readonly deltaE: number;
  readonly ssim: number;
}

interface Size {
  readonly width: number;
  readonly height: number;
}

const MM_TO_INCH = 1 / 25.4;

function cellWords({ cells }: ResolvedPart, found: Set<string>): Set<string> {
  for (const cell of cells.values()) {
    for (const { style } of cell.entries) if (isPicture(style.fill)) found.add(style.fill.picture);
    cellWords(cell, found);
  }
  return found;
}

/**
 * How many pixels of each picture show at a density, by the words that a master has for them. What patterns and masks are made
 * of is shown at any size: it is not among them.
 */
export function pixelsNeeded(part: ResolvedPart, ppi: number): ReadonlyMap<string, Size> {
  const needed = new Map<string, Size>();
  for (const { style } of part.entries) {
    if (!isPicture(style.fill)) continue;
    const [a, b, c, d] = style.fill.at;
    const before = needed.get(style.fill.picture) ?? { width: 1, height: 1 };
    needed.set(style.fill.picture, {
      width: Math.max(before.width, Math.hypot(a, b) * MM_TO_INCH * ppi),
      height: Math.max(before.height, Math.hypot(c, d) * MM_TO_INCH * ppi),
    });
  }
  for (const word of cellWords(part, new Set())) needed.delete(word);
  return needed;
}

/** Less than this share fewer pixels are not worth the loss. */
const WORTH = 0.9;

/**
 * A picture with no more pixels than are needed, packed as whichever is smaller: as JPEG of a quality where nothing is seen
 * through, or without loss.
 * @returns null where that makes it no smaller
 */
export async function shrinkPicture(
  engine: PictureEngine,
  { bytes, width, height, mediaType }: DrawnPicture,
  need: Size,
  quality: number,
): Promise<{ readonly drawn: DrawnPicture; readonly saving: Saving } | null> {
  const share = Math.max(need.width / width, need.height / height);
  const isScaled = share < WORTH;
  // One that is packed with loss already and needs every pixel would only lose again.
  if (!isScaled && mediaType === JPEG) return null;
  const whole = await engine.rows(bytes, 8);
  const size = isScaled
    ? { width: Math.max(1, Math.round(width * share)), height: Math.max(1, Math.round(height * share)) }
    : { width, height };
  const rows = isScaled ? await engine.resize(whole, size.width, size.height) : whole;
  const pixels = rows.held ?? rows.rows(0, rows.height);
  const made = isSolid(pixels) ? await engine.encode(rows, { ...PHOTOGRAPH, quality, ppi: 96 }) : await engine.png(pixels);
  if (made.length >= bytes.length) return null;
  const drawn = await drawnPicture(engine, made);
  const lost = lossOf(await engine.pixels(bytes, 8), await engine.pixels(made, 8));
  return { drawn, saving: { before: width * height, after: size.width * size.height, ...lost } };
}
const JPEG = 'image/jpeg';

function isSolid({ data }: Pixels): boolean {
  for (let i = 3; i < data.length; i += 4) if (data[i] !== 255) return false;
  return true;
}

/** Pixels of a side of what is looked at, and how many of these stand across and down. */
const [TILE, TILES] = [48, 4];

/**
 * How far a picture is from what it was made of: squares of the one, spread over it, held against the other drawn at its size.
 * @returns mean CIEDE2000 and SSIM (Wang et al., 2004) over all squares
 */
export function lossOf(whole: Pixels, less: Pixels): { deltaE: number; ssim: number } {
  const tile = Math.min(TILE, whole.width, whole.height);
  let [off, alike, count] = [0, 0, 0];
  for (let row = 0; row < TILES; row++)
    for (let column = 0; column < TILES; column++) {
      const x0 = Math.round(((whole.width - tile) * column) / (TILES - 1));
      const y0 = Math.round(((whole.height - tile) * row) / (TILES - 1));
      const [a, b] = [new Float64Array(tile * tile), new Float64Array(tile * tile)];
      for (let y = 0; y < tile; y++)
        for (let x = 0; x < tile; x++) {
          const one = at(whole, x0 + x + 0.5, y0 + y + 0.5);
          const other = at(less, ((x0 + x + 0.5) * less.width) / whole.width, ((y0 + y + 0.5) * less.height) / whole.height);
          const [p, q] = [labOf(...one), labOf(...other)];
          off += deltaE(p, q);
          [a[y * tile + x], b[y * tile + x]] = [p[0], q[0]];
        }
      alike += ssimOf(a, b, tile, 100);
      count++;
    }
  return { deltaE: off / (count * tile * tile), ssim: alike / count };
}

type Parts = [red: number, green: number, blue: number];

/** The colour at a place, drawn between the middles of pixels, laid over white where it is seen through. */
function at({ width, height, data }: Pixels, x: number, y: number): Parts {
  const [fx, fy] = [Math.min(width - 1, Math.max(0, x - 0.5)), Math.min(height - 1, Math.max(0, y - 0.5))];
  const [x0, y0] = [Math.floor(fx), Math.floor(fy)];
  const [x1, y1] = [Math.min(width - 1, x0 + 1), Math.min(height - 1, y0 + 1)];
  const [sx, sy] = [fx - x0, fy - y0];
  const part = (px: number, py: number, k: number): number => {
    const i = 4 * (py * width + px);
    const cover = data[i + 3]! / 255;
    return data[i + k]! * cover + 255 * (1 - cover);
  };
  const mixed = (k: number): number =>
    Math.round(
      (part(x0, y0, k) * (1 - sx) + part(x1, y0, k) * sx) * (1 - sy) + (part(x0, y1, k) * (1 - sx) + part(x1, y1, k) * sx) * sy,
    );
  return [mixed(0), mixed(1), mixed(2)];
}
