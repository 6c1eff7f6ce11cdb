import type { Request, Response } from 'express';
import { promisify } from 'node:util';
import { gunzip } from 'node:zlib';

const unpack = promisify(gunzip);

/** Sends JSON, or whatever else `type` says, that a thread has written and packed already; it is never parsed or written here. */
export async function sendPacked(
  request: Request,
  response: Response,
  packed: Uint8Array,
  type = 'application/json',
): Promise<void> {
  response.type(type).set('Vary', 'Accept-Encoding');
  const bytes = Buffer.from(packed.buffer, packed.byteOffset, packed.byteLength);
  if (request.acceptsEncodings('gzip')) response.set('Content-Encoding', 'gzip').end(bytes);
  else response.end(await unpack(bytes));
}
