import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { CopyView, Identified, LookView, MasterView } from '@inkwell-twin/api';
import { type Grid, placeOf } from '@inkwell-twin/core/tables';
import { type Master, kindById, looksNative, readPackage, stepOf } from '@inkwell-twin/core';
import { readMatch } from '@inkwell-twin/api';
import { renameIn, setCells } from '@inkwell-twin/core/tables';
import { TestServer, until } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('tables');
});
afterAll(() => server.close());

const lines = [
  'Probe;Tag;Glanz (GU);Feuchte;Notiz',
  'A-1;03.04.2026;82,1;11,2;gut',
  'A-2;14.04.2026;80,5;11,9;mäßig',
  'A-3;15.04.2026;79,9;12,5;',
];
/** As programs of older days write it. */
const legacy = Buffer.from(`${lines.join('\r\n')}\r\n`, 'latin1');

async function send<T>(path: string, name: string, bytes: Uint8Array, query = ''): Promise<T> {
  const response = await fetch(`${server.url}/api/${path}?name=${encodeURIComponent(name)}${query}`, {
    method: 'POST',
    body: bytes as never,
  });
  expect(response.status).toBe(200);
  return (await response.json()) as T;
}
const view = async (id: string): Promise<MasterView> => (await server.call<MasterView>('GET', `/api/masters/${id}`)).body;
const copyOf = async (id: string, label: string): Promise<CopyView> =>
  (await view(id)).copies.find((one) => one.label === label)!;
async function derived(id: string, target: string, label: string, options = {}): Promise<CopyView> {
  const { status } = await server.call('POST', `/api/masters/${id}/copies`, { target, label, options });
  expect(status).toBe(200);
  await until(async () => (await copyOf(id, label))?.verdict === 'in step', `${label} in step`);
  return copyOf(id, label);
}

