import { readFileSync, readdirSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type ErrorBody, MasterView } from '@inkwell-twin/api';
import {
  type Master,
  type Patch,
  type PictureItem,
  type Resource,
  digest,
  heldRows,
  readPackage,
  stepOf,
  wholeOf,
} from '@inkwell-twin/core';
import { pictureEngine } from '@inkwell-twin/render';
import { TestServer, until } from './harness';

let server: TestServer;
let bytes: Uint8Array;
beforeAll(async () => {
  server = await TestServer.open('pictures');
  const [width, height] = [120, 80];
  const data = new Uint8Array(4 * width * height).map((_, i) => (i % 4 === 3 ? 255 : (i * 7) % 251));
  const how = { format: 'png', depth: 8, alpha: false, profile: 'sRGB', quality: null, ppi: 150 } as const;
  bytes = await pictureEngine.encode(heldRows({ width, height, data }), how);
});
afterAll(() => server.close());

const open = async (id: string) => MasterView.parse((await server.call('GET', `/api/masters/${id}`)).body);
const send = async <T>(id: string, name: string, body: Uint8Array): Promise<{ status: number; body: T }> => {
  const url = `${server.url}/api/masters/${id}/pictures?name=${encodeURIComponent(name)}`;
  const answer = await fetch(url, { method: 'POST', body: body as never });
  return { status: answer.status, body: (await answer.json()) as T };
};
const started = async (): Promise<string> =>
  (await server.call<{ id: string }>('POST', '/api/masters', { title: 'Album', purpose: 'sheet', owner: 'Ines' })).body.id;

/** A picture put on the first board of a master, and the master updated. */
async function put(id: string, resource: Resource, more: Partial<PictureItem> = {}): Promise<void> {
  const now: Master = await server.document(id);
  const { head } = await open(id);
  const style = { fill: null, stroke: null, strokeWidth: 0 };
  const item = {
    kind: 'picture',
    id: 'pic',
    layer: now.layers[0]!.id,
    style,
    resource: resource.id,
    x: 5,
    y: 5,
    width: 30,
    height: 20,
    ...more,
  };
  const patches: Patch[] = [
    { op: 'insert', parent: now.id, list: 'resources', after: null, node: resource },
    { op: 'insert', parent: now.boards[0]!.id, list: 'items', after: null, node: item },
  ];
  const { step } = stepOf(now, 'Picture added', patches);
  expect((await server.addSteps(id, head, [], [step])).status).toBe(200);
  expect((await server.update(id, head, [step], 'Picture added')).status).toBe(200);
  await server.idle();
}

