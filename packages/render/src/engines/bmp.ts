import { Failure } from '@inkwell-twin/core';

/**
 * Reader of BMP, by the headers and packings of the published description of device-independent bitmaps: 1, 4, 8, 16, 24 and
 * 32 bits, with and without runs. Its own, as the library at hand mixes the colours of a palette up.
 */
export const isBmp = (bytes: Uint8Array): boolean => bytes[0] === 0x42 && bytes[1] === 0x4d && bytes.length > 26;

/** How pixels are packed. */
const [PLAIN, RUNS_8, RUNS_4, MASKS, MASKS_AND_OPACITY] = [0, 1, 2, 3, 6];
const FILE_HEADER = 14;
const OLD_HEADER = 12;

interface Head {
  readonly width: number;
  readonly height: number;
  /** Rows are counted from the top, not from the bottom. */
  readonly isTopDown: boolean;
  readonly bits: number;
  readonly packing: number;
  readonly ppi: number | null;
  readonly pixelsAt: number;
  readonly paletteAt: number;
  /** Bytes of a colour in the palette. */
  readonly paletteStep: number;
  readonly colours: number;
}

interface Bitmap {
  readonly width: number;
  readonly height: number;
  readonly ppi: number | null;
  readonly data: Uint8Array;
}

const damaged = (words: string, byte: number): Failure =>
  new Failure('picture-damaged', `The picture is damaged: ${words}.`, { byte });

/** Pixels on a metre as pixels per inch: whole ones, where no other could be meant. */
function inchesOf(perMetre: number): number | null {
  if (perMetre <= 0) return null;
  const ppi = perMetre * 0.0254;
  return Math.round(Math.round(ppi) / 0.0254) === perMetre ? Math.round(ppi) : Math.round(ppi * 100) / 100;
}

function headOf(bytes: Uint8Array, view: DataView): Head {
  const size = view.getUint32(FILE_HEADER, true);
  const old = size === OLD_HEADER;
  if (!old && (size < 16 || bytes.length < FILE_HEADER + Math.min(size, 40)))
    throw damaged('its header ends before it says how large it is', bytes.length);
  const [width, signed, bits] = old
    ? [view.getUint16(18, true), view.getUint16(20, true), view.getUint16(24, true)]
    : [view.getInt32(18, true), view.getInt32(22, true), view.getUint16(28, true)];
  const said = (at: number): number => (!old && size >= 40 ? view.getUint32(at, true) : 0);
  const packing = said(30);
  const masks = size === 40 && packing === MASKS ? 12 : size === 40 && packing === MASKS_AND_OPACITY ? 16 : 0;
  return {
    width,
    height: Math.abs(signed),
    isTopDown: signed < 0,
    bits,
    packing,
    ppi: inchesOf(said(38) | 0),
    pixelsAt: view.getUint32(10, true),
    paletteAt: FILE_HEADER + size + masks,
    paletteStep: old ? 3 : 4,
    colours: bits > 8 ? 0 : Math.min(said(46) || 1 << bits, 1 << bits),
  };
}

/** Colours of a palette, three parts each; what it leaves out is black. */
function paletteOf(bytes: Uint8Array, { paletteAt, paletteStep, colours, bits }: Head): Uint8Array {
  const palette = new Uint8Array(3 * (1 << bits));
  for (let i = 0; i < colours; i++) {
    const at = paletteAt + paletteStep * i;
    if (at + 3 > bytes.length) throw damaged('its palette breaks off', bytes.length);
    palette.set([bytes[at + 2]!, bytes[at + 1]!, bytes[at]!], 3 * i);
  }
  return palette;
}

/** The number that each pixel has in the palette, row by row from where the file begins. */
function indexesPlain(bytes: Uint8Array, { width, height, bits, pixelsAt }: Head): Uint8Array {
  const row = Math.ceil((width * bits) / 32) * 4;
  const indexes = new Uint8Array(width * height);
  const mask = (1 << bits) - 1;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const bit = x * bits;
      indexes[y * width + x] = (bytes[pixelsAt + y * row + (bit >> 3)]! >> (8 - bits - (bit & 7))) & mask;
    }
  return indexes;
}

/** As `indexesPlain`, of pixels that are packed as runs; 255 and 0 end a row and a picture, what is left out has number 0. */
function indexesOfRuns(bytes: Uint8Array, { width, height, packing, pixelsAt }: Head): Uint8Array {
  const indexes = new Uint8Array(width * height);
  const isHalf = packing === RUNS_4;
  let [at, x, y] = [pixelsAt, 0, 0];
  const put = (index: number): void => {
    if (x < width && y < height) indexes[y * width + x] = index;
    x++;
  };
  const half = (byte: number, k: number): number => (k % 2 ? byte & 15 : byte >> 4);
  for (;;) {
    if (at + 2 > bytes.length) throw damaged('its runs of pixels break off', bytes.length);
    const [count, value] = [bytes[at]!, bytes[at + 1]!];
    at += 2;
    if (count) for (let k = 0; k < count; k++) put(isHalf ? half(value, k) : value);
    else if (value === 0) [x, y] = [0, y + 1];
    else if (value === 1) return indexes;
    else if (value === 2) {
      if (at + 2 > bytes.length) throw damaged('its runs of pixels break off', bytes.length);
      x += bytes[at]!;
      y += bytes[at + 1]!;
      at += 2;
    } else {
      const length = isHalf ? (value + 1) >> 1 : value;
      if (at + length > bytes.length) throw damaged('its runs of pixels break off', bytes.length);
      for (let k = 0; k < value; k++) put(isHalf ? half(bytes[at + (k >> 1)]!, k) : bytes[at + k]!);
      at += length + (length % 2);
    }
    if (y > height) return indexes;
  }
}

