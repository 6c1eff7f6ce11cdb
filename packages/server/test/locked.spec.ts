import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { HouseView, Identified, MasterView } from '@inkwell-twin/api';
import { TestServer } from './harness';

let server: TestServer;
let master: string;
beforeAll(async () => {
  server = await TestServer.open('locked');
  const drawing = readFileSync(join(__dirname, '../../core/test/fixtures/weathervane.svg'));
  master = (await server.bringIn('vane.svg', drawing)).body.id;
  await server.idle();
});
afterAll(() => server.close());

type Failed = { error: { code: string; message: string } };
const view = async () => (await server.call<MasterView>('GET', `/api/masters/${master}`)).body;
const copyCalled = async (label: string) => (await view()).copies.find((one) => one.label === label)!;
const onShelf = (file: string): string => {
  const folder = readdirSync(server.shelf).find((name) => !name.startsWith('.'))!;
  return join(server.shelf, folder, file);
};
const ask = (label: string, more: object) =>
  server.call<{ recipe: string } & Failed>('POST', `/api/masters/${master}/copies`, {
    target: 'pdf',
    options: {},
    scope: { of: 'boards', ids: [] },
    label,
    ...more,
  });
const identify = async (bytes: Uint8Array): Promise<Identified> => {
  const response = await fetch(`${server.url}/api/identify?name=held.pdf`, { method: 'POST', body: bytes as never });
  return (await response.json()) as Identified;
};

describe('locked copies on the server', () => {
  it('are written locked, checked through their lock, and never tell their password', async () => {
    expect((await ask('for the smith', { password: 'reed warbler north' })).status).toBe(200);
    await server.idle();
    const copy = await copyCalled('for the smith');
    expect(copy).toMatchObject({ locked: true, verdict: 'in step' });
    expect(JSON.stringify(await view())).not.toContain('reed warbler');
    const bytes = readFileSync(onShelf(copy.file));
    expect(bytes.includes('/Encrypt')).toBe(true);
    expect(await identify(bytes)).toMatchObject({ kind: 'copy', verdict: 'in step', copy: copy.id });
    // Saved again by somebody who has the password, it is read, not only recognised.
    writeFileSync(onShelf(copy.file), Buffer.concat([bytes, Buffer.from('\n')]));
    await server.call('POST', `/api/copies/${copy.id}/check`);
    await server.idle();
    expect(await copyCalled('for the smith')).toMatchObject({ verdict: 'in step', remark: 're-written elsewhere' });
  });

  it('get another password, or none, by being derived again', async () => {
    const before = await copyCalled('for the smith');
    const held = readFileSync(onShelf(before.file));
    const lock = (id: string, password: string | null) => server.call<Failed>('POST', `/api/copies/${id}/password`, { password });
    expect((await lock(before.id, 'pike and perch here')).status).toBe(200);
    await server.idle();
    const again = await copyCalled('for the smith');
    expect(again).toMatchObject({ locked: true, verdict: 'in step' });
    // What went out under the first one is known still.
    expect(await identify(held)).toMatchObject({ kind: 'copy', verdict: 'in step' });
    expect((await lock(again.id, 'x'.repeat(5000))).body.error).toMatchObject({ code: 'password-invalid' });
    expect((await lock(again.id, null)).status).toBe(200);
    await server.idle();
    const open = await copyCalled('for the smith');
    expect(open).toMatchObject({ locked: false, verdict: 'in step' });
    expect(readFileSync(onShelf(open.file)).includes('/Encrypt')).toBe(false);
  });

  it('are not made of what can’t be locked', async () => {
    expect((await ask('web', { target: 'svg', password: 'reed warbler north' })).body.error).toMatchObject({
      code: 'option-invalid',
    });
    expect((await ask('kept', { options: { version: 'A-2b' }, password: 'reed warbler north' })).body.error.message).toMatch(
      /readable for good/,
    );
    expect((await ask('none', { password: '' })).body.error).toMatchObject({ code: 'password-invalid' });
    expect((await view()).copies.map(({ label }) => label)).toEqual(['for the smith']);
  });
});

