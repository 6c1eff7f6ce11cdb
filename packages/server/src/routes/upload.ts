import { randomUUID } from 'node:crypto';
import { createWriteStream, mkdirSync, readdirSync, rmSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Request } from 'express';
import { Failure } from '@inkwell-twin/core';
import { diskFailure } from '../shelf/failures';

/** So many files may be on their way in at once; the next is asked to come again. */
const AT_ONCE = 8;
/** Milliseconds that a sender may be silent, and that all of it may take. */
const SILENCE = 10_000;
const WHOLE = 120_000;

const tooLarge = (limit: number, size?: number) =>
  new Failure(
    'file-too-large',
    `The file ${size ? `has ${Math.round(size / 1048576)} MB` : 'is too large'}; at most ${limit / 1048576} MB can be brought in. Nothing was kept.`,
  );

/** What the disk says of a file on its way in. */
function noRoom(error: unknown): unknown {
  const said = diskFailure(error);
  return said instanceof Failure && said.code === 'no-room'
    ? new Failure(
        'no-room',
        'There is no room for this file on the disk of the server. Nothing was kept; make room and send it again.',
      )
    : said;
}

/** Files on their way in. They go to disk as they come, so that many of them hold no memory. */
export class Uploads {
  private underWay = 0;

  constructor(private readonly folder: string) {
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    for (const left of readdirSync(folder)) rmSync(join(folder, left), { force: true });
  }

  /**
   * Takes a request's body to disk and hands its path to `use`; the file is gone afterwards.
   * @param limit bytes; what is beyond it is taken off the line and thrown away
   * @throws Failure `file-too-large`, `too-slow`, `busy` when too many come at once
   */
  async receive<T>(request: Request, limit: number, use: (path: string) => Promise<T>): Promise<T> {
    const stated = Number(request.headers['content-length'] ?? 0);
    const encoding = request.headers['content-encoding'];
    if (encoding && encoding !== 'identity')
      throw new Failure('type-unknown', `A file is taken as it is, not packed as ${encoding.slice(0, 40)}.`);
    if (this.underWay >= AT_ONCE) {
      request.resume();
      throw new Failure('busy', `${AT_ONCE} files are coming in just now. Try again in a moment.`);
    }
    this.underWay++;
    const path = join(this.folder, randomUUID());
    try {
      const size = await this.toDisk(request, path, limit);
      if (size > limit) throw tooLarge(limit, Math.max(size, stated));
      if (!size) throw new Failure('request-invalid', 'The file is empty.');
      return await use(path);
    } finally {
      this.underWay--;
      await rm(path, { force: true }).catch(() => undefined);
    }
  }

  private async toDisk(request: Request, path: string, limit: number): Promise<number> {
    let size = 0;
    const stop = new AbortController();
    const slow = () => stop.abort();
    const whole = setTimeout(slow, WHOLE);
    let silence = setTimeout(slow, SILENCE);
    const counted = new Transform({
      transform(part: Buffer, _encoding, done) {
        size += part.length;
        clearTimeout(silence);
        silence = setTimeout(slow, SILENCE);
        // The sender only listens for the answer once it has sent everything; what is too much is not kept.
        done(null, size <= limit ? part : undefined);
      },
    });
    const gone = () => request.complete || counted.destroy(new Failure('too-slow', 'The sender went away. Nothing was kept.'));
    request.once('close', gone).pipe(counted);
    try {
      await pipeline(counted, createWriteStream(path, { mode: 0o600 }), { signal: stop.signal });
      return size;
    } catch (error) {
      // The connection stays: the sender is told why, and only listens once everything is sent.
      request.unpipe(counted);
      request.resume();
      if (stop.signal.aborted)
        throw new Failure('too-slow', 'The file came too slowly and was cut off. Nothing was kept; send it again.');
      throw noRoom(error);
    } finally {
      request.off('close', gone);
      clearTimeout(whole);
      clearTimeout(silence);
    }
  }
}
