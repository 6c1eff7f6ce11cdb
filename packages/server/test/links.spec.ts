import { mkdirSync, readFileSync, readdirSync, renameSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { type CopyView, type Desk, type LinkView, MasterView, type ShelfFile } from '@inkwell-twin/api';
import {
  type Command,
  type Master,
  type Patch,
  type Resource,
  digest,
  heldRows,
  linkedIn,
  readPackage,
  replaceResource,
  setLink,
  stepOf,
  writePackage,
} from '@inkwell-twin/core';
import { pictureEngine } from '@inkwell-twin/render';
import { TestServer, until } from './harness';

let server: TestServer;
const painted = (salt: number): Promise<Uint8Array> => {
  const [width, height] = [30, 20];
  const data = new Uint8Array(4 * width * height).map((_, i) => (i % 4 === 3 ? 255 : (i * salt) % 251));
  const how = { format: 'png', depth: 8, alpha: false, profile: 'sRGB', quality: null, ppi: 150 } as const;
  return pictureEngine.encode(heldRows({ width, height, data }), how);
};
let reeds: Uint8Array;
let mere: Uint8Array;
beforeAll(async () => {
  server = await TestServer.open('links');
  [reeds, mere] = await Promise.all([painted(7), painted(11)]);
});
afterAll(() => server.close());

type Failed = { error: { code: string; message: string } };
const open = async (id: string) => MasterView.parse((await server.call('GET', `/api/masters/${id}`)).body);
const at = (...path: string[]) => join(server.shelf, ...path);
function place(path: string, bytes: Uint8Array): void {
  mkdirSync(dirname(at(path)), { recursive: true });
  writeFileSync(at(path), bytes);
}
const take = (id: string, path: string) =>
  server.call<{ resource: Resource } & Failed>('POST', `/api/masters/${id}/links/take`, { path });
const states = async (id: string): Promise<LinkView[]> => {
  const links = linkedIn(await server.document(id)).map(({ id: resource, link, size }) => ({ resource, link, size }));
  return (await server.call<{ links: LinkView[] }>('POST', `/api/masters/${id}/links`, { links })).body.links;
};
async function update(id: string, command: (now: Master) => Pick<Command, 'label' | 'patches'>): Promise<void> {
  const { head } = await open(id);
  const now = await server.document(id);
  const { label, patches } = command(now);
  const { step } = stepOf(now, label, patches);
  expect((await server.addSteps(id, head, [], [step])).status).toBe(200);
  expect((await server.update(id, head, [step])).status).toBe(200);
  await server.idle();
}
const show =
  (resource: Resource) =>
  (now: Master): { label: string; patches: Patch[] } => ({
    label: 'Linked',
    patches: [
      { op: 'insert', parent: now.id, list: 'resources', after: null, node: resource },
      {
        op: 'insert',
        parent: now.boards[0]!.id,
        list: 'items',
        after: null,
        node: {
          kind: 'picture',
          id: 'pic',
          layer: now.layers[0]!.id,
          style: { fill: null, stroke: null, strokeWidth: 0 },
          resource: resource.id,
          x: 5,
          y: 5,
          width: 30,
          height: 20,
        },
      },
    ],
  });
/** A master that shows a picture on the shelf, linked, with a copy of it. */
async function panel(title: string, path: string): Promise<string> {
  place(path, reeds);
  const { body } = await server.call<{ id: string }>('POST', '/api/masters', { title, purpose: 'sheet', owner: 'Ines' });
  await server.idle();
  const { resource } = (await take(body.id, path)).body;
  await update(body.id, show(resource));
  return body.id;
}
const derive = (id: string, label: string) =>
  server.call<{ job: string }>('POST', `/api/masters/${id}/copies`, {
    target: 'svg',
    options: {},
    scope: { of: 'boards', ids: [] },
    label,
  });
const packageOf = async (id: string, form: string): Promise<Uint8Array> =>
  new Uint8Array(await (await fetch(`${server.url}/api/masters/${id}/package?form=${form}`)).arrayBuffer());
const notices = async (): Promise<string> =>
  (await server.call<Desk>('GET', '/api/desk')).body.notices.map(({ message }) => message).join('; ');

describe('a linked file', () => {
  it('lies on the shelf and not in the master’s file, which goes along light or whole', async () => {
    const id = await panel('Reed panel', 'Pool/reeds.png');
    expect(await states(id)).toMatchObject([{ state: 'here', path: 'Pool/reeds.png', kept: true, elsewhere: [] }]);
    const view = await open(id);
    expect(readPackage(readFileSync(at(view.folder, view.file))).resources.size).toBe(0);
    const [light, whole] = [await packageOf(id, 'light'), await packageOf(id, 'whole')];
    expect(readPackage(light).resources.size).toBe(0);
    const inside = readPackage(whole);
    expect([...inside.resources.keys()]).toEqual([digest(reeds)]);
    expect(linkedIn(inside.master)).toEqual([]);
    // Both are read by a Desk that never saw it: here, after it was thrown away.
    for (const [bytes, count] of [
      [light, 1],
      [whole, 0],
    ] as const) {
      await server.call('POST', `/api/masters/${id}/throw-away`);
      await server.call('DELETE', `/api/masters/${id}`);
      expect((await server.bringIn('reed panel.inkwell', bytes)).status).toBe(200);
      await server.idle();
      expect(linkedIn(await server.document(id)).length).toBe(count);
      expect((await states(id)).map(({ state }) => state)).toEqual(count ? ['here'] : []);
    }
  });

  it('that is gone is told of, found elsewhere by its bytes, put back, and put into the master', async () => {
    const id = await panel('Mere panel', 'Mere/pics/reeds one.png');
    // The other panels' pictures have the same bytes: here they would be found, too.
    rmSync(at('Pool'), { recursive: true, force: true });
    expect(await notices()).not.toContain('reeds one.png');
    mkdirSync(at('Elsewhere'));
    renameSync(at('Mere/pics/reeds one.png'), at('Elsewhere/other name.png'));
    const told = 'Its linked file Mere/pics/reeds one.png is missing. Mend it under Files.';
    await until(async () => (await open(id)).brokenLinks === 1, 'the missing link is counted');
    await until(async () => (await notices()).includes(told), 'the missing link is told');
    expect(await states(id)).toMatchObject([{ state: 'missing', kept: true, elsewhere: ['Elsewhere/other name.png'] }]);
    // Its copies can still be made: what was last seen is kept.
    const link = linkedIn(await server.document(id))[0]!;
    const out = (body: object) => server.call<{ link: string } & Failed>('POST', `/api/masters/${id}/links/out`, body);
    expect((await out({ resource: link.id, link: link.link })).body.link).toBe(link.link);
    await until(async () => (await open(id)).brokenLinks === 0, 'the mended link is counted');
    await until(async () => !(await notices()).includes('reeds one.png'), 'the notice goes');
    expect(readFileSync(at('Mere/pics/reeds one.png')).equals(reeds)).toBe(true);
    // Nothing that stands there is written over.
    writeFileSync(at('Mere/pics/reeds one.png'), 'mine');
    const refused = await out({ resource: link.id, link: link.link });
    expect([refused.status, refused.body.error.message]).toEqual([409, expect.stringContaining('Something stands at')]);
    expect(readFileSync(at('Mere/pics/reeds one.png'), 'utf8')).toBe('mine');
    await update(id, (now) => setLink(now, link.id, undefined, 'Put in'));
    expect((await open(id)).brokenLinks).toBe(0);
    const view = await open(id);
    expect([...readPackage(readFileSync(at(view.folder, view.file))).resources.keys()]).toEqual([link.id]);
  });

  it('that changed is taken as it is now, and every revision still shows what it showed', async () => {
    const id = await panel('Heron panel', 'Herons/heron.png');
    expect((await derive(id, 'proof')).status).toBe(200);
    await server.idle();
    writeFileSync(at('Herons/heron.png'), mere);
    await until(async () => (await open(id)).brokenLinks === 1, 'the changed file is told');
    expect(await states(id)).toMatchObject([{ state: 'changed', size: mere.length }]);
    const verdict = async () => ((await open(id)).copies as CopyView[]).map((copy) => copy.verdict);
    // The master says what it said: its copies are in step until it takes the file.
    expect(await verdict()).toEqual(['in step']);
    const { resource } = (await take(id, 'Herons/heron.png')).body;
    await update(id, (now) => replaceResource(now, digest(reeds), resource));
    expect(await verdict()).toEqual(['behind']);
    expect((await states(id)).map(({ state, resource: of }) => [state, of])).toEqual([['here', digest(mere)]]);
    expect(linkedIn(await server.document(id, 2))[0]!.id).toBe(digest(reeds));
    // Taken along light, what it was before makes it no heavier.
    expect(readPackage(await packageOf(id, 'light')).resources.size).toBe(0);
    expect(readPackage(await packageOf(id, 'whole')).resources.size).toBe(2);
    for (const bytes of [reeds, mere]) {
      const kept = await fetch(`${server.url}/api/masters/${id}/originals/${digest(bytes)}`);
      expect(Buffer.from(await kept.arrayBuffer()).equals(bytes)).toBe(true);
    }
  });

  it('that became a folder or a link is said to be so, and nothing is read through it', async () => {
    const id = await panel('Owl panel', 'Owls/owl.png');
    rmSync(at('Owls/owl.png'));
    mkdirSync(at('Owls/owl.png'));
    await until(async () => (await open(id)).brokenLinks === 1, 'the folder is told');
    expect(await states(id)).toMatchObject([
      { state: 'not a file', words: expect.stringContaining('a folder stands in its place') },
    ]);
    expect(await notices()).toContain('Owls/owl.png is no file any more');
    const refused = await take(id, 'Owls/owl.png');
    expect([refused.status, refused.body.error.message]).toEqual([400, expect.stringContaining('a folder stands in its place')]);
    rmSync(at('Owls/owl.png'), { recursive: true });
    const secret = at('..', `secret-${process.pid}.png`);
    writeFileSync(secret, reeds);
    symlinkSync(secret, at('Owls/owl.png'));
    expect(await states(id)).toMatchObject([{ state: 'not a file', words: expect.stringContaining('links are not followed') }]);
    rmSync(secret);
    for (const path of ['../secret.png', '/etc/passwd', 'alone.png', 'Owls/../../x.png'])
      expect((await take(id, path)).status).toBe(400);
  });

  it('whose folder is taken away is missing, and here again with it', async () => {
    const id = await panel('Coot panel', 'Coots/young/coot.png');
    renameSync(at('Coots'), at('Moor hens'));
    await until(async () => (await open(id)).brokenLinks === 1, 'the folder that went is told');
    renameSync(at('Moor hens'), at('Coots'));
    await until(async () => (await open(id)).brokenLinks === 0, 'the folder that came is told');
  });

  it('that never was here shows as missing; the copy says so, and all is well once it lies there', async () => {
    const id = await panel('Teal panel', 'Teals/teal.png');
    const found = readPackage(await packageOf(id, 'light'));
    // As from another machine: another master with a picture whose bytes nobody here has.
    const other = await painted(13);
    const link = { ...linkedIn(found.master)[0]!, id: digest(other), link: 'Far/far.png', size: other.length };
    const replaced = JSON.parse(JSON.stringify(found.master).replaceAll(digest(reeds), digest(other))) as Master;
    const master = { ...replaced, id: 'far-away', title: 'Far panel', resources: [link] };
    expect((await server.bringIn('far.inkwell', writePackage({ ...found, master, history: null }))).status).toBe(200);
    await server.idle();
    expect(await states('far-away')).toMatchObject([{ state: 'missing', kept: false }]);
    expect((await open('far-away')).brokenLinks).toBe(1);
    expect((await derive('far-away', 'proof')).status).toBe(200);
    await until(async () => (await notices()).includes('Mend its link'), 'why there is no copy is told');
    expect((await fetch(`${server.url}/api/masters/far-away/package?form=whole`)).status).not.toBe(200);
    place('Far/far.png', other);
    await until(async () => (await open('far-away')).brokenLinks === 0, 'the file that came is told');
    expect(await states('far-away')).toMatchObject([{ state: 'here', kept: true }]);
    expect((await derive('far-away', 'proof')).status).toBe(200);
    await server.idle();
    expect((await open('far-away')).copies.map(({ verdict }) => verdict)).toEqual(['in step']);
  });

  it('goes to the shelf under a name of its own, also for two at once', async () => {
    const { body } = await server.call<{ id: string }>('POST', '/api/masters', {
      title: 'Album',
      purpose: 'sheet',
      owner: 'Ines',
    });
    await server.idle();
    const url = `${server.url}/api/masters/${body.id}/pictures?name=${encodeURIComponent('Reeds at dusk.png')}`;
    const { resource } = (await (await fetch(url, { method: 'POST', body: reeds as never })).json()) as { resource: Resource };
    const out = () =>
      server.call<{ link: string }>('POST', `/api/masters/${body.id}/links/out`, { resource: resource.id, link: null });
    const links = (await Promise.all([out(), out(), out()])).map(({ body: { link } }) => link);
    const folder = (await open(body.id)).folder;
    expect(readdirSync(at(folder, 'linked')).length).toBe(new Set(links).size);
    for (const link of links) expect(readFileSync(at(folder, link)).equals(reeds)).toBe(true);
    await update(body.id, (now) => show({ ...resource, link: links[0]! })(now));
    const { files } = (await server.call<{ files: ShelfFile[] }>('GET', `/api/masters/${body.id}/links/files?name=teal.png`))
      .body;
    expect(files[0]!.path).toBe('Teals/teal.png');
    expect(files.map(({ path }) => path)).toContain(`${folder}/${links[0]}`);
    // The whole folder goes elsewhere by hand of this program: the link goes along.
    const move = { place: 'Albums', name: 'Album of the reeds', copies: 'follow' };
    expect((await server.call('PUT', `/api/masters/${body.id}/place`, move)).status).toBe(200);
    await server.idle();
    expect(await states(body.id)).toMatchObject([{ state: 'here', path: `Albums/Album of the reeds/${links[0]}` }]);
  });
});
