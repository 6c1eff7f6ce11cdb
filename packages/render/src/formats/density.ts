import { exifOf } from './exif';
import { segmentsOf } from './jpeg/segments';
import { chunksOf, numbersIn } from './png/chunks';
import { riffPartsOf } from './webp/parts';
import { densitiesInTiff } from './tiff/known';

/** Pixels per inch that a file states, and how high a pixel is for one of its width. */
interface StatedDensity {
  /** Null where only their sides are stated. */
  readonly ppi: number | null;
  readonly stretch: number;
}

const [METRES_PER_INCH, CM_PER_INCH] = [0.0254, 2.54];
const SQUARE = 0.005;

/** Two densities as one and a stretch; sides that are nearly the same are the same. */
function stated(across: number, down: number, factor: number | null): StatedDensity | null {
  if (!(across > 0 && down > 0 && Number.isFinite(across) && Number.isFinite(down))) return null;
  const stretch = Math.abs(across - down) <= SQUARE * across ? 1 : across / down;
  return { ppi: factor === null ? null : across * factor, stretch };
}

const ofExif = (block: Uint8Array): StatedDensity | null => {
  const { ppi } = exifOf(block);
  return ppi === null ? null : { ppi, stretch: 1 };
};

/** Pixels per inch of a JFIF segment (ITU-T T.871, 10.1): its unit, then across and down. */
function ofJfif(body: Uint8Array): StatedDensity | null {
  const [unit, x, y] = [body[7], (body[8]! << 8) | body[9]!, (body[10]! << 8) | body[11]!];
  return stated(x, y, unit === 1 ? 1 : unit === 2 ? CM_PER_INCH : null);
}

const isJfif = (body: Uint8Array): boolean =>
  body.length >= 12 && Buffer.from(body.subarray(0, 5)).toString('latin1') === 'JFIF\0';
const isExif = (body: Uint8Array): boolean => Buffer.from(body.subarray(0, 5)).toString('latin1') === 'Exif\0';

/** How each format says it, by its media type. */
const IN: Readonly<Record<string, (bytes: Uint8Array) => StatedDensity | null>> = {
  'image/png': (bytes) => {
    for (const { type, body } of chunksOf(bytes)) {
      if (type !== 'pHYs' || body.length < 9) continue;
      const [x, y] = numbersIn(body) as [number, number];
      return stated(x, y, body[8] === 1 ? METRES_PER_INCH : null);
    }
    for (const { type, body } of chunksOf(bytes)) if (type === 'eXIf') return ofExif(body);
    return null;
  },
  'image/jpeg': (bytes) => {
    let aside: StatedDensity | null = null;
    for (const { marker, body } of segmentsOf(bytes)) {
      const found = marker === 0xe0 && isJfif(body) ? ofJfif(body) : marker === 0xe1 && isExif(body) ? ofExif(body) : null;
      if (found?.ppi) return found;
      aside ??= found;
    }
    return aside;
  },
  'image/webp': (bytes) => {
    for (const { type, body } of riffPartsOf(bytes)) if (type === 'EXIF') return ofExif(body);
    return null;
  },
  'image/tiff': (bytes) => {
    const found = densitiesInTiff(bytes);
    return found && stated(found.x, found.y, found.unit === 2 ? 1 : found.unit === 3 ? CM_PER_INCH : null);
  },
};

/** What a file says of its density itself; null where it says nothing. A library gives 72 to those that say nothing. */
export const statedDensity = (mediaType: string, bytes: Uint8Array): StatedDensity | null => IN[mediaType]?.(bytes) ?? null;
