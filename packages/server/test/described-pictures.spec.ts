import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import type { MasterView, OutsideDescription } from '@inkwell-twin/api';
import {
  type Command,
  type Correction,
  type Description,
  type Master,
  type Resource,
  describePictures,
  heldRows,
  readSidecar,
  replaceResource,
  stepOf,
  writeSidecar,
} from '@inkwell-twin/core';
import { pictureEngine } from '@inkwell-twin/render';
import { TestServer, until } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('described_pictures');
});
afterAll(() => server.close());

const painted = (salt: number): Promise<Uint8Array> => {
  const [width, height] = [30, 20];
  const data = new Uint8Array(4 * width * height).map((_, i) => (i % 4 === 3 ? 255 : (i * salt) % 251));
  const how = { format: 'png', depth: 8, alpha: false, profile: 'sRGB', quality: null, ppi: 150 } as const;
  return pictureEngine.encode(heldRows({ width, height, data }), how);
};
const at = (...path: string[]) => join(server.shelf, ...path);
function place(path: string, bytes: Uint8Array | string): void {
  mkdirSync(dirname(at(path)), { recursive: true });
  writeFileSync(at(path), bytes);
}
async function update(id: string, command: (now: Master) => Pick<Command, 'label' | 'patches'>): Promise<void> {
  const { head } = (await server.call<MasterView>('GET', `/api/masters/${id}`)).body;
  const now = await server.document(id);
  const { label, patches } = command(now);
  const { step } = stepOf(now, label, patches);
  expect((await server.addSteps(id, head, [], [step])).status).toBe(200);
  expect((await server.update(id, head, [step])).status).toBe(200);
  await server.idle();
}
/** A master that links to pictures on the shelf. */
async function linking(title: string, ...paths: string[]): Promise<{ id: string; pictures: string[] }> {
  const { body } = await server.call<{ id: string }>('POST', '/api/masters', { title, purpose: 'sheet', owner: 'Ines' });
  await server.idle();
  const pictures: string[] = [];
  for (const path of paths) {
    const { resource } = (await server.call<{ resource: Resource }>('POST', `/api/masters/${body.id}/links/take`, { path })).body;
    await update(body.id, (now) => ({
      label: 'Linked',
      patches: [{ op: 'insert', parent: now.id, list: 'resources', after: null, node: resource }],
    }));
    pictures.push(resource.id);
  }
  return { id: body.id, pictures };
}
const all = async (id: string): Promise<OutsideDescription[]> =>
  (await server.call<{ descriptions: OutsideDescription[] }>('GET', '/api/descriptions?all=yes')).body.descriptions.filter(
    ({ master }) => master === id,
  );
const stands = (id: string, picture: string, state: string) =>
  until(async () => (await all(id)).find(({ about }) => about === picture)?.state === state, `${state} is told`);
const post = async (what: string, masters: string[], more: object = {}) =>
  (await server.call<{ failed: { message: string }[] }>('POST', `/api/descriptions/${what}`, { masters, ...more })).body.failed;
const describeAs = (id: string, pictures: string[], what: Description) =>
  update(id, (now) => describePictures(now, pictures, what));
const says = (path: string) => readSidecar(readFileSync(at(path), 'utf8'));

