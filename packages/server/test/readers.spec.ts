import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type CopyView, Desk, SeenView } from '@inkwell-twin/api';
import { TestServer } from './harness';

let server: TestServer;
let copies: readonly CopyView[];
beforeAll(async () => {
  server = await TestServer.withDemo('readers');
  copies = Desk.parse((await server.call('GET', '/api/desk')).body).masters[0]!.copies;
});
afterAll(() => server.close());

const copy = (label: string): CopyView => copies.find((one) => one.label === label)!;
const seen = async (label: string, reader: string) => {
  const { status, body } = await server.call('GET', `/api/copies/${copy(label).id}/readers/${reader}`);
  expect(status).toBe(200);
  return SeenView.parse(body);
};

describe('a copy as programs of other versions open it', () => {
  it('is seen by one of its own version as it was meant', async () => {
    for (const [label, reader] of [
      ['metal shop drawing', 'dxf-r12'],
      ['joiner’s drawing', 'dxf-2000'],
    ] as const) {
      const found = await seen(label, 'own');
      expect(found).toMatchObject({ reader, opens: true, refused: null, dropped: [], held: { missing: [], more: [] } });
      expect(found.readers).toHaveLength(7);
      expect(found.picture).toMatch(/^<svg /);
    }
  });

  it('is refused by an older one, with why, and seen by a newer one', async () => {
    expect(await seen('joiner’s drawing', 'dxf-r12')).toMatchObject({
      opens: false,
      refused: { words: /version 1015/ },
      held: null,
    });
    expect(await seen('metal shop drawing', 'dxf-2018')).toMatchObject({ opens: true });
  });

  it('that somebody changed is told with what is not as meant', async () => {
    const path = join(server.shelf, 'boardwalk_waymarker', copy('metal shop drawing').file);
    const before = readFileSync(path, 'latin1');
    writeFileSync(path, before.replace('hide', 'hive'), 'latin1');
    const { held } = await seen('metal shop drawing', 'own');
    expect([held!.missing, held!.more].map(([one]) => one!.what)).toEqual(['text', 'text']);
    writeFileSync(path, 'no drawing at all', 'latin1');
    expect((await seen('metal shop drawing', 'own')).refused!.words).toMatch(/no group code|has no end/);
  });

  it('of another kind has no such reader, and one that is asked for and not there is said', async () => {
    expect(await seen('trail web page', 'own')).toMatchObject({ readers: [], opens: false });
    const { status, body } = await server.call('GET', `/api/copies/${copy('joiner’s drawing').id}/readers/dxf-9`);
    expect([status, JSON.stringify(body)]).toEqual([404, expect.stringContaining('dxf-r12, dxf-2000')]);
  });
});
