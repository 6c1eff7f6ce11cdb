import { inflateSync } from 'node:zlib';
import {
  type DrawnPicture,
  Failure,
  type PictureEngine,
  type Pixels,
  drawnPicture,
  heldRows,
  wholeOf,
  wordOfPixels,
} from '@inkwell-twin/core';
import { fromPixels } from '../../../engines/raw';
import { chunk } from '../../png/chunks';
import { usualSpaces } from './usual-spaces';

/** A picture that lies in a file in a way that is known: a JPEG, or bytes of 8 bits packed as a PNG packs them or plainly. */
interface Lying {
  readonly width: number;
  readonly height: number;
  readonly grey: boolean;
  readonly packing: 'jpeg' | 'rows' | 'plain';
  readonly bytes: Uint8Array;
  /** Number of the object that holds its opacity. */
  readonly veil: number | null;
}

/** A file whose pictures stand aside for small ones that say which they are. */
export interface StoodIn {
  readonly bytes: Uint8Array;
  readonly pictures: readonly Lying[];
  /** By the number of their objects. */
  readonly byObject: ReadonlyMap<number, Lying>;
}

const say = (text: string): Buffer => Buffer.from(text, 'latin1');
/** Pixels of a picture that are opened at once. */
export const PIXELS_AT_ONCE = 120_000_000;
/** First pixels of what stands in. */
const SIGN = [0x7b, 0x11, 0xe3, 0x5d, 0xa2, 0x94];
const STANDING = { width: 3, height: 1 };

/** The object that says how much of a picture shows. */
const VEIL = /\/SMask\s+(\d+)\s+0\s+R/;

const number = (dictionary: string, key: string): number | undefined => {
  const found = new RegExp(`/${key}\\s+(\\d+)(?!\\s+\\d+\\s+R)`).exec(dictionary)?.[1];
  return found === undefined ? undefined : Number(found);
};

/** What is packed once more; null where it is damaged, or longer than any picture of its size. */
function unpacked(stream: Buffer, most: number): Buffer | null {
  try {
    return inflateSync(stream, { maxOutputLength: most });
  } catch {
    return null;
  }
}

/**
 * What a dictionary says of a picture, where all that it says is known.
 * @param colours what says that its parts are red, green and blue
 */
function lyingBy(dictionary: string, stream: Buffer, colours: RegExp): Lying | null {
  if (/\/(Decode|Mask|ImageMask|Matte|SMaskInData|Alternates|OPI)\b(?!Parms)/.test(dictionary)) return null;
  const [width, height] = [number(dictionary, 'Width'), number(dictionary, 'Height')];
  const grey = /\/ColorSpace\s*\/DeviceGray\b/.test(dictionary);
  const filters = (/\/Filter\s*(\[[^\]]*\]|\/\w+)/.exec(dictionary)?.[1] ?? '').match(/\w+/g)?.join(' ');
  if (!width || !height || !(grey || colours.test(dictionary)) || !filters || number(dictionary, 'BitsPerComponent') !== 8)
    return null;
  const veil = VEIL.exec(dictionary)?.[1];
  const common = { width, height, grey, bytes: stream, veil: veil === undefined ? null : Number(veil) };
  if (filters === 'DCTDecode') return /\/DecodeParms/.test(dictionary) ? null : { ...common, packing: 'jpeg' };
  if (filters === 'FlateDecode DCTDecode' && !/\/DecodeParms/.test(dictionary)) {
    const bytes = unpacked(stream, 4 * width * height + 65_536);
    return bytes && { ...common, bytes, packing: 'jpeg' };
  }
  if (filters !== 'FlateDecode') return null;
  const parms = /\/DecodeParms\s*(?:\[\s*)?<<([^<>]*)>>/.exec(dictionary)?.[1];
  if (parms === undefined) return /\/DecodeParms/.test(dictionary) ? null : { ...common, packing: 'plain' };
  const fits =
    (number(parms, 'Predictor') ?? 1) >= 10 &&
    (number(parms, 'Columns') ?? 1) === width &&
    (number(parms, 'Colors') ?? 1) === (grey ? 1 : 3) &&
    (number(parms, 'BitsPerComponent') ?? 8) === 8;
  return fits ? { ...common, packing: 'rows' } : null;
}

/** Whether a file is locked, with a password or with none. */
export const isLocked = (file: Uint8Array): boolean =>
  Buffer.from(file.buffer, file.byteOffset, file.length).includes('/Encrypt');

/**
 * Finds the pictures that lie in a file as whole objects, and puts small ones in their places: the library unpacks pictures by
 * itself, slowly, and would give a JPEG's pixels otherwise than everyone else does.
 */
