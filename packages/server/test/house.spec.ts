import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { HouseView, MasterView } from '@inkwell-twin/api';
import { type HouseRules, NO_RULES } from '@inkwell-twin/core';
import { TestServer } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('house');
});
afterAll(() => server.close());

type Failed = { error: { code: string; message: string } };
const say = (rules: object, knows: string | null) => server.call<HouseView & Failed>('PUT', '/api/house', { rules, knows });
const now = async () => (await server.call<HouseView>('GET', '/api/house')).body;
const CAMEL: HouseRules = { ...NO_RULES, names: { ...NO_RULES.names, letters: 'CamelParts', parts: ['date', 'title', 'rev'] } };

describe('house rules on the server', () => {
  it('are none at first, are kept with who said them, and one of many at once is kept', async () => {
    expect(await now()).toEqual({ rules: NO_RULES, by: '', at: null });
    const answers = await Promise.all(
      [16, 20, 40, 60, 80].map((length) => say({ ...NO_RULES, names: { ...NO_RULES.names, length } }, null)),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409, 409, 409, 409]);
    const kept = answers.find(({ status }) => status === 200)!.body;
    expect(await now()).toEqual(kept);
    expect(kept.by).not.toBe('');
    expect((await say({ ...NO_RULES, widths: [-1] }, kept.at)).body.error.message).toContain('House rules: widths 0');
    expect((await say({ format: 'x' }, kept.at)).body.error).toMatchObject({ code: 'rules-invalid' });
    expect(await now()).toEqual(kept);
  });

  it('name what is new, and say how what is there would be called', async () => {
    expect((await say(NO_RULES, (await now()).at)).status).toBe(200);
    const { body } = await server.call<{ id: string }>('POST', '/api/masters', {
      title: 'Gate plate',
      purpose: 'panel',
      owner: '',
    });
    await server.idle();
    const copy = (label: string) =>
      server.call('POST', `/api/masters/${body.id}/copies`, {
        target: 'svg',
        options: {},
        scope: { of: 'boards', ids: [] },
        label,
      });
    await copy('for the smith');
    await server.idle();
    expect((await say(CAMEL, (await now()).at)).status).toBe(200);
    await copy('for the painter');
    await server.idle();
    const view = (await server.call<MasterView>('GET', `/api/masters/${body.id}`)).body;
    const date = new Date(view.revisions[0]!.time).toISOString().slice(0, 10);
    expect(readdirSync(join(server.shelf, 'gate_plate')).sort()).toEqual(
      [`${date}_ForThePainter_r1.svg`, 'for_the_smith_r1.svg', 'gate_plate.inkwell'].sort(),
    );
    const { names } = (
      await server.call<{ names: { file: string; proposed: string }[] }>('GET', `/api/masters/${body.id}/wrong-names`)
    ).body;
    expect(names.map(({ file, proposed }) => [file, proposed])).toEqual([
      ['gate_plate.inkwell', 'GatePlate.inkwell'],
      ['for_the_smith_r1.svg', `${date}_ForTheSmith_r1.svg`],
    ]);
    const again = view.copies.find(({ file }) => file === 'for_the_smith_r1.svg')!;
    await server.call('POST', `/api/copies/${again.id}/derive`);
    await server.idle();
    expect(readdirSync(join(server.shelf, 'gate_plate'))).not.toContain('for_the_smith_r1.svg');
    expect(
      (await server.call<{ id: string }>('POST', '/api/masters', { title: 'Rail end', purpose: 'panel', owner: '' })).status,
    ).toBe(200);
    await server.idle();
    expect(readdirSync(server.shelf)).toContain('RailEnd');
  });

  it('never put a copy in the place of the master’s own file, even where it is to replace what is called the same', async () => {
    expect((await say({ ...NO_RULES, names: { ...NO_RULES.names, parts: ['title'] } }, (await now()).at)).status).toBe(200);
    const { body } = await server.call<{ id: string }>('POST', '/api/masters', {
      title: 'Kiln sign',
      purpose: 'panel',
      owner: '',
    });
    await server.idle();
    const own = join(server.shelf, 'kiln_sign', 'kiln_sign.inkwell');
    const before = readFileSync(own);
    const copy = { target: 'native', options: {}, scope: { of: 'master' }, label: 'Kiln sign', replace: true };
    expect((await server.call('POST', `/api/masters/${body.id}/copies`, copy)).status).toBe(200);
    await server.idle();
    expect(readdirSync(join(server.shelf, 'kiln_sign')).sort()).toEqual(['kiln_sign.inkwell', 'kiln_sign_2.inkwell']);
    expect(readFileSync(own).equals(before)).toBe(true);
  });
});
