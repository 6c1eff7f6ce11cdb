import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { CONTRACTS, MasterView } from '@inkwell-twin/api';
import { TestServer } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('media_types');
});
afterAll(() => server.close());

const drawing = readFileSync(join(__dirname, '../../core/test/fixtures/weathervane.svg'));
const typeOf = (answer: Response) => answer.headers.get('content-type')?.split(';')[0];

it('each answer is of the media type that its contract names, and what goes wrong is said as JSON', async () => {
  const { id } = (await server.bringIn('vane.svg', drawing)).body;
  await server.call('POST', `/api/masters/${id}/copies`, { target: 'png', label: 'page' });
  await server.idle();
  const { copies } = MasterView.parse((await server.call('GET', `/api/masters/${id}`)).body);
  const asked = {
    thumbnail: `/api/masters/${id}/picture.png`,
    master: `/api/masters/${id}`,
    revision: `/api/masters/${id}/revisions/1`,
    package: `/api/masters/${id}/package`,
    file: `/api/copies/${copies[0]!.id}/file`,
    match: `/api/copies/${copies[0]!.id}/match?leaf=0`,
    houseFile: '/api/house/file',
  } as const;
  for (const [name, path] of Object.entries(asked)) {
    const answer = await fetch(server.url + path);
    expect([name, answer.status, typeOf(answer)]).toEqual([name, 200, CONTRACTS[name as keyof typeof asked].answers]);
    await answer.arrayBuffer();
  }
  const stop = new AbortController();
  const events = await fetch(`${server.url}/api/events?stream=media-types-0123456789`, { signal: stop.signal });
  expect(typeOf(events)).toBe(CONTRACTS.events.answers);
  stop.abort();
  for (const path of ['/api/masters/none/picture.png', '/api/templates/none/picture.png', '/api/copies/none/file']) {
    const refused = await fetch(server.url + path);
    expect([path, refused.status, typeOf(refused)]).toEqual([path, 404, 'application/json']);
    expect(((await refused.json()) as { error: { code: string } }).error.code).toBe('not-found');
  }
});