describe('descriptions of pictures that are linked', () => {
  it('reach files beside them only when they are written out, several at once, and are marked until then', async () => {
    place('Pool/reeds.png', await painted(7));
    place('Pool/mere.png', await painted(11));
    const { id, pictures } = await linking('Reeds', 'Pool/reeds.png', 'Pool/mere.png');
    await describeAs(id, pictures, { add: ['fen'], rights: 'Trust' });
    expect(await all(id)).toEqual([]);
    expect(await post('write', [id], { about: [pictures[0]!] })).toEqual([]);
    expect(says('Pool/reeds.xmp')).toEqual({ keywords: ['fen'], caption: '', rights: 'Trust' });
    expect(existsSync(at('Pool/mere.xmp'))).toBe(false);
    // All of it, the master’s own too.
    expect(await post('write', [id])).toEqual([]);
    expect(says('Pool/mere.xmp').rights).toBe('Trust');
    expect((await all(id)).map(({ picture, state }) => [picture, state])).toEqual([
      ['', 'in step'],
      ['mere.png', 'in step'],
      ['reeds.png', 'in step'],
    ]);
    await describeAs(id, [pictures[0]!], { caption: 'Reeds at dusk' });
    await stands(id, pictures[0]!, 'pending');
    expect(says('Pool/reeds.xmp').caption).toBe('');
    expect(await post('order', [id], { on: true })).toEqual([]);
    await stands(id, pictures[0]!, 'in step');
    expect(says('Pool/reeds.xmp').caption).toBe('Reeds at dusk');
  });

  it('that came with a picture are told and taken in, and what both sides changed is settled field by field', async () => {
    place('Loft/owl.png', await painted(13));
    place('Loft/owl.xmp', writeSidecar({ keywords: ['owl'], caption: 'An owl', rights: '' }, null));
    const { id, pictures } = await linking('Owl', 'Loft/owl.png');
    await stands(id, pictures[0]!, 'outside');
    expect(await post('settle', [id])).toEqual([]);
    await server.idle();
    const said = async () => (await server.document(id)).resources[0]!.said;
    expect(await said()).toEqual({ keywords: ['owl'], caption: 'An owl', rights: '' });
    await stands(id, pictures[0]!, 'in step');
    writeFileSync(at('Loft/owl.xmp'), readFileSync(at('Loft/owl.xmp'), 'utf8').replace('An owl', 'A barn owl'));
    await describeAs(id, pictures, { caption: 'The owl', rights: 'Ines' });
    await stands(id, pictures[0]!, 'both');
    expect((await post('write', [id], { about: pictures }))[0]!.message).toContain('Settle that first');
    expect(await post('settle', [id], { about: pictures, choices: { caption: 'outside' } })).toEqual([]);
    await server.idle();
    expect(await said()).toEqual({ keywords: ['owl'], caption: 'A barn owl', rights: 'Ines' });
    expect(says('Loft/owl.xmp')).toEqual({ keywords: ['owl'], caption: 'A barn owl', rights: 'Ines' });
  });

  it('take corrections along: written out they reach the file, and one that came in the file is taken wherever the picture is', async () => {
    place('Weir/weir.png', await painted(19));
    const { id, pictures } = await linking('Weir', 'Weir/weir.png');
    const dark: Correction[] = [{ kind: 'exposure', stops: -1 }];
    await update(id, (now) => ({
      label: 'Shown',
      patches: [
        {
          op: 'insert',
          parent: now.boards[0]!.id,
          list: 'items',
          after: null,
          node: {
            kind: 'picture',
            id: 'shown',
            layer: now.layers[0]!.id,
            style: { fill: null, stroke: null, strokeWidth: 0 },
            resource: pictures[0]!,
            x: 5,
            y: 5,
            width: 30,
            height: 20,
            corrections: dark,
          },
        },
      ],
    }));
    expect(await post('write', [id], { about: pictures })).toEqual([]);
    expect(says('Weir/weir.xmp').corrections).toEqual(dark);
    const brighter = readFileSync(at('Weir/weir.xmp'), 'utf8')
      .replace('&quot;stops&quot;:-1', '&quot;stops&quot;:1')
      .replace('"stops":-1', '"stops":1');
    writeFileSync(at('Weir/weir.xmp'), brighter);
    await stands(id, pictures[0]!, 'outside');
    const [met] = (await all(id)).find(({ about }) => about === pictures[0])!.fields;
    expect(met).toMatchObject({ field: 'corrections', inside: 'exposure: stops -1', outside: 'exposure: stops 1' });
    expect(await post('settle', [id], { about: pictures })).toEqual([]);
    await server.idle();
    expect((await server.document(id)).boards[0]!.items[0]).toMatchObject({ corrections: [{ kind: 'exposure', stops: 1 }] });
    await stands(id, pictures[0]!, 'in step');
    writeFileSync(at('Weir/weir.xmp'), brighter.replace('exposure', 'glow'));
    await stands(id, pictures[0]!, 'unreadable');
  });

  it('stay with a picture that is taken as it is now, and a picture that is gone is named', async () => {
    place('Barn/door.png', await painted(17));
    const { id, pictures } = await linking('Door', 'Barn/door.png');
    await describeAs(id, pictures, { caption: 'The door' });
    expect(await post('write', [id], { about: pictures })).toEqual([]);
    writeFileSync(at('Barn/door.png'), await painted(19));
    const { resource } = (
      await server.call<{ resource: Resource }>('POST', `/api/masters/${id}/links/take`, { path: 'Barn/door.png' })
    ).body;
    await update(id, (now) => replaceResource(now, pictures[0]!, resource));
    await stands(id, resource.id, 'in step');
    expect((await all(id)).map(({ about }) => about)).toEqual([resource.id]);
    // Only our side changed since both said the same: that is pending, not a conflict.
    await describeAs(id, [resource.id], { caption: 'The old door' });
    await stands(id, resource.id, 'pending');
    renameSync(at('Barn/door.png'), at('Barn/gone.png'));
    await update(id, (now) => ({
      label: 'Called',
      patches: [{ op: 'set', node: now.id, attribute: 'title', value: 'Barn door' }],
    }));
    await stands(id, resource.id, 'unreadable');
    expect((await post('write', [id], { about: [resource.id] }))[0]!.message).toContain('Mend its link first');
  });

  it('of two pictures that only differ in their ending go into files of their own', async () => {
    place('Twins/a.png', await painted(23));
    place('Twins/a.jpg', await painted(29));
    const { id, pictures } = await linking('Twins', 'Twins/a.png', 'Twins/a.jpg');
    await describeAs(id, [pictures[0]!], { caption: 'one' });
    await describeAs(id, [pictures[1]!], { caption: 'other' });
    expect(await post('write', [id])).toEqual([]);
    expect([says('Twins/a.png.xmp').caption, says('Twins/a.jpg.xmp').caption]).toEqual(['one', 'other']);
  });
});
