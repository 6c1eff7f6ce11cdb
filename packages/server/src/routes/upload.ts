import type { Request } from 'express';
import { Failure } from '@inkwell-twin/core';

const tooLarge = (limit: number, size?: number) =>
  new Failure(
    'file-too-large',
    `The file ${size ? `has ${Math.round(size / 1048576)} MB` : 'is too large'}; at most ${limit / 1048576} MB can be brought in. Nothing was kept.`,
  );

/** The bytes of a request, up to a limit. What is beyond it is taken off the line but never held. */
export async function readUpload(request: Request, limit: number): Promise<Uint8Array> {
  const stated = Number(request.headers['content-length'] ?? 0);
  if (stated > limit) {
    // The sender only listens for the answer once it has sent everything.
    for await (const _ of request) void _;
    throw tooLarge(limit, stated);
  }
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of request as AsyncIterable<Buffer>) {
    size += part.length;
    if (size <= limit) parts.push(part);
    else parts.length = 0;
  }
  if (size > limit) throw tooLarge(limit, size);
  if (!size) throw new Failure('request-invalid', 'The file is empty.');
  return new Uint8Array(Buffer.concat(parts));
}
