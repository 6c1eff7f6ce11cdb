import type { Request, Response } from 'express';
import { promisify } from 'node:util';
import { gunzip } from 'node:zlib';
import { Failure } from '@inkwell-twin/core';

const unpack = promisify(gunzip);

/** Sends what a thread has written and packed already; it is never parsed or written here. */
export async function sendPacked(request: Request, response: Response, packed: Uint8Array): Promise<void> {
  response.set('Vary', 'Accept-Encoding');
  const bytes = Buffer.from(packed.buffer, packed.byteOffset, packed.byteLength);
  if (request.acceptsEncodings('gzip')) response.set('Content-Encoding', 'gzip').end(bytes);
  else response.end(await unpack(bytes));
}

/** Sends a file part by part, each once the one before is on its way: a slow reader holds none of it in memory here. */
export async function sendChunks(response: Response, chunks: AsyncIterable<Uint8Array>): Promise<void> {
  // Heard once for all parts: where the answer is packed, another stream hears it, which lets nobody go.
  let goOn = (): void => undefined;
  response.on('drain', () => goOn());
  response.once('close', () => goOn());
  for await (const chunk of chunks) {
    if (response.destroyed) return;
    if (response.write(chunk)) continue;
    await new Promise<void>((done) => {
      goOn = done;
      if (response.destroyed) done();
    });
  }
  response.end();
}

/** Which part of a copy is to be shown. */
export function leafOf({ query }: Request): number {
  const leaf = Number(query['leaf'] ?? 0);
  if (!Number.isInteger(leaf) || leaf < 0 || leaf > 10_000)
    throw new Failure('request-invalid', 'A part of a copy is a number from 0.');
  return leaf;
}