export async function standIn(bytes: Uint8Array): Promise<StoodIn> {
  const file = Buffer.from(bytes);
  const pictures: Lying[] = [];
  const byObject = new Map<number, Lying>();
  const veils = new Set<number>();
  const places: { id: number; found: Lying; head: number; room: number; start: number; length: number }[] = [];
  // What is locked can't be told from what is damaged.
  if (isLocked(file)) return { bytes: file, pictures, byObject };
  const colours = await usualSpaces(file);
  for (let at = file.indexOf('/Image'); at >= 0; at = file.indexOf('/Image', at + 6)) {
    const head = file.lastIndexOf(' obj', at);
    const stream = file.indexOf('stream', at);
    if (head < 0 || stream < 0 || stream - head > 4096) continue;
    const dictionary = file.toString('latin1', head + 4, stream);
    if (!/^\s*<<[\s\S]*\/Subtype\s*\/Image\b[\s\S]*>>\s*$/.test(dictionary)) continue;
    const id = /(\d+)\s+\d+$/.exec(file.toString('latin1', Math.max(0, head - 24), head))?.[1];
    let start = stream + 6;
    if (file[start] === 13) start++;
    if (file[start] === 10) start++;
    const length = number(dictionary, 'Length');
    const stated = length !== undefined && /^\s*endstream/.test(file.toString('latin1', start + length, start + length + 14));
    const end = stated ? start + length : file.indexOf('endstream', start);
    if (id === undefined || end < 0) continue;
    const found = lyingBy(dictionary, Buffer.from(file.subarray(start, end)), colours);
    const veil = VEIL.exec(dictionary)?.[1];
    if (veil !== undefined) veils.add(Number(veil));
    if (found) {
      byObject.set(Number(id), found);
      places.push({ id: Number(id), found, head: head + 4, room: dictionary.length, start, length: end - start });
    }
    at = end;
  }
  // What only says how much of another shows is left where it is: that other may be of a kind that is not known.
  for (const { id, found, head, room, start, length } of places) {
    const stand = `<</Type/XObject/Subtype/Image/Width ${STANDING.width}/Height ${STANDING.height}/ColorSpace/DeviceRGB/BitsPerComponent 8/Length ${length}>>`;
    const whole = found.veil === null || byObject.has(found.veil);
    if (!whole || veils.has(id) || stand.length > room || length < 9) continue;
    file.set(say(stand.padEnd(room)), head);
    const which = pictures.push(found) - 1;
    file.set([...SIGN, which >> 16, (which >> 8) & 255, which & 255], start);
  }
  return { bytes: file, pictures, byObject };
}

/** Which picture a small one stands for. @param parts red, green and blue of its pixels, by turns, in steps of so many */
export function stoodFor(width: number, height: number, data: ArrayLike<number>, step: number): number | null {
  if (width !== STANDING.width || height !== STANDING.height) return null;
  const parts = [0, 1, 2].flatMap((pixel) => [0, 1, 2].map((part) => data[pixel * step + part]!));
  if (!SIGN.every((part, i) => parts[i] === part)) return null;
  return (parts[6]! << 16) | (parts[7]! << 8) | parts[8]!;
}

/** Rows that are packed as a PNG packs them, as a PNG. */
function pngOf({ width, height, grey, bytes }: Lying): Uint8Array {
  const header = Buffer.alloc(13);
  header.writeUInt32BE(width, 0);
  header.writeUInt32BE(height, 4);
  header.set([8, grey ? 0 : 2, 0, 0, 0], 8);
  const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
  return Buffer.concat([signature, chunk('IHDR', header), chunk('IDAT', bytes), chunk('IEND', new Uint8Array())]);
}

/** Parts of each pixel that lie unpacked. */
function plainPixels({ width, height, grey, bytes }: Lying): Pixels {
  const parts = grey ? 1 : 3;
  const raw = inflateSync(bytes, { maxOutputLength: width * height * parts + 64 });
  const data = new Uint8Array(4 * width * height).fill(255);
  for (let i = 0; i < width * height; i++) for (let k = 0; k < 3; k++) data[4 * i + k] = raw[parts * i + (grey ? 0 : k)] ?? 0;
  return { width, height, data };
}

const pixelsOf = (lying: Lying, engine: PictureEngine): Promise<Pixels> =>
  lying.packing === 'plain'
    ? Promise.resolve(plainPixels(lying))
    : engine.pixels(lying.packing === 'jpeg' ? lying.bytes : pngOf(lying), 8);

/** A picture that lies in a file. @throws Failure `picture-damaged` */
export async function pictureOfLying(lying: Lying, stood: StoodIn, engine: PictureEngine): Promise<DrawnPicture> {
  if (lying.width * lying.height > PIXELS_AT_ONCE)
    throw new Failure(
      'picture-too-large',
      `A picture in the PDF has ${lying.width} × ${lying.height} pixels, which is more than are opened.`,
    );
  const veil = lying.veil === null ? null : stood.byObject.get(lying.veil);
  if (lying.veil === null && lying.packing === 'jpeg') return drawnPicture(engine, lying.bytes);
  const { width, height, data } = await pixelsOf(lying, engine);
  if (veil) {
    const opacity = await pixelsOf(veil, engine);
    const same =
      opacity.width === width && opacity.height === height
        ? opacity
        : wholeOf(await engine.resize(heldRows(opacity), width, height));
    for (let i = 0; i < width * height; i++) data[4 * i + 3] = same.data[4 * i]!;
  }
  const pixels: Pixels = { width, height, data };
  const bytes =
    veil || lying.packing !== 'rows' ? await fromPixels(pixels).png({ compressionLevel: 1 }).toBuffer() : pngOf(lying);
  return { word: wordOfPixels(pixels), width, height, mediaType: 'image/png', bytes };
}
