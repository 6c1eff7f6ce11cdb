import { mkdirSync, readFileSync, readdirSync, renameSync, truncateSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { type Identified, type MasterView, NewerView, type OlderView } from '@inkwell-twin/api';
import {
  type Content1,
  type Master,
  newMaster,
  readPackage,
  setAttribute,
  stepOf,
  wholeOf,
  writePackage,
  writePackage2,
  writeProject,
} from '@inkwell-twin/core';
import { pictureEngine } from '@inkwell-twin/render';
import { sha256 } from '../src/blobs/blobs';
import { TestServer, until } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('older');
});
afterAll(() => server.close());

const content = (id: string, title: string): Content1 => ({
  writer: 'inkwell-twin 0.1',
  id,
  title,
  owner: 'Ansa Brook',
  rev: 4,
  saved: '2023-04-05T06:07:08.000Z',
  layers: [{ id: 'l', name: 'Ink', colour: '#14213a', visible: true }],
  boards: [
    {
      id: 'b',
      name: 'Plate',
      width: 120,
      height: 80,
      background: '#ffffff',
      items: [{ kind: 'text', id: 't', layer: 'l', text: 'Otter', x: 10, y: 30, size: 12, bold: true, fill: '#14213a' }],
    },
  ],
  pictures: [],
});
function put(folder: string, files: ReadonlyMap<string, Uint8Array>): void {
  for (const [path, bytes] of files) {
    mkdirSync(dirname(join(server.shelf, folder, path)), { recursive: true });
    writeFileSync(join(server.shelf, folder, path), bytes);
  }
}
/** All files below a folder of the shelf, with what they hold. */
function listed(folder: string): string[] {
  return readdirSync(join(server.shelf, folder), { recursive: true, withFileTypes: true })
    .filter((one) => one.isFile())
    .map(
      (one) =>
        `${join(one.parentPath, one.name).slice(server.shelf.length + 1)} ${sha256(readFileSync(join(one.parentPath, one.name)))}`,
    )
    .sort();
}
const found = async () => (await server.call<{ found: OlderView[] }>('GET', '/api/shelf/found')).body.found;
const open = (path: string) =>
  server.call<{ id: string; error: { code: string; message: string } }>('POST', '/api/shelf/open', { path });
const viewOf = async (id: string) => (await server.call<MasterView>('GET', `/api/masters/${id}`)).body;
const leftovers = (id: string) =>
  server.call<{ stayed: string[]; error: { message: string } }>('POST', `/api/masters/${id}/leftovers/remove`);
async function update(id: string): Promise<Master> {
  const now = await server.document(id);
  const { master, step } = stepOf(now, 'Named', setAttribute(now, now.boards[0]!.id, 'name', 'Now').patches);
  await server.addSteps(id, 1, [], [step]);
  await server.update(id, 1, [step]);
  await server.idle();
  return master;
}

