import { randomBytes } from 'node:crypto';
import { type IncomingMessage, type Server, get } from 'node:http';
import type { AddressInfo } from 'node:net';
import compression from 'compression';
import express from 'express';
import { sendChunks } from '../src/routes/packed';
import { until } from './harness';

const CHUNKS = 80;
const CHUNK = randomBytes(256 * 1024);

/** How many chunks were asked for, and whether what makes them was told that nobody wants more. */
let [made, ended] = [0, false];
async function* chunks(): AsyncGenerator<Uint8Array> {
  try {
    for (made = 0, ended = false; made < CHUNKS; made++) {
      await Promise.resolve();
      yield CHUNK;
    }
  } finally {
    ended = true;
  }
}

let server: Server;
let port: number;
const warnings: string[] = [];
const hear = (warning: Error): void => void warnings.push(warning.message);
beforeAll(async () => {
  process.on('warning', hear);
  const app = express();
  app.use(compression({ filter: () => true }));
  app.get('/', (_, response) => void sendChunks(response, chunks()));
  server = await new Promise((done) => {
    const listening = app.listen(0, '127.0.0.1', () => done(listening));
  });
  port = (server.address() as AddressInfo).port;
});
afterAll(async () => {
  process.off('warning', hear);
  server.closeAllConnections();
  await new Promise((done) => server.close(done));
});

const asked = (encoding: string): Promise<IncomingMessage> =>
  new Promise((done, fail) => {
    get({ host: '127.0.0.1', port, headers: { 'Accept-Encoding': encoding } }, done).on('error', fail);
  });
/** Until no more chunks are made although nobody reads. */
async function settled(): Promise<number> {
  let before = -1;
  await until(async () => {
    await new Promise((later) => setTimeout(later, 300));
    const same = made === before;
    before = made;
    return same;
  }, 'no more chunks');
  return made;
}

describe.each(['identity', 'gzip'])('a large file, sent as %s', (encoding) => {
  it('to a slow reader waits for the reader, piece by piece, and comes whole', async () => {
    const answer = await asked(encoding);
    expect(await settled()).toBeLessThan(CHUNKS / 2);
    let length = 0;
    for await (const piece of answer as AsyncIterable<Buffer>) length += piece.length;
    expect(made).toBe(CHUNKS);
    if (encoding === 'identity') expect(length).toBe(CHUNKS * CHUNK.length);
    expect(warnings).toEqual([]);
  });

  it('to a reader who goes away is not made to its end', async () => {
    const answer = await asked(encoding);
    const before = await settled();
    answer.destroy();
    await until(async () => ended, 'the end of what makes it');
    expect(made).toBeLessThanOrEqual(before + 1);
  });
});
