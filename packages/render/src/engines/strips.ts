import { closeSync, fstatSync, openSync, readSync, unlinkSync, writeSync } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { Failure, type Pixels, type Rows, bands } from '@inkwell-twin/core';
import type { Sharp } from 'sharp';
import { limits } from './limits';
import { HEAD, pixelsIn, rawTiff } from './raw-tiff';

/** Files are closed when nothing reads from them any more. */
const closing = new FinalizationRegistry<number>((file) => closeSync(file));

/** A file without a name: it goes when it is closed, however the process ends. */
function nameless(): number {
  const path = join(limits.folder, `inkwell-pixels-${randomUUID()}`);
  const file = openSync(path, 'wx+', 0o600);
  unlinkSync(path);
  return file;
}

const pathOf = (file: number): string => `/proc/self/fd/${file}`;

function readAt(file: number, at: number, length: number): Buffer {
  const bytes = Buffer.from(new ArrayBuffer(length));
  for (let done = 0; done < length;) {
    const more = readSync(file, bytes, done, length - done, at + done);
    if (!more) throw new Error('The file of a large picture is shorter than it was.');
    done += more;
  }
  return bytes;
}

/** Rows that lie in a file. */
export class FileRows implements Rows {
  readonly held = null;

  constructor(
    private readonly file: number,
    private readonly from: number,
    readonly width: number,
    readonly height: number,
    readonly depth: 8 | 16,
  ) {
    closing.register(this, file);
  }

  /** A path by which other libraries open the file (proc(5)). */
  get path(): string {
    return pathOf(this.file);
  }

  /** Keeps the file open up to here: it is closed when nobody refers to these rows any more. */
  touch(): void {
    fstatSync(this.file);
  }

  rows = (top: number, count: number): Pixels => {
    const row = (this.width * 4 * this.depth) / 8;
    const { buffer } = readAt(this.file, this.from + top * row, count * row);
    const data = this.depth === 16 ? new Uint16Array(buffer as ArrayBuffer) : new Uint8Array(buffer as ArrayBuffer);
    return { width: this.width, height: count, data };
  };
}

/** What went wrong, said as it is where the disk is full. */
function roomOr(error: unknown): unknown {
  const full = (error as { code?: string }).code === 'ENOSPC' || /no space left/i.test(String(error));
  const words =
    'There is no room on the disk to lay down a picture of that size while it is worked on. Make room, or make it smaller.';
  return full ? new Failure('no-room', words) : error;
}

/** What a pipeline makes, red, green, blue and opacity of each pixel, laid into a file as it is made. */
export async function laidByPipeline(picture: Sharp, depth: 8 | 16): Promise<FileRows> {
  const file = nameless();
  try {
    const { width, height } = await picture.tiff({ compression: 'none', predictor: 'none' }).toFile(pathOf(file));
    return new FileRows(
      file,
      pixelsIn((at, length) => readAt(file, at, length)),
      width,
      height,
      depth,
    );
  } catch (error) {
    closeSync(file);
    throw roomOr(error);
  }
}

/** Rows that are made band by band, each once. @param change what becomes of a band on its way */
export function laidByBand(rows: Rows, change: (band: Pixels) => Pixels = (band) => band): FileRows {
  const { width, height, depth } = rows;
  const file = nameless();
  try {
    const { head, tail } = rawTiff(width, height, depth);
    let at = 0;
    const write = (bytes: Uint8Array) => {
      for (let done = 0; done < bytes.length;) done += writeSync(file, bytes, done, bytes.length - done, at + done);
      at += bytes.length;
    };
    write(head);
    for (const [top, count] of bands(rows)) {
      const { data } = change(rows.rows(top, count));
      write(new Uint8Array(data.buffer, data.byteOffset, data.byteLength));
    }
    write(tail);
    return new FileRows(file, HEAD, width, height, depth);
  } catch (error) {
    closeSync(file);
    throw roomOr(error);
  }
}