describe('a master of native version 1 on the shelf', () => {
  it('is found, opens with nothing touched, gets its file of now beside it with the first update, and leaves leftovers that can go', async () => {
    put('plaques/otter', writeProject('otter_plaque', content('otter-1', 'Otter plaque')));
    const before = listed('plaques/otter');
    expect(await found()).toEqual([
      { path: 'plaques/otter/otter_plaque.inkfolio', title: 'Otter plaque', version: 1, newer: false, trouble: null },
    ]);
    const { id } = (await open('plaques/otter/otter_plaque.inkfolio')).body;
    await server.idle();
    await server.stop();
    await server.start();
    await server.idle();
    expect(listed('plaques/otter')).toEqual(before);
    expect(await found()).toEqual([]);
    const view = await viewOf(id);
    expect(view.older).toMatchObject({ version: 1, updated: false });
    expect(view.older!.files.map(({ file }) => file)).toEqual(['otter_plaque.inkfolio', 'otter_plaque_parts/board_1.json']);
    expect(view.revisions[0]!.message).toBe('Opened from native version 1, r4 there');
    expect((await leftovers(id)).body.error.message).toContain('not on the shelf yet');
    expect((await open('plaques/otter/otter_plaque.inkfolio')).body.error.code).toBe('name-taken');

    const after = await update(id);
    expect(listed('plaques/otter').filter((line) => before.includes(line))).toEqual(before);
    const file = readPackage(readFileSync(join(server.shelf, 'plaques/otter/otter.inkwell')));
    expect(file.master).toEqual(after);
    expect((await viewOf(id)).older).toMatchObject({ version: 1, updated: true });
    expect((await leftovers(id)).body.stayed).toEqual([]);
    expect(listed('plaques/otter').map((line) => line.split(' ')[0])).toEqual(['plaques/otter/otter.inkwell']);
    expect(readdirSync(join(server.shelf, 'plaques/otter'))).toEqual(['otter.inkwell']);
    expect((await viewOf(id)).older).toBeNull();
  });

  it('a part that somebody changed since stays; one that is misnamed or missing is named, and nothing is opened', async () => {
    put('signs/gate', writeProject('gate', content('gate-1', 'Gate')));
    const { id } = (await open('signs/gate/gate.inkfolio')).body;
    await update(id);
    writeFileSync(join(server.shelf, 'signs/gate/gate_parts/board_1.json'), '{"mine": true}');
    expect((await leftovers(id)).body.stayed).toEqual(['gate_parts/board_1.json']);
    expect(readFileSync(join(server.shelf, 'signs/gate/gate_parts/board_1.json'), 'utf8')).toBe('{"mine": true}');

    put('signs/rail', writeProject('rail', content('rail-1', 'Rail')));
    renameSync(join(server.shelf, 'signs/rail/rail_parts'), join(server.shelf, 'signs/rail/parts_of_rail'));
    const [one] = (await found()).filter(({ path }) => path.includes('rail'));
    expect(one!.trouble).toContain('should lie in rail_parts, but lie in parts_of_rail');
    expect((await open('signs/rail/rail.inkfolio')).body.error.message).toContain('parts_of_rail');
    // What lies in other folders beside it is nobody's business, however large.
    put('signs/arch', writeProject('arch', content('arch-1', 'Arch')));
    mkdirSync(join(server.shelf, 'signs/arch/films'));
    writeFileSync(join(server.shelf, 'signs/arch/films/long.mp4'), '');
    truncateSync(join(server.shelf, 'signs/arch/films/long.mp4'), 200 * 1024 * 1024);
    expect((await open('signs/arch/arch.inkfolio')).status).toBe(200);
    expect((await open('rail.inkfolio')).body.error.message).toContain('folder of its own');
    expect((await open('signs/../../etc/x.inkfolio')).status).toBe(400);
    expect((await open('signs/none/none.inkfolio')).status).toBe(404);
  });

  it('is not what a copy in an older version is: that is derived, checked and named as a copy, and never opened as a master', async () => {
    const drawing = readFileSync(join(__dirname, '../../core/test/fixtures/weathervane.svg'));
    const { body } = await server.bringIn<{ id: string }>('vane.svg', drawing);
    await server.idle();
    for (const version of ['native 1', 'native 2'])
      await server.call('POST', `/api/masters/${body.id}/copies`, {
        target: 'native',
        label: 'for the mill',
        options: { version },
      });
    await until(async () => (await viewOf(body.id)).copies.filter(({ verdict }) => verdict === 'in step').length === 2, 'both');
    const files = (await viewOf(body.id)).copies.map(({ file }) => file).sort();
    expect(files).toEqual([expect.stringMatching(/_r1_native_1\.zip$/), expect.stringMatching(/_r1_native_2\.inkwell$/)]);
    const folder = listed('')
      .find((line) => line.includes(files[1]!))!
      .split(files[1]!)[0]!;
    expect((await found()).filter(({ path }) => path.startsWith(folder))).toEqual([]);
    const refused = await open(`${folder}${files[1]}`);
    expect(refused.body.error).toMatchObject({ code: 'conflict', message: expect.stringContaining('is a copy of a master') });
    for (const file of files) {
      const bytes = readFileSync(join(server.shelf, folder, file));
      const url = `${server.url}/api/identify?name=from-the-mail.bin`;
      const said = (await (await fetch(url, { method: 'POST', body: bytes as never })).json()) as Identified;
      expect(said).toMatchObject({
        kind: 'copy',
        verdict: 'in step',
        words: expect.stringContaining('“for the mill”, a copy of'),
      });
      const another = await server.bringIn<{ id: string; notUnderstood: unknown[] }>(file, bytes);
      expect(another).toMatchObject({ status: 200, body: { notUnderstood: [] } });
      expect(another.body.id).not.toBe(body.id);
      expect((await server.document(another.body.id)).boards[0]!.items.length).toBeGreaterThan(5);
    }
    const now = await server.document(body.id);
    const { step } = stepOf(now, 'Wider', setAttribute(now, now.boards[0]!.id, 'width', 321).patches);
    await server.addSteps(body.id, 1, [], [step]);
    await server.update(body.id, 1, [step]);
    await until(async () => (await viewOf(body.id)).copies.every(({ verdict }) => verdict === 'behind'), 'behind');
  });

  it('comes in from a drop as well, packed into one archive or as a package of version 2, and the file is kept as it came', async () => {
    const zip = zipSync(Object.fromEntries(writeProject('post', content('post-1', 'Post'))));
    const brought = await server.bringIn<{ id: string }>('post.zip', zip);
    expect(brought.status).toBe(200);
    await server.idle();
    const { master } = readPackage(readFileSync(join(server.shelf, 'post/post.inkwell')));
    expect(master.resources.map(({ name, role }) => [name, role])).toEqual([['post.zip', 'original']]);
    const original = await fetch(`${server.url}/api/masters/${brought.body.id}/originals/${master.resources[0]!.id}`);
    expect(Buffer.from(await original.arrayBuffer()).equals(Buffer.from(zip))).toBe(true);

    const two = writePackage2({
      document: {
        id: 'two',
        title: 'Of version two',
        owner: '',
        layers: [{ id: 'l', name: 'Ink', colour: '#000000', visible: true, process: 'cut' }],
        symbols: [],
        boards: [{ id: 'b', name: 'B', width: 10, height: 10, background: null, items: [] }],
        pictures: [],
      },
      rev: 2,
      time: '2025-01-01T00:00:00.000Z',
      pictures: new Map(),
    });
    const { body } = await server.bringIn<{ id: string }>('two.inkwell', two);
    await until(
      async () => (await viewOf(body.id)).revisions[0]!.message.includes('native version 2'),
      'it says where it comes from',
    );
  });
});