/** Where a part of a colour lies in a number, and how many steps it has. */
interface Part {
  readonly shift: number;
  readonly most: number;
}
function partOf(mask: number): Part | null {
  if (!mask) return null;
  const shift = 31 - Math.clz32(mask & -mask);
  return { shift, most: mask >>> shift };
}

/** Masks of red, green, blue and opacity; the usual ones where the file says none. */
function partsOf(bytes: Uint8Array, view: DataView, { bits, packing }: Head): (Part | null)[] {
  const usual = bits === 16 ? [0x7c00, 0x3e0, 0x1f, 0] : [0xff0000, 0xff00, 0xff, bits === 32 ? 0xff000000 : 0];
  if (packing !== MASKS && packing !== MASKS_AND_OPACITY) return usual.map(partOf);
  const size = view.getUint32(FILE_HEADER, true);
  const at = FILE_HEADER + 40;
  const saysOpacity = size >= 56 || packing === MASKS_AND_OPACITY;
  if (at + (saysOpacity ? 16 : 12) > bytes.length) throw damaged('its header breaks off', bytes.length);
  return [0, 1, 2, 3].map((k) => (k < 3 || saysOpacity ? partOf(view.getUint32(at + 4 * k, true)) : null));
}

/** Pixels of numbers that hold their colour themselves. @param line where a row of the file goes in `out` */
function ofColours(bytes: Uint8Array, view: DataView, head: Head, line: (y: number) => number, out: Uint8Array): void {
  const { width, height, bits, pixelsAt } = head;
  const [step, row] = [bits / 8, Math.ceil((width * bits) / 32) * 4];
  const parts = partsOf(bytes, view, head);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = pixelsAt + y * row + x * step;
      const low = bits === 32 ? view.getUint32(at, true) : view.getUint16(at, true);
      const number = bits === 24 ? low | (bytes[at + 2]! << 16) : low;
      const to = line(y) + 4 * x;
      for (let k = 0; k < 4; k++) {
        const part = parts[k];
        out[to + k] = part ? Math.round((((number >>> part.shift) & part.most) / part.most) * 255) : 255;
      }
    }
}

/**
 * A BMP as pixels; its sizes are looked at before anything is made of it.
 * @param most pixels that are opened
 * @param sizeOnly leaves the pixels out
 * @throws Failure `picture-damaged`, `picture-too-large`, `picture-unknown`
 */
export function bmpPixels(bytes: Uint8Array, most: number, sizeOnly = false): Bitmap {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const head = headOf(bytes, view);
  const { width, height, bits, packing, ppi } = head;
  if (!(width > 0 && height > 0))
    throw new Failure('picture-damaged', `The picture says that it is ${width} × ${height} pixels.`, { byte: 18 });
  if (width * height > most)
    throw new Failure(
      'picture-too-large',
      `The picture has ${width} × ${height} pixels; at most ${Math.round(most / 1e6)} million are opened.`,
    );
  const isRuns = (packing === RUNS_8 && bits === 8) || (packing === RUNS_4 && bits === 4);
  const isNumbers = [PLAIN, MASKS, MASKS_AND_OPACITY].includes(packing) && [1, 2, 4, 8, 16, 24, 32].includes(bits);
  if (!isRuns && !isNumbers)
    throw new Failure('picture-unknown', `A BMP of ${bits} bits, packed in way ${packing}, is not read. Save it as PNG.`, {
      byte: 28,
    });
  if (sizeOnly) return { width, height, ppi, data: new Uint8Array() };
  const row = Math.ceil((width * bits) / 32) * 4;
  if (!isRuns && head.pixelsAt + row * height > bytes.length)
    throw new Failure('picture-damaged', `The picture ends before its ${width} × ${height} pixels do.`, { byte: bytes.length });
  const data = new Uint8Array(4 * width * height);
  const line = (y: number): number => 4 * width * (head.isTopDown ? y : height - 1 - y);
  if (bits > 8) ofColours(bytes, view, head, line, data);
  else {
    const palette = paletteOf(bytes, head);
    const indexes = isRuns ? indexesOfRuns(bytes, head) : indexesPlain(bytes, head);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const from = 3 * indexes[y * width + x]!;
        data.set([palette[from]!, palette[from + 1]!, palette[from + 2]!, 255], line(y) + 4 * x);
      }
  }
  // Only 32 bits may hold opacity, and many programs leave it empty then.
  let seen = false;
  for (let i = 3; i < data.length && !seen; i += 4) seen = data[i] !== 0;
  if (bits < 32 || !seen) for (let i = 3; i < data.length; i += 4) data[i] = 255;
  return { width, height, ppi, data };
}
