import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type CopyView, type Identified, type LookView, type MasterView, readSolid } from '@inkwell-twin/api';
import { type Mesh, type Patch, type Solid, kindById, looksNative, readPackage, stepOf } from '@inkwell-twin/core';
import { TestServer, until } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('solids');
});
afterAll(() => server.close());

const view = async (id: string): Promise<MasterView> => (await server.call<MasterView>('GET', `/api/masters/${id}`)).body;
const copyOf = async (id: string, label: string): Promise<CopyView> =>
  (await view(id)).copies.find((one) => one.label === label)!;
async function derived(id: string, target: string, label: string, options = {}): Promise<CopyView> {
  const { status } = await server.call('POST', `/api/masters/${id}/copies`, {
    target,
    label,
    options,
    scope: { of: 'solids', ids: [] },
  });
  expect(status).toBe(200);
  await until(async () => (await copyOf(id, label))?.verdict === 'in step', `${label} in step`);
  return copyOf(id, label);
}
const send = async <T>(path: string, name: string, bytes: Uint8Array, query = ''): Promise<T> => {
  const response = await fetch(`${server.url}/api/${path}?name=${encodeURIComponent(name)}${query}`, {
    method: 'POST',
    body: bytes as never,
  });
  expect(response.status).toBe(200);
  return (await response.json()) as T;
};
describe('a part', () => {
  let id = '';
  let solid: Solid;

  it('is begun, and made as a draft would have it', async () => {
    ({ id } = (
      await server.call<{ id: string }>('POST', '/api/masters', { title: 'Rail clip', purpose: 'part', owner: 'Ansa Brook' })
    ).body);
    [solid] = (await server.document(id)).solids as [Solid];
    const ask = (one: Solid) =>
      fetch(`${server.url}/api/masters/${id}/solid`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ solid: one }),
      });
    const made = readSolid(await (await ask(solid)).arrayBuffer());
    expect(made.facts).toMatchObject({ bodies: 1, holes: 0 });
    expect(made.facts!.volume).toBeCloseTo(48_000, 3);
    expect(made.values).toEqual([100, 60, 8]);
    const body = kindById('mesh').unpack(made.body) as Mesh;
    expect(body.triangles.length).toBe(36);
    const wrong = { ...solid, parameters: [{ ...solid.parameters[0]!, value: 'tall' }, ...solid.parameters.slice(1)] };
    const answer = await ask(wrong);
    expect(answer.status).toBe(400);
    expect(((await answer.json()) as { error: { message: string } }).error.message).toMatch(
      /width: There is no parameter “tall”/,
    );
  });

  it('has a picture, copies in every format, and its file', async () => {
    for (const target of ['stl', '3mf', 'obj', 'gltf', 'step']) await derived(id, target, `as ${target}`);
    await server.idle();
    expect((await fetch(`${server.url}/api/masters/${id}/picture.png`)).headers.get('content-type')).toBe('image/png');
    const folder = join(server.shelf, 'rail_clip');
    const native = readFileSync(
      join(
        folder,
        readdirSync(folder).find((name) => name.endsWith('.inkwell'))!,
      ),
    );
    expect(looksNative(native)).toBe(true);
    expect(readPackage(native).master.solids).toEqual([solid]);
  });

  it('whose copy was changed by someone is found, with both sides and the place in space', async () => {
    const copy = await copyOf(id, 'as obj');
    const path = join(server.shelf, 'rail_clip', copy.file);
    writeFileSync(path, readFileSync(path, 'utf8').replace(/^v -50 30 /m, 'v -50 32 '));
    await until(async () => (await copyOf(id, 'as obj')).verdict === 'touched', 'touched');
    const match = await server.match(copy.id);
    const reshaped = match.view.differences.find(({ kind }) => kind === 'reshaped')!;
    expect(reshaped.amount).toBeCloseTo(2, 2);
    expect(reshaped.spot![1]).toBeCloseTo(32, 2);
    expect((match.copy as unknown as Mesh).triangles.length).toBe(36);
  });

  it('stays in step with what a copy does not carry, and goes behind with what it does', async () => {
    const update = async (rev: number, patches: Patch[], message: string) => {
      const { step } = stepOf(await server.document(id), message, patches);
      await server.addSteps(id, rev, [], [step]);
      expect((await server.update(id, rev, [step], message)).status).toBe(200);
    };
    await update(1, [{ op: 'set', node: solid.id, attribute: 'colour', value: '#aa3300' }], 'Red');
    await until(async () => (await copyOf(id, 'as 3mf')).verdict === 'behind', 'as 3mf behind');
    expect((await copyOf(id, 'as stl')).verdict).toBe('in step');
    await update(2, [{ op: 'set', node: solid.parameters[2]!.id, attribute: 'value', value: 9 }], 'Thicker');
    await until(async () => (await copyOf(id, 'as stl')).verdict === 'behind', 'as stl behind');
    expect((await copyOf(id, 'as stl')).endedBy).toMatch(/^r3 changed height: “Thicker”/);
  });

  it('is known again by a copy without its mark', async () => {
    const copy = await copyOf(id, 'as stl');
    const bytes = readFileSync(join(server.shelf, 'rail_clip', copy.file));
    const found = await send<Identified>('identify', 'someone.stl', bytes);
    expect(found).toMatchObject({ kind: 'copy', master: { id } });
  });
});

describe('a file of triangles', () => {
  it('is looked at before it comes in, in the unit that is decided', async () => {
    const lines = ['solid tetra'];
    const corners = [
      [0, 0, 0],
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ];
    for (const [a, b, c] of [
      [0, 2, 1],
      [0, 1, 3],
      [0, 3, 2],
      [1, 2, 3],
    ])
      lines.push(
        'facet normal 0 0 0',
        'outer loop',
        ...[a, b, c].map((i) => `vertex ${corners[i!]!.join(' ')}`),
        'endloop',
        'endfacet',
      );
    const bytes = Buffer.from([...lines, 'endsolid tetra'].join('\n'));
    const { look } = await send<{ look: LookView }>('look', 'tetra.stl', bytes, '&unit=inch');
    expect(look.rows).toEqual([['1', '25.4', '25.4', '25.4', '4']]);
    expect(look.remarks).toEqual([]);
    const { id } = await send<{ id: string }>('bring-in', 'tetra.stl', bytes, '&unit=inch');
    await derived(id, '3mf', 'built');
  });
});