describe('a master that a newer version wrote', () => {
  /** A package of a later version with a part that nobody here knows. */
  const later = (title: string): Uint8Array => {
    const first = newMaster('later-1', title, 'Ansa Brook', 'panel', {});
    const entries = unzipSync(
      writePackage({ master: first, rev: 9, time: '2027-03-01T09:00:00Z', history: null, resources: new Map() }),
    );
    const json = (name: string) => JSON.parse(strFromU8(entries[name]!)) as { boards: { items: object[] }[] };
    const document = json('master.json');
    document.boards[0]!.items.push(
      { kind: 'hologram', id: 'h1' },
      {
        kind: 'rectangle',
        id: 'r1',
        layer: null,
        style: { fill: '#b04a2f', stroke: null, strokeWidth: 0 },
        x: 10,
        y: 10,
        width: 80,
        height: 40,
        radius: 0,
      },
    );
    const manifest = { ...json('manifest.json'), version: 4, writer: 'inkwell-twin 1.4' };
    const said = {
      ...entries,
      'master.json': strToU8(JSON.stringify(document)),
      'manifest.json': strToU8(JSON.stringify(manifest)),
    };
    return zipSync(
      Object.fromEntries(Object.entries(said).map(([name, bytes]) => [name, [bytes, { level: 0 }] as [Uint8Array, object]])),
    );
  };

  it('is refused for work, looked at in pictures with what they do not show, and stays as it is', async () => {
    const bytes = later('Bog bridge');
    const refused = await server.bringIn<{ error: { code: string; message: string } }>('bog.inkwell', bytes);
    expect([refused.status, refused.body.error.code]).toEqual([400, 'newer-version']);
    const answer = await fetch(`${server.url}/api/look-newer?name=bog.inkwell`, { method: 'POST', body: bytes as never });
    const view = NewerView.parse(await answer.json());
    expect(view).toMatchObject({ version: 4, writer: 'inkwell-twin 1.4', title: 'Bog bridge', rev: 9, ask: 'Ansa Brook' });
    expect(view.notShown).toEqual([{ kind: '“hologram”', count: 1 }]);
    const { rows, facts } = await pictureEngine.raster(Buffer.from(view.pictures[0]!.png, 'base64'));
    const { data } = wholeOf(rows);
    const at = (x: number, y: number) => [...data.subarray(4 * (y * facts.width + x), 4 * (y * facts.width + x) + 3)];
    // The red rectangle, 10 mm from the lower left.
    expect(at(Math.round(facts.width * 0.05) + 4, facts.height - Math.round(facts.width * 0.05) - 4)).not.toEqual(at(2, 2));

    mkdirSync(join(server.shelf, 'From Ansa'));
    writeFileSync(join(server.shelf, 'From Ansa/bog.inkwell'), bytes);
    const found = (await server.call<{ found: OlderView[] }>('GET', '/api/shelf/found')).body.found.find(
      ({ path }) => path === 'From Ansa/bog.inkwell',
    );
    expect(found).toMatchObject({ newer: true, trouble: expect.stringContaining('of native version 4') });
    const seen = await server.call<NewerView>('POST', '/api/shelf/look-newer', { path: 'From Ansa/bog.inkwell' });
    expect(seen.body).toEqual(view);
    expect(readFileSync(join(server.shelf, 'From Ansa/bog.inkwell')).equals(bytes)).toBe(true);
    expect((await server.call('POST', '/api/shelf/open', { path: 'From Ansa/bog.inkwell' })).status).toBe(400);
  });
});
