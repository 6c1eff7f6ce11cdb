import { hasher } from '../base/bytes/hasher';
import type { Drawing } from './drawing';
import type { DrawnPicture } from './drawn-picture';
import type { Encoding } from '../document/picture-encoding';

/** A picture as pixels: red, green, blue and opacity of each, row by row from the top, not multiplied; sRGB. */
export interface Pixels {
  readonly width: number;
  readonly height: number;
  /** 8 or 16 bits of each. */
  readonly data: Uint8Array | Uint16Array;
}

/**
 * Pixels that are given out some rows at a time: all at once where they lie in memory, else in bands, so that a picture of any
 * size takes no more room than a few of them.
 */
export interface Rows {
  readonly width: number;
  readonly height: number;
  /** Bits of each part. */
  readonly depth: 8 | 16;
  /** All of them, where they lie in memory. */
  readonly held: Pixels | null;
  /** Some rows, counted from the top. They are not to be changed: they may be those that lie in memory. */
  readonly rows: (top: number, count: number) => Pixels;
}

/** What a picture's file says of itself. */
export interface PictureFacts {
  readonly mediaType: string;
  /** As it is shown, after the turn that the file asks for. */
  readonly width: number;
  readonly height: number;
  /** Whether the file asks for a turn. */
  readonly turned: boolean;
  /** Pixels per inch where it says so, across. */
  readonly ppi: number | null;
  /** How high a pixel is for one of its width: 1 where pixels are square. */
  readonly stretch: number;
  readonly depth: 8 | 16;
  readonly alpha: boolean;
  /** "sRGB", or what its colour profile calls itself; null where it has none. */
  readonly profile: string | null;
  /** sRGB, or without a profile and in red, green and blue: its numbers are what is seen. */
  readonly plain: boolean;
  /** What the file leaves open and was taken as something, in words. */
  readonly taken: readonly string[];
  /** Pictures in it: of several the first is taken. */
  readonly frames: number;
}

/** A picture's file as it is read to be compared: its pixels in sRGB, and what it says of itself. */
export interface ReadPicture {
  readonly rows: Rows;
  readonly facts: PictureFacts;
  /** The text of its XMP packet; null where it has none. */
  readonly xmp: string | null;
}

/** What reads, makes and draws pictures: libraries of a platform, handed to core. */
export interface PictureEngine {
  /** @throws Failure `picture-damaged`, `picture-too-large`, `picture-unknown` */
  readonly facts: (bytes: Uint8Array) => Promise<PictureFacts>;
  /** The first picture of a file, turned and in sRGB. @throws as `facts` */
  readonly pixels: (bytes: Uint8Array, depth: 8 | 16) => Promise<Pixels>;
  /** The first picture of a file made small, turned and in sRGB; all of the file is read. @param most pixels of the longer side */
  readonly thumbnail: (bytes: Uint8Array, most: number) => Promise<Pixels>;
  /** As `pixels`, of any size: in bands where there are too many to be held. @throws as `facts` */
  readonly rows: (bytes: Uint8Array, depth: 8 | 16) => Promise<Rows>;
  /** Rows and what is said of them. @throws as `facts` */
  readonly raster: (bytes: Uint8Array) => Promise<ReadPicture>;
  /** Rows that are made when they are asked for, made once and laid down; those in memory stay where they are. */
  readonly laidDown: (rows: Rows) => Promise<Rows>;
  /** Rows at another size. */
  readonly resize: (rows: Rows, width: number, height: number) => Promise<Rows>;
  /** Draws a board, 8 bits of each. */
  readonly paint: (drawing: Drawing, width: number, height: number) => Promise<Rows>;
  /** Draws an SVG document at a size in pixels, what is not covered seen through. @throws Failure `not-drawn` */
  readonly drawSvg: (document: string, width: number, height: number) => Promise<Pixels>;
  /** Pixels as a file. */
  readonly encode: (rows: Rows, encoding: Encoding) => Promise<Uint8Array>;
  /** A file that `encode` made, with an XMP packet in it. */
  readonly withXmp: (bytes: Uint8Array, format: Encoding['format'], xmp: string) => Uint8Array;
  /** A PNG, without loss. */
  readonly png: (pixels: Pixels) => Promise<Uint8Array>;
}

/** Bytes that are hashed at once: what is copied for it stays small beside the picture. */
const AT_ONCE = 1 << 20;

/** "1200×800-3f…": what pixels of 8 bits show. The colour of what can't be seen does not matter. */
export function wordOfPixels({ width, height, data }: Pixels): string {
  const hash = hasher();
  for (let from = 0; from < data.length; from += AT_ONCE) {
    const seen = data.slice(from, from + AT_ONCE);
    const words = new Uint32Array(seen.buffer, 0, seen.length >> 2);
    // Opacity is the last of four bytes, whichever end comes first.
    for (let i = 3, k = 0; i < seen.length; i += 4, k++) if (seen[i] === 0) words[k] = 0;
    hash.update(seen);
  }
  return `${width}×${height}-${hash.hex().slice(0, 24)}`;
}

/** A file as a drawing shows it. */
export async function drawnPicture(engine: PictureEngine, bytes: Uint8Array): Promise<DrawnPicture> {
  const { mediaType } = await engine.facts(bytes);
  const pixels = await engine.pixels(bytes, 8);
  return { word: wordOfPixels(pixels), width: pixels.width, height: pixels.height, mediaType, bytes };
}

/** "1200×800" of a word. */
export const sizeInWord = (word: string): string => word.split('-')[0]!;
