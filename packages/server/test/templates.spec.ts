import type { MasterView } from '@inkwell-twin/api';
import { type Master, PURPOSES, setAttribute, stepOf } from '@inkwell-twin/core';
import { TestServer } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('templates');
});
afterAll(() => server.close());

type Made = { id: string; error: { message: string } };
const begin = (body: object) =>
  server.call<Made>('POST', '/api/masters', { title: '', purpose: 'sheet', owner: 'Ines Okoro', ...body });
const templates = async () =>
  (await server.call<{ templates: { id: string; name: string; by: string; picture: string | null }[] }>('GET', '/api/templates'))
    .body.templates;
const make = (master: string, name: string) => server.call<Made>('POST', `/api/masters/${master}/template`, { name });
/** A picture of two by one pixels (PNG 2nd edition), made by other hands. */
const PNG = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAIAAAABCAIAAAB7QOjdAAAACXBIWXMAAA7EAAAOxAGVKw4bAAAAD0lEQVR4nGM4IScnJ3cCAAcjAgnukg5ZAAAAAElFTkSuQmCC',
  'base64',
);

describe('what a new master is for', () => {
  it('gives size, unit and background, all of which can be otherwise', async () => {
    for (const { id, width, height, unit, background } of PURPOSES) {
      const document = await server.document((await begin({ purpose: id, title: id })).body.id);
      expect([document.unit, document.purpose]).toEqual([unit, id]);
      expect(document.boards[0]).toMatchObject({ width, height, background });
    }
    const wish = { purpose: 'panel', width: 88.9, height: 50.8, unit: 'in', background: '#102030' };
    const document = await server.document((await begin(wish)).body.id);
    expect([document.title, document.unit]).toEqual(['Unnamed', 'in']);
    expect(document.boards[0]).toMatchObject({ width: 88.9, height: 50.8, background: '#102030' });
    expect((await begin({ width: -1 })).status).toBe(400);
    // Copies in pixels: as the purpose has it, or as it is wished.
    const screen = await server.document((await begin({ purpose: 'screen' })).body.id);
    expect([screen.ppi, screen.profile]).toEqual([96, 'sRGB']);
    const other = await server.document((await begin({ purpose: 'screen', ppi: 192, profile: 'Display P3' })).body.id);
    expect([other.ppi, other.profile]).toEqual([192, 'Display P3']);
    expect((await server.document((await begin({ purpose: 'photograph', ppi: null })).body.id)).ppi).toBeUndefined();
    expect((await begin({ ppi: 0 })).status).toBe(400);
  });

  it('has usual sizes that are what their standards say', () => {
    const sizes = Object.fromEntries(
      PURPOSES.flatMap((one) => one.sizes.map(({ name, width, height }) => [name, [width, height]])),
    );
    // ISO 216: the sides are as 1 to the root of 2, and each size is the half of the one before.
    for (const [name, next] of [
      ['A0', 'A1'],
      ['A1', 'A2'],
      ['A2', 'A3'],
      ['A3', 'A4'],
      ['A4', 'A5'],
      ['A5', 'A6'],
      ['B4', 'B5'],
    ] as const) {
      const [[w, h], [w2, h2]] = [sizes[name]!, sizes[next]!];
      expect(h! / w!).toBeCloseTo(Math.SQRT2, 2);
      expect(h2).toBe(w);
      expect(Math.abs(w2! - h! / 2)).toBeLessThan(1);
    }
    expect(sizes['ANSI A']).toEqual([8.5 * 25.4, 11 * 25.4].map((mm) => Number(mm.toFixed(1))));
    expect(sizes['1920 × 1080 pixels']).toEqual([508, 285.75]);
  });
});

describe('templates', () => {
  it('are made from a master, keep what it was with its pictures, and always give a new master without a name', async () => {
    const brought = await server.bringIn<Made>('otter.png', PNG);
    expect(brought.status).toBe(200);
    const from = brought.body.id;
    await server.idle();
    const { id: template } = (await make(from, 'Otter card')).body;
    expect(await templates()).toEqual([
      { id: template, name: 'Otter card', by: 'Ines Okoro', picture: `/api/templates/${template}/picture.png` },
    ]);
    expect((await fetch(server.url + `/api/templates/${template}/picture.png`)).headers.get('content-type')).toContain(
      'image/png',
    );
    const before = await server.document(from);
    // What becomes of the master afterwards is nothing to the template, not even that it goes for good.
    const { step } = stepOf(before, 'Renamed', setAttribute(before, before.boards[0]!.id, 'name', 'Other').patches);
    await server.addSteps(from, 1, [], [step]);
    await server.update(from, 1, [step]);
    await server.call('POST', `/api/masters/${from}/throw-away`);
    expect((await server.call('DELETE', `/api/masters/${from}`)).status).toBe(200);

    const [one, two] = [(await begin({ template })).body.id, (await begin({ template, title: 'Named at once' })).body.id];
    await server.idle();
    const first = await server.document(one);
    expect({ ...first, id: before.id, title: before.title, owner: before.owner }).toEqual(before);
    expect([first.title, (await server.document(two)).title]).toEqual(['Unnamed', 'Named at once']);
    const view = (await server.call<MasterView>('GET', `/api/masters/${one}`)).body;
    expect([view.revisions.length, view.revisions[0]!.message]).toEqual([1, 'Begun from the template “Otter card”']);
    const picture = first.resources.find(({ role }) => role === 'picture')!;
    const kept = await fetch(`${server.url}/api/masters/${one}/originals/${picture.id}`);
    expect(Buffer.from(await kept.arrayBuffer()).equals(PNG)).toBe(true);

    // Taken away: what was begun stays, and who chose it meanwhile learns of it.
    expect((await server.call('DELETE', `/api/templates/${template}`)).status).toBe(200);
    expect(await templates()).toEqual([]);
    expect((await server.call<Made>('DELETE', `/api/templates/${template}`)).status).toBe(404);
    expect((await begin({ template })).body.error.message).toContain('took this template away meanwhile');
    expect((await fetch(`${server.url}/api/masters/${one}/originals/${picture.id}`)).status).toBe(200);
  });

  it('taken away in the moment in which others begin from it: each begins whole, or not at all', async () => {
    const from = (await begin({ title: 'Plate', purpose: 'panel' })).body.id;
    for (let round = 0; round < 5; round++) {
      const { id: template } = (await make(from, `Plate ${round}`)).body;
      const answers = await Promise.all([
        begin({ template }),
        begin({ template }),
        server.call<Made>('DELETE', `/api/templates/${template}`),
        begin({ template }),
      ]);
      for (const { status, body } of answers.filter((_, i) => i !== 2)) {
        expect([200, 404]).toContain(status);
        if (status === 200) expect(((await server.document(body.id)) as Master).boards.length).toBe(1);
      }
    }
  });
});