describe('pictures of a master', () => {
  it('are kept byte for byte, given out small, put into copies and into the master’s file', async () => {
    const id = await started();
    const { status, body } = await send<{ resource: Resource; width: number }>(id, 'dots.png', bytes);
    expect(status).toBe(200);
    expect(body).toMatchObject({ resource: { id: digest(bytes), role: 'picture', width: 120, height: 80 } });
    expect(body.width).toBeCloseTo((120 / 150) * 25.4, 2);
    await put(id, body.resource);
    const small = await fetch(`${server.url}/api/pictures/${digest(bytes)}?most=60`);
    expect(small.headers.get('content-type')).toBe('image/png');
    expect(await pictureEngine.facts(new Uint8Array(await small.arrayBuffer()))).toMatchObject({ width: 60, height: 40 });
    for (const target of ['png', 'svg']) {
      await server.call('POST', `/api/masters/${id}/copies`, {
        target,
        label: `as ${target}`,
        options: {},
        scope: { of: 'boards', ids: [] },
      });
      await until(
        async () => (await open(id)).copies.some(({ label, verdict }) => label === `as ${target}` && verdict === 'in step'),
        target,
      );
    }
    const { file } = await open(id);
    const kept = readPackage(readFileSync(join(server.shelf, file.replace('.inkwell', ''), file)));
    expect(Buffer.from(kept.resources.get(digest(bytes))!).equals(bytes)).toBe(true);
  });

  it('tell what of them is not read, put on a board as brought in by themselves', async () => {
    const id = await started();
    const rows = heldRows({ width: 8, height: 8, data: new Uint8Array(256).fill(200) });
    const how = { format: 'jpeg', depth: 8, alpha: false, profile: 'sRGB', quality: 90, ppi: 150 } as const;
    const plain = await pictureEngine.encode(rows, how);
    // A part for applications that nobody here knows, right behind the start of the file (ITU-T T.81, B.2.4.6).
    const part = [0xff, 0xeb, 0, 6, 74, 80, 1, 2];
    const more = Uint8Array.from([...plain.subarray(0, 2), ...part, ...plain.subarray(2)]);
    interface Told {
      notUnderstood: { kind: string }[];
    }
    expect((await send<Told>(id, 'plain.jpg', plain)).body.notUnderstood).toEqual([]);
    const told = [{ kind: 'part for applications (APP11)' }];
    expect((await send<Told>(id, 'more.jpg', more)).body.notUnderstood).toMatchObject(told);
    expect((await server.bringIn('more.jpg', more)).body).toMatchObject({ notUnderstood: told });
  });

  it('stand beside the DXF copies that refer to them, one file for several, and go when none does any more', async () => {
    const id = await started();
    const { body } = await send<{ resource: Resource }>(id, 'dots.png', bytes);
    await put(id, body.resource);
    const copy = async (label: string) => (await open(id)).copies.find((one) => one.label === label)!;
    const options = { version: '2004', pictures: 'files beside' };
    for (const label of ['for the router', 'for the archive']) {
      await server.call('POST', `/api/masters/${id}/copies`, { target: 'dxf', label, options, scope: { of: 'boards', ids: [] } });
      await until(async () => (await copy(label))?.verdict === 'in step', label);
    }
    const [router, archive] = [await copy('for the router'), await copy('for the archive')];
    expect(router.parts).toEqual([expect.stringMatching(/^picture_[0-9a-f]{16}\.png$/)]);
    expect(archive.parts).toEqual(router.parts);
    const folder = join(server.shelf, (await open(id)).file.replace('.inkwell', ''));
    const [shared] = router.parts as [string];
    const now: Master = await server.document(id);
    const { head } = await open(id);
    const cut = { left: 0.5, bottom: 0, right: 1, top: 1 };
    const turned = [{ kind: 'exposure', id: 'x', on: true, stops: 1 }];
    const { step } = stepOf(now, 'Lightened', [
      { op: 'set', node: 'pic', attribute: 'corrections', value: turned },
      { op: 'set', node: 'pic', attribute: 'crop', value: cut },
    ]);
    expect((await server.addSteps(id, head, [], [step])).status).toBe(200);
    expect((await server.update(id, head, [step], 'Lightened')).status).toBe(200);
    await server.idle();
    await server.call('POST', `/api/copies/${router.id}/derive`, {});
    await until(async () => (await copy('for the router')).verdict === 'in step', 'derived again');
    const [own] = (await copy('for the router')).parts as [string];
    expect(own).not.toBe(shared);
    expect(readdirSync(folder)).toEqual(expect.arrayContaining([own, shared]));
    expect((await copy('for the archive')).verdict).toBe('behind');
    await server.call('POST', `/api/copies/${(await copy('for the archive')).id}/derive`, {});
    await until(async () => (await copy('for the archive')).verdict === 'in step', 'derived again');
    expect(readdirSync(folder).filter((name) => name.startsWith('picture_'))).toEqual([own]);
    renameSync(join(folder, own), join(folder, 'elsewhere.png'));
    await until(async () => (await copy('for the router')).verdict === 'touched', 'touched');
    await until(async () => (await copy('for the archive')).verdict === 'touched', 'both touched');
  });

  it('that were painted over in a copy are found, with both sides to look at', async () => {
    const id = await started();
    const { body } = await send<{ resource: Resource }>(id, 'dots.png', bytes);
    await put(id, body.resource);
    await server.call('POST', `/api/masters/${id}/copies`, {
      target: 'png',
      label: 'web',
      options: { ppi: 100 },
      scope: { of: 'boards', ids: [] },
    });
    await until(async () => (await open(id)).copies[0]?.verdict === 'in step', 'in step');
    const [copy] = (await open(id)).copies;
    const folder = (await open(id)).file.replace('.inkwell', '');
    const path = join(server.shelf, folder, copy!.file);
    const { rows, xmp } = await pictureEngine.raster(readFileSync(path));
    const { width, height, data } = wholeOf(rows);
    data.set([255, 0, 0, 255], 4 * (width * (height >> 1) + (width >> 1)));
    const how = { format: 'png', depth: 8, alpha: true, profile: 'sRGB', quality: null, ppi: 100 } as const;
    writeFileSync(path, pictureEngine.withXmp(await pictureEngine.encode(heldRows({ width, height, data }), how), 'png', xmp!));
    await until(async () => (await open(id)).copies[0]?.verdict === 'touched', 'touched');
    const { view, master } = await server.match(copy!.id);
    expect(view.differences).toMatchObject([{ kind: 'region changed', unit: 'ΔE' }]);
    expect(master).toMatchObject({ width, height });
  });

  it('come in as masters of their own, once', async () => {
    const { status, body } = await server.bringIn<{ id: string; objects: number }>('pool.png', bytes);
    expect([status, body.objects]).toEqual([200, 1]);
    const master = await server.document(body.id);
    expect(master.resources).toHaveLength(1);
    const { file } = await open(body.id);
    await server.idle();
    const native = readFileSync(join(server.shelf, file.replace('.inkwell', ''), file));
    await server.call('POST', `/api/masters/${body.id}/set-aside`);
    await server.call('DELETE', `/api/masters/${body.id}`);
    expect((await server.bringIn<{ id: string }>('pool.inkwell', native)).body.id).toBe(body.id);
  });

  it.each([
    ['no picture', Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>'), 400, 'picture-unknown'],
    ['nothing known', Buffer.from('hello there'), 400, 'picture-unknown'],
    ['cut off', Buffer.alloc(0), 400, 'request-invalid'],
  ])('%s is refused in words', async (_, body, status, code) => {
    const id = await started();
    expect(await send<ErrorBody>(id, 'x.png', body)).toMatchObject({ status, body: { error: { code } } });
  });

  it('that no master keeps are not given out', async () => {
    expect((await fetch(`${server.url}/api/pictures/${'0'.repeat(64)}`)).status).toBe(404);
    expect((await fetch(`${server.url}/api/pictures/${digest(bytes)}?most=99999`)).status).toBe(400);
    expect((await send(`no-such-master`, 'dots.png', bytes)).status).toBe(404);
  });
});
