import { type DrawnPicture, type PictureEngine, type Pixels, wordOfPixels } from '@inkwell-twin/core';
import { fromPixels } from '../../../engines/raw';
import { type StoodIn, pictureOfLying, stoodFor } from './images';

/** A picture as the library gives it: 1 bit of grey, red green blue, or those with opacity. */
interface Unpacked {
  readonly width: number;
  readonly height: number;
  readonly kind: 1 | 2 | 3;
  readonly data: Uint8Array | Uint8ClampedArray;
}

const isUnpacked = (found: unknown): found is Unpacked =>
  typeof found === 'object' && found !== null && 'data' in found && 'kind' in found && ArrayBuffer.isView(found.data);

function pixelsOf({ width, height, kind, data }: Unpacked): Pixels {
  const made = new Uint8Array(4 * width * height);
  const row = (width + 7) >> 3;
  for (let i = 0, y = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const to = 4 * i;
      if (kind === 1) made[to] = made[to + 1] = made[to + 2] = data[y * row + (x >> 3)]! & (0x80 >> (x & 7)) ? 255 : 0;
      else {
        const from = (kind === 2 ? 3 : 4) * i;
        made[to] = data[from]!;
        made[to + 1] = data[from + 1]!;
        made[to + 2] = data[from + 2]!;
      }
      made[to + 3] = kind === 3 ? data[4 * i + 3]! : 255;
    }
  return { width, height, data: made };
}

/** Finds the pictures of a file, each once: as they lie in it where they do so in a way that is known, else as the library unpacks them. */
export class PictureFinder {
  private readonly known = new Map<number, Promise<DrawnPicture>>();

  constructor(
    private readonly stood: StoodIn,
    private readonly engine: PictureEngine,
  ) {}

  /** @returns null for what is no picture that is known */
  async find(found: unknown): Promise<DrawnPicture | null> {
    if (!isUnpacked(found)) return null;
    const which = found.kind === 1 ? null : stoodFor(found.width, found.height, found.data, found.kind === 2 ? 3 : 4);
    const lying = which === null ? undefined : this.stood.pictures[which];
    if (which !== null && lying) {
      let made = this.known.get(which);
      if (!made) this.known.set(which, (made = pictureOfLying(lying, this.stood, this.engine)));
      return made;
    }
    const pixels = pixelsOf(found);
    const { width, height } = pixels;
    const bytes = await fromPixels(pixels).png({ compressionLevel: 1 }).toBuffer();
    return { word: wordOfPixels(pixels), width, height, mediaType: 'image/png', bytes };
  }
}