describe('pages with their master inside', () => {
  it('fall behind with any change of it, and bring it to another Desk as itself', async () => {
    expect((await ask('to keep', { options: { version: 'A-3b', inside: 'master' } })).status).toBe(200);
    await server.idle();
    const copy = await copyCalled('to keep');
    expect(copy).toMatchObject({ verdict: 'in step', file: expect.stringContaining('a-3b.pdf') });
    const bytes = readFileSync(onShelf(copy.file));
    expect(await identify(bytes)).toMatchObject({ kind: 'copy', verdict: 'in step', master: { id: master } });
    const other = await TestServer.open('locked_elsewhere');
    try {
      const brought = await other.bringIn('from the mail.pdf', bytes);
      expect([brought.status, brought.body.id]).toEqual([200, master]);
      await other.idle();
      expect(await other.document(master)).toEqual(await server.document(master));
      // There it is a copy of a master of that Desk, by a recipe that it does not have.
      const response = await fetch(`${other.url}/api/identify?name=held.pdf`, { method: 'POST', body: bytes as never });
      expect(await response.json()).toMatchObject({ kind: 'copy', master: { id: master }, copy: null });
    } finally {
      await other.close();
    }
  });
});

describe('settings of copies under a name', () => {
  const keep = (name: string, options: object, replace = false) =>
    server.call<HouseView & Failed>('POST', '/api/house/presets', {
      preset: { name, target: 'pdf', options, without: ['pictures'] },
      replace,
    });

  it('are kept beside the rules, with all of their options, one of many at once under a name', async () => {
    const answers = await Promise.all([1, 2, 3, 4].map((bleed) => keep('To the printer', { bleed })));
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409, 409, 409]);
    expect((await keep('to the PRINTER', { bleed: 9 })).body.error.message).toMatch(/“To the printer” already, for PDF pages/);
    expect((await keep('to the printer', { bleed: 5 }, true)).status).toBe(200);
    expect((await keep('Archive', { version: 'A-2b' })).status).toBe(200);
    const { rules } = (await server.call<HouseView>('GET', '/api/house')).body;
    expect(rules.presets.map(({ name, options }) => [name, options['bleed'], options['version']])).toEqual([
      ['Archive', 0, 'A-2b'],
      ['to the printer', 5, '1.7'],
    ]);
  });

  it('are not kept with options that there are not', async () => {
    expect((await keep('Odd', { bleed: -3 })).body.error).toMatchObject({ code: 'option-invalid' });
    expect((await keep('Odd', { version: 'A-2b', inside: 'master' })).body.error).toMatchObject({ code: 'option-invalid' });
  });
});

describe('several masters by several settings', () => {
  const many = (masters: string[], settings: string[]) =>
    server.call<{ count: number; failed: { master: string; settings: string; message: string }[] } & Failed>(
      'POST',
      '/api/derive-many',
      { masters, settings },
    );

  it('are derived in one go; what can’t be made is told, and keeps nothing else', async () => {
    const table = (await server.bringIn('weeks.csv', Buffer.from('week,gloss\n1,80\n2,76\n'))).body.id as string;
    const gone = '00000000-0000-4000-8000-000000000000';
    const { status, body } = await many([master, table, gone], ['Archive', 'to the printer']);
    expect(status).toBe(200);
    expect(body.count).toBe(2);
    expect(body.failed.map((one) => [one.master, one.settings])).toEqual([
      [table, 'Archive'],
      [table, 'to the printer'],
      [gone, 'Archive'],
      [gone, 'to the printer'],
    ]);
    await server.idle();
    const made = (await view()).copies.filter(({ label }) => ['Archive', 'to the printer'].includes(label));
    expect(made.map(({ verdict }) => verdict)).toEqual(['in step', 'in step']);
    // Asked for again, nothing is made twice.
    const again = await many([master], ['archive', 'to the printer']);
    expect([again.body.count, again.body.failed.map(({ message }) => message)]).toEqual([
      0,
      ['It has this copy already.', 'It has this copy already.'],
    ]);
  });

  it('by settings that there are not are nothing at all', async () => {
    expect((await many([master], ['Archive', 'Nowhere'])).body.error).toMatchObject({ code: 'preset-unknown' });
  });
});
