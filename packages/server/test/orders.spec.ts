import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import type { CopyView, MasterView } from '@inkwell-twin/api';
import { NO_RULES, setAttribute, stepOf } from '@inkwell-twin/core';
import { TestServer } from './harness';

let server: TestServer;
let master: string;
beforeAll(async () => {
  server = await TestServer.open('orders');
  const drawing = readFileSync(join(__dirname, '../../core/test/fixtures/weathervane.svg'));
  master = (await server.bringIn('vane.svg', drawing)).body.id;
  await server.idle();
});
afterAll(() => server.close());

const view = async () => (await server.call<MasterView>('GET', `/api/masters/${master}`)).body;
const copyCalled = async (label: string): Promise<CopyView> => (await view()).copies.find((one) => one.label === label)!;
const standing = async (label: string) => {
  const { rev, verdict, eachUpdate } = await copyCalled(label);
  return { rev, verdict, eachUpdate };
};
const ask = (label: string, more: object = {}) =>
  server.call('POST', `/api/masters/${master}/copies`, {
    target: 'svg',
    options: {},
    scope: { of: 'boards', ids: [] },
    label,
    ...more,
  });

/** The board a little wider, as the next revision. */
async function update(by: number): Promise<void> {
  const { head } = await view();
  const now = await server.document(master);
  const { label, patches } = setAttribute(now, now.boards[0]!.id, 'width', now.boards[0]!.width + by);
  const { step } = stepOf(now, label, patches);
  await server.addSteps(master, head, [], [step]);
  expect((await server.update(master, head, [step], label)).status).toBe(200);
  await server.idle();
}

describe('standing orders', () => {
  it('write a copy again with each update, and leave the others as they are', async () => {
    expect((await ask('for the web', { eachUpdate: true })).status).toBe(200);
    expect((await ask('for the printer')).status).toBe(200);
    await server.idle();
    await update(1);
    expect(await standing('for the web')).toEqual({ rev: 2, verdict: 'in step', eachUpdate: true });
    expect(await standing('for the printer')).toEqual({ rev: 1, verdict: 'behind', eachUpdate: false });
  });

  it('are given and taken back for a copy that is there', async () => {
    const order = async (label: string, eachUpdate: boolean) =>
      server.call<{ copy: CopyView }>('PUT', `/api/copies/${(await copyCalled(label)).id}/each-update`, { eachUpdate });
    expect((await order('for the printer', true)).body.copy.eachUpdate).toBe(true);
    await server.idle();
    // What is behind when it is ordered is written at once.
    expect(await standing('for the printer')).toEqual({ rev: 2, verdict: 'in step', eachUpdate: true });
    expect((await order('for the web', false)).body.copy.eachUpdate).toBe(false);
    await update(1);
    expect(await standing('for the web')).toEqual({ rev: 2, verdict: 'behind', eachUpdate: false });
    expect(await standing('for the printer')).toEqual({ rev: 3, verdict: 'in step', eachUpdate: true });
  });

  it('write over nothing that somebody changed, and say so', async () => {
    const { file } = await copyCalled('for the printer');
    const folder = readdirSync(server.shelf).find((name) => !name.startsWith('.'))!;
    const place = join(server.shelf, folder, file);
    const changed = readFileSync(place, 'utf8').replace(/<path /, '<path transform="translate(3 0)" ');
    writeFileSync(place, changed);
    await update(1);
    expect((await standing('for the printer')).verdict).toBe('crossed');
    expect(readFileSync(place, 'utf8')).toBe(changed);
    expect((await view()).notices.map(({ message }) => message).join()).toContain(`somebody changed it: ${file}`);
  });

  it('of the house make copies that were not there yet, but none that were withdrawn', async () => {
    const { at } = (await server.call<{ at: string | null }>('GET', '/api/house')).body;
    const preset = (name: string, target: string) => ({ name, target, options: {}, without: [], eachUpdate: true });
    const rules = { ...NO_RULES, presets: [preset('Proof', 'pdf'), preset('Numbers', 'csv')] };
    expect((await server.call('PUT', '/api/house', { rules, knows: at })).status).toBe(200);
    expect(await copyCalled('Proof')).toBeUndefined();
    await update(1);
    const { head } = await view();
    expect(await standing('Proof')).toEqual({ rev: head, verdict: 'in step', eachUpdate: true });
    // It has no table: that is no news.
    expect((await view()).notices.filter(({ message }) => message.includes('Numbers'))).toEqual([]);
    await server.call('POST', `/api/copies/${(await copyCalled('Proof')).id}/withdraw`);
    await update(1);
    expect(await copyCalled('Proof')).toBeUndefined();
  });
});

test('all copies come in one archive as they were written, with a list that says which is which', async () => {
  const response = await fetch(`${server.url}/api/masters/${master}/copies.zip`);
  expect(response.headers.get('content-disposition')).toMatch(/copies\.zip"?$/);
  const files = unzipSync(new Uint8Array(await response.arrayBuffer()));
  const { copies } = await view();
  expect(Object.keys(files).sort()).toEqual([...copies.map(({ file }) => file), 'list.txt'].sort());
  const list = Buffer.from(files['list.txt']!).toString('utf8');
  for (const { label, file, rev, verdict } of copies) {
    expect(list).toContain(`${label}: `);
    expect(list).toContain(`written at r${rev}, ${verdict}`);
    expect(list).toContain(`  ${createHash('sha256').update(files[file]!).digest('hex')}  ${file}`);
  }
  const empty = await server.call<{ id: string }>('POST', '/api/masters', { title: 'Empty', purpose: 'panel', owner: '' });
  expect((await server.call('GET', `/api/masters/${empty.body.id}/copies.zip`)).status).toBe(404);
});
