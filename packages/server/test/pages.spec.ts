import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { MasterView } from '@inkwell-twin/api';
import { allItems } from '@inkwell-twin/core';
import { TestServer } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('pages');
});
afterAll(() => server.close());

const soft = `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="60mm" viewBox="0 0 100 60">
  <filter id="soft"><feGaussianBlur stdDeviation="1.5"/></filter>
  <g><title>Ground</title><rect x="5" y="5" width="90" height="50" fill="#f7f0e2"/></g>
  <g><title>Water</title><circle cx="50" cy="30" r="14" fill="#2b4180" filter="url(#soft)"/><text x="8" y="14" font-family="Work Sans" font-size="6">Lantern Mere</text></g></svg>`;
interface Brought {
  id: string;
  asPictures: number;
  notUnderstood: { kind: string; count: number }[];
}
const bring = async (query: string): Promise<{ status: number; body: Brought }> => {
  const answer = await fetch(`${server.url}/api/bring-in?name=mere.svg${query}`, { method: 'POST', body: soft });
  return { status: answer.status, body: (await answer.json()) as Brought };
};
const open = async (id: string) => MasterView.parse((await server.call('GET', `/api/masters/${id}`)).body);

describe('a drawing with a part that a master can’t hold', () => {
  it('has it as a picture of itself, as dense as was asked for, or not at all', async () => {
    const widthOf = async (id: string) => (await server.document(id)).resources.find(({ role }) => role === 'picture')!.width!;
    const [plain, dense, without] = [await bring(''), await bring('&ppi=600'), await bring('&parts=left%20out')];
    expect([plain, dense, without].map(({ status, body }) => [status, body.asPictures])).toEqual([
      [200, 1],
      [200, 1],
      [200, 0],
    ]);
    expect((await widthOf(dense.body.id)) / (await widthOf(plain.body.id))).toBeCloseTo(2, 1);
    expect(without.body.notUnderstood).toContainEqual(
      expect.objectContaining({ kind: 'part with a filter, left out as asked', count: 1 }),
    );
    const items = [...allItems((await server.document(without.body.id)).boards[0]!.items)];
    expect(items.map(({ kind }) => kind)).toEqual(['rectangle', 'text']);
  });

  it('is refused a density that makes no sense, in words, and nothing is kept', async () => {
    const before = (await server.call<{ masters: unknown[] }>('GET', '/api/desk')).body.masters.length;
    const { status, body } = await bring('&ppi=9');
    expect([status, JSON.stringify(body)]).toEqual([400, expect.stringContaining('How it comes in: ppi')]);
    expect((await server.call<{ masters: unknown[] }>('GET', '/api/desk')).body.masters).toHaveLength(before);
  });
});

describe('a copy as PDF', () => {
  it('is derived, forecast, matched, found touched, and derived again', async () => {
    const { id } = (await bring('')).body;
    const scope = { of: 'master' };
    const carry = await server.call<{ rungs: { bytes: number; report: { lines: { feature: string; outcome: string }[] } }[] }>(
      'POST',
      `/api/masters/${id}/carry`,
      { target: 'pdf', scope },
    );
    expect(carry.body.rungs[0]!.report.lines).toContainEqual(expect.objectContaining({ feature: 'text', outcome: 'kept' }));
    const made = await server.call('POST', `/api/masters/${id}/copies`, { target: 'pdf', options: {}, scope, label: 'proof' });
    expect(made.status).toBeLessThan(300);
    await server.idle();
    const [copy] = (await open(id)).copies;
    expect(copy).toMatchObject({ label: 'proof', verdict: 'in step', size: carry.body.rungs[0]!.bytes });
    const { view, copy: side } = await server.match(copy!.id);
    expect(view.differences).toEqual([]);
    expect(side!.count).toBe(3);

    const shelf = server.shelf;
    const file = readdirSync(shelf, { recursive: true, encoding: 'utf8' }).find((name) => name.endsWith('.pdf'))!;
    const path = join(shelf, file);
    writeFileSync(path, readFileSync(path).subarray(0, 900));
    await server.call('POST', `/api/copies/${copy!.id}/check`, {});
    await server.idle();
    expect((await open(id)).copies[0]).toMatchObject({ verdict: 'unreadable' });
  });
});
