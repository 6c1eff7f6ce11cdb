import { mkdirSync, readFileSync, readdirSync } from 'node:fs';
import { connect } from 'node:net';
import { join } from 'node:path';
import { CONTRACTS, ErrorBody } from '@inkwell-twin/api';
import { type SmallDisk, smallDisk, whereDisksAreMade } from '../../core/test/small-disk';
import { freshDatabase } from './database';
import { TestServer, until } from './harness';

const drawing = readFileSync(join(__dirname, '../../core/test/fixtures/weathervane.svg'));
let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('coming_in');
});
afterAll(() => server.close());

describe('a file that comes in', () => {
  it('is a file whatever it says that it is', async () => {
    for (const type of ['application/json', 'text/plain', 'application/x-www-form-urlencoded', '']) {
      const answer = await fetch(`${server.url}/api/bring-in?name=vane.svg`, {
        method: 'POST',
        headers: type ? { 'Content-Type': type } : {},
        body: drawing as never,
      });
      expect([type, answer.status]).toEqual([type, 200]);
    }
    const table = Buffer.from(JSON.stringify({ tables: [] }));
    const answer = await fetch(`${server.url}/api/identify?name=x.json`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: table as never,
    });
    expect(answer.status).toBe(200);
  });
  it('may take its time by every route that takes one: longer than a body that is small', async () => {
    const { body } = await server.bringIn('vane.svg', drawing);
    // Each has begun and is silent; a small body would be cut off after 15 s, a file after 10 s of silence, in its own words.
    const routes = ['bringIn', 'identify', 'look', 'lookNewer', 'matchFile', 'addPicture'] as const;
    const { hostname, port } = new URL(server.url);
    const said = routes.map((id) => {
      let words = '';
      const socket = connect(Number(port), hostname, () =>
        socket.write(
          `POST ${CONTRACTS[id].path.replace(':id', body.id)}?name=x.svg HTTP/1.1\r\nHost: ${hostname}:${port}\r\nContent-Length: 1000\r\n\r\n<svg`,
        ),
      );
      socket.on('data', (part) => (words += part.toString('latin1')));
      socket.on('error', () => undefined);
      return () => words;
    });
    await until(async () => said.every((words) => words().includes('}')), 'an answer of each');
    for (const words of said) expect(words()).toMatch(/^HTTP\/1.1 408[\s\S]*The file came too slowly/);
    expect(readdirSync(`${server.shelf}-uploads`)).toEqual([]);
  });
});

whereDisksAreMade.describe('where files come in to a disk that is full', () => {
  let full: TestServer;
  let disk: SmallDisk;
  beforeAll(async () => {
    disk = smallDisk('200k');
    mkdirSync(join(disk.folder, 'shelf'));
    full = await TestServer.on(await freshDatabase('coming_in_full'), join(disk.folder, 'shelf'));
  });
  afterAll(async () => {
    await full.stop();
    disk.remove();
  });
  it('is told as what it is, and nothing is left of them', async () => {
    for (const size of [600_000, 20_000_000]) {
      const answer = await fetch(`${full.url}/api/bring-in?name=large.svg`, {
        method: 'POST',
        body: new Uint8Array(size) as never,
      });
      const { error } = ErrorBody.parse(await answer.json());
      expect([answer.status, error.code]).toEqual([507, 'no-room']);
      expect(error.message).toMatch(/no room for this file on the disk of the server. Nothing was kept/);
    }
    expect(readdirSync(`${full.shelf}-uploads`)).toEqual([]);
    expect((await full.bringIn('vane.svg', drawing)).status).toBe(200);
  });
});

describe('a request', () => {
  const ask = (path: string, headers: Record<string, string>) => fetch(server.url + path, { headers });
  it('from another site is refused, by what the browser says of it, with the headers of every answer', async () => {
    const refused: Record<string, string>[] = [
      { Origin: 'http://elsewhere.example' },
      { 'Sec-Fetch-Site': 'cross-site' },
      { 'Sec-Fetch-Site': 'same-site' },
    ];
    for (const headers of refused) {
      const answer = await ask('/api/desk', headers);
      expect(answer.status).toBe(403);
      expect(answer.headers.get('content-security-policy')).toContain("default-src 'self'");
      expect(answer.headers.get('x-content-type-options')).toBe('nosniff');
    }
    for (const site of ['same-origin', 'none']) expect((await ask('/api/desk', { 'Sec-Fetch-Site': site })).status).toBe(200);
  });
  it('left no surprise in the log', () => expect(server.problems).toEqual([]));
});
