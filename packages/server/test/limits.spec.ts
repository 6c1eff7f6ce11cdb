import { readFileSync, readdirSync } from 'node:fs';
import { type Socket, connect } from 'node:net';
import { join } from 'node:path';
import { ErrorBody } from '@inkwell-twin/api';
import { TestServer, until } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('limits', 2);
});
afterAll(() => server.close());

const drawing = readFileSync(join(__dirname, '../../core/test/fixtures/weathervane.svg'));

/** A connection by hand: what it sent and what came back. */
function raw(head: string): Promise<{ socket: Socket; said: () => string }> {
  const { hostname, port } = new URL(server.url);
  return new Promise((done, fail) => {
    let said = '';
    const socket = connect(Number(port), hostname, () => {
      socket.write(head.replace('HOST', `${hostname}:${port}`).replace(/\n/g, '\r\n'));
      done({ socket, said: () => said });
    });
    socket.on('data', (part) => (said += part.toString('latin1')));
    socket.on('error', fail);
  });
}
const upload = (length: number) =>
  raw(
    `POST /api/bring-in?name=x.svg HTTP/1.1\nHost: HOST\nContent-Type: application/octet-stream\nContent-Length: ${length}\n\n`,
  );

describe('files on their way in', () => {
  it('go to disk, so many at once and no more; who leaves in the middle leaves nothing', async () => {
    const senders = await Promise.all(Array.from({ length: 40 }, () => upload(60 * 1024 * 1024)));
    const before = process.memoryUsage().rss;
    const part = Buffer.alloc(1024 * 1024, 0x20);
    for (const { socket } of senders) socket.write(part);
    const refused = () => senders.filter(({ said }) => said().startsWith('HTTP/1.1 503')).length;
    await until(async () => refused() === 32, 'the others asked to come again');
    expect(senders.find(({ said }) => said().includes('503'))!.said()).toMatch(
      /Retry-After: 2[\s\S]*8 files are coming in just now/i,
    );
    expect(readdirSync(`${server.shelf}-uploads`)).toHaveLength(8);
    for (let i = 0; i < 20; i++) for (const { socket, said } of senders) if (!said()) socket.write(part);
    await new Promise((done) => setTimeout(done, 500));
    expect(process.memoryUsage().rss - before).toBeLessThan(150 * 1024 * 1024);
    for (const { socket } of senders) socket.destroy();
    await until(async () => readdirSync(`${server.shelf}-uploads`).length === 0, 'nothing left');
    expect((await server.bringIn('vane.svg', drawing)).status).toBe(200);
  });
  it('that trickle are cut off in words', async () => {
    const { socket, said } = await upload(1000);
    socket.write('<svg');
    await until(async () => said().length > 0, 'an end of it');
    expect(said()).toMatch(/^HTTP\/1.1 408/);
    expect(said()).toContain('too slowly');
    socket.destroy();
    expect(readdirSync(`${server.shelf}-uploads`)).toEqual([]);
  });
  it('so are other bodies that trickle', async () => {
    const { socket, said } = await raw(
      'POST /api/masters HTTP/1.1\nHost: HOST\nContent-Type: application/json\nContent-Length: 1000\n\n{"title":',
    );
    await until(async () => said().length > 0, 'an end of it');
    expect(said()).toMatch(/^HTTP\/1.1 408[\s\S]*too slowly/);
    socket.destroy();
  });
  it('are taken as they are, not packed', async () => {
    const answer = await fetch(`${server.url}/api/bring-in?name=x.svg`, {
      method: 'POST',
      headers: { 'Content-Encoding': 'gzip' },
      body: drawing as never,
    });
    expect([answer.status, ErrorBody.parse(await answer.json()).error.code]).toEqual([415, 'type-unknown']);
  });
  it.each([
    [
      'ten uses of ten uses, nine times',
      `<g id="g0"><rect width="1" height="1"/></g>${Array.from({ length: 9 }, (_, i) => `<g id="g${i + 1}">${`<use href="#g${i}"/>`.repeat(10)}</g>`).join('')}`,
      'too-many-objects',
    ],
    ['groups without end', `${'<g>'.repeat(180)}<rect width="1" height="1"/>${'</g>'.repeat(180)}`, 'too-deep'],
  ])('are refused with the count and the limit: %s', async (name, body, code) => {
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><defs>${body.startsWith('<g>') ? '' : body}</defs>${body.startsWith('<g>') ? body : '<use href="#g9"/>'}</svg>`;
    const answer = await server.bringIn<ErrorBody>(`${name}.svg`, svg);
    expect([answer.status, answer.body.error.code]).toEqual([400, code]);
    expect(answer.body.error.message).toMatch(/at most (250 000|100) can be kept/);
  });
});

describe('listening', () => {
  it('is for so many browsers and no more', async () => {
    const streams = await Promise.all(Array.from({ length: 514 }, () => raw('GET /api/events HTTP/1.1\nHost: HOST\n\n')));
    await until(async () => streams.every(({ said }) => said().length > 0), 'answers');
    expect(streams.filter(({ said }) => said().startsWith('HTTP/1.1 503')).length).toBe(2);
    for (const { socket } of streams) socket.destroy();
    await until(async () => server.workshop.events.count === 0, 'nobody listening');
    const again = await raw('GET /api/events HTTP/1.1\nHost: HOST\n\n');
    await until(async () => again.said().includes('text/event-stream'), 'a stream');
    again.socket.destroy();
  });
});

describe('what a browser may do with an answer', () => {
  it('is to keep none of it, and to run nothing of a file', async () => {
    const { body } = await server.bringIn('vane.svg', drawing);
    await server.call('POST', `/api/masters/${body.id}/copies`, { target: 'svg', label: 'plan' });
    await server.idle();
    const { body: view } = await server.call<{ copies: { id: string }[] }>('GET', `/api/masters/${body.id}`);
    for (const path of [
      '/api/desk',
      `/api/masters/${body.id}`,
      `/api/masters/${body.id}/revisions/1`,
      `/api/copies/${view.copies[0]!.id}/match`,
    ])
      expect([path, (await fetch(server.url + path)).headers.get('cache-control')]).toEqual([path, 'no-store']);
    for (const path of [`/api/masters/${body.id}/picture.png`, `/api/copies/${view.copies[0]!.id}/file`]) {
      const { headers } = await fetch(server.url + path);
      expect(headers.get('content-security-policy')).toBe("sandbox; default-src 'none'");
      expect(headers.get('x-content-type-options')).toBe('nosniff');
    }
    const policy = (await fetch(`${server.url}/api/desk`)).headers.get('content-security-policy')!;
    expect(policy).not.toContain('unsafe-inline');
    const nonces = [policy, (await fetch(`${server.url}/api/desk`)).headers.get('content-security-policy')!].map(
      (one) => /style-src 'self' 'nonce-([^']{20,})'/.exec(one)![1],
    );
    expect(nonces[0]).not.toBe(nonces[1]);
  });
  it('left no surprise in the log', () => expect(server.problems).toEqual([]));
});