describe('a table', () => {
  let id = '';

  it('is looked at before it comes in, and comes in as was decided', async () => {
    const { look } = await send<{ look: LookView }>('look', 'proben.csv', legacy);
    expect(look.settings.map(({ name, value, sure }) => [name, value, sure])).toEqual([
      ['delimiter', 'semicolon', true],
      ['decimal', 'comma', true],
      ['dates', 'day first', true],
      ['heading', 'first row', true],
      ['encoding', 'windows-1252', false],
    ]);
    expect(look.columns.map(({ name, unit, type }) => [name, unit, type])).toEqual([
      ['Probe', '', 'text'],
      ['Tag', '', 'date'],
      ['Glanz', 'GU', 'number'],
      ['Feuchte', '', 'number'],
      ['Notiz', '', 'text'],
    ]);
    expect(look.rows[1]).toEqual(['A-2', '2026-04-14', '80.5', '11.9', 'mäßig']);
    const other = await send<{ look: LookView }>('look', 'proben.csv', legacy, '&encoding=windows-1251');
    expect(other.look.rows[1]![4]).not.toBe('mäßig');
    expect(
      (await send<{ look: unknown }>('look', 'x.svg', Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>'))).look,
    ).toBeNull();
    const brought = await send<{ id: string; objects: number; title: string }>(
      'bring-in',
      'proben.csv',
      legacy,
      '&encoding=windows-1252&decimal=comma&dates=day+first',
    );
    expect(brought).toMatchObject({ title: 'proben', objects: 3 });
    id = brought.id;
    const { tables, boards } = await server.document(id);
    expect([boards, tables!.length, tables![0]!.key]).toEqual([[], 1, 'table-1-c1']);
    const original = await fetch(`${server.url}/api/masters/${id}/originals/${(await server.document(id)).resources[0]!.id}`);
    expect(Buffer.from(await original.arrayBuffer()).equals(legacy)).toBe(true);
  });

  it('has a picture on the Desk and a file on the shelf that opens again', async () => {
    await server.idle();
    expect((await fetch(`${server.url}/api/masters/${id}/picture.png`)).headers.get('content-type')).toBe('image/png');
    const folder = join(server.shelf, 'proben');
    const bytes = readFileSync(
      join(
        folder,
        readdirSync(folder).find((name) => name.endsWith('.inkwell'))!,
      ),
    );
    expect(looksNative(bytes)).toBe(true);
    expect(readPackage(bytes).master).toEqual(await server.document(id));
  });

  it('is derived in every format; an edit outdates what carries it, and says which row it was', async () => {
    for (const target of ['csv', 'xlsx', 'html', 'json']) await derived(id, target, `as ${target}`);
    const now: Master = await server.document(id);
    const [table] = now.tables!;
    const command = setCells(table!, [{ row: 1, column: 2, cell: 81.5 }]);
    const one = stepOf(now, command.label, command.patches);
    const rename = renameIn(one.master.tables![0]!, 'table-1-c4', 'Moisture');
    const { step } = stepOf(one.master, rename.label, rename.patches);
    await server.addSteps(id, 1, [], [one.step, step]);
    expect((await server.update(id, 1, [one.step, step], 'A-2 read again')).status).toBe(200);
    await until(async () => (await view(id)).copies.every(({ verdict }) => verdict === 'behind'), 'all behind');
    expect((await copyOf(id, 'as csv')).endedBy).toBe('r2 changed Moisture and 1 more: “A-2 read again”');
  });

  it('is shown with both sides, cell by cell', async () => {
    const copy = await copyOf(id, 'as xlsx');
    const response = await fetch(`${server.url}/api/copies/${copy.id}/match?leaf=0`);
    const { view: match, master, copy: theirs } = readMatch(await response.arrayBuffer());
    const grids = [master, theirs].map((body) => kindById(body!.kind).unpack(body as never) as Grid);
    expect(match.differences.map(({ kind, what, amount, unit }) => [kind, what, amount, unit])).toEqual([
      ['value changed', 'Glanz, A-2', 1, 'GU'],
      ['column renamed', 'Moisture', null, ''],
    ]);
    expect(placeOf(grids[0]!, match.differences[0]!.masterEntries[0]!)).toEqual({ row: 1, column: 2 });
    expect(placeOf(grids[1]!, match.differences[0]!.copyEntries[0]!)).toEqual({ row: 1, column: 2 });
  });

  it('in a file without a mark is known by its bytes, and found false when they change', async () => {
    const copy = await copyOf(id, 'as csv');
    expect(copy.parts).toEqual([`${copy.file}.origin.json`]);
    const path = join(server.shelf, 'proben', copy.file);
    const bytes = readFileSync(path);
    expect(await send<Identified>('identify', 'mail.csv', bytes)).toMatchObject({
      kind: 'copy',
      verdict: 'behind',
      copy: copy.id,
    });
    expect(await send<Identified>('identify', 'mail.csv', Buffer.concat([bytes, Buffer.from('A-9\r\n')]))).toMatchObject({
      kind: 'alike',
      copy: copy.id,
    });
    writeFileSync(path, bytes.toString('utf8').replace('79.9', '79.8'));
    await server.call('POST', `/api/copies/${copy.id}/check`);
    await until(async () => (await copyOf(id, 'as csv')).verdict === 'crossed', 'crossed');
  });

  it('is refused in words where the target has no place for it, or the master no such part', async () => {
    const post = async (body: object) =>
      (
        await server.call<{ error: { message: string } }>('POST', `/api/masters/${id}/copies`, {
          label: 'x',
          options: {},
          ...body,
        })
      ).body.error.message;
    expect(await post({ target: 'dxf' })).toBe('There is no board in this master.');
    expect(await post({ target: 'csv', scope: { of: 'tables', ids: ['Sheet9'] } })).toMatch(
      /no table “Sheet9” in this master. It has: proben/,
    );
    expect(await post({ target: 'csv', scope: { of: 'boards', ids: ['Front'] } })).toMatch(
      /says tables, and this asks for boards/,
    );
    expect(await post({ target: 'dxf', scope: { of: 'master' } })).toMatch(/says boards, and there is no board in this master/);
  });

  it.each([
    ['bomb.xlsx', Buffer.from('PK\u0003\u0004 not a workbook')],
    ['quotes.csv', Buffer.from('a,b\n"never closed,1\n2,3\n4,5\n')],
    ['nothing.html', Buffer.from('<!doctype html><html><body><p> </p></body></html>')],
    ['broken.json', Buffer.from('{"tables": [ {"columns": 1} ]}')],
  ])('that is none is refused in words: %s', async (name, bytes) => {
    const response = await fetch(`${server.url}/api/bring-in?name=${name}`, { method: 'POST', body: bytes });
    expect(response.status).toBe(400);
    const { error } = (await response.json()) as { error: { message: string } };
    expect(error.message.length).toBeGreaterThan(20);
    expect(error.message).not.toMatch(/undefined|TypeError|at .*\.ts/);
  });
});
