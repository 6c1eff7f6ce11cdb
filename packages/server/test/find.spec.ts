import { Found } from '@inkwell-twin/api';
import { stepOf } from '@inkwell-twin/core';
import { TestServer } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('find');
});
afterAll(() => server.close());

async function newMaster(title: string): Promise<string> {
  return (await server.call<{ id: string }>('POST', '/api/masters', { title, purpose: 'panel', owner: 'Ines Okoro' })).body.id;
}

describe('finding by name', () => {
  const find = async (text: string) => {
    const { status, body } = await server.call('GET', `/api/find?find=${encodeURIComponent(text)}`);
    return { status, found: status === 200 ? Found.parse(body) : null };
  };
  it('finds masters, copies and revisions by any part of their names, the ones that begin so first', async () => {
    const id = await newMaster('Kingfisher bench');
    await newMaster('The kingfisher’s perch');
    await server.call('POST', `/api/masters/${id}/copies`, { target: 'svg', label: 'kingfisher for the web' });
    await server.call('PUT', `/api/masters/${id}/revisions/1/name`, { name: 'Kingfisher as sent' });
    await server.idle();
    const { found } = await find('kingf');
    expect(found!.masters.map(({ title }) => title)).toEqual(['Kingfisher bench', 'The kingfisher’s perch']);
    expect(found!.copies.map(({ label, title }) => [label, title])).toEqual([['kingfisher for the web', 'Kingfisher bench']]);
    expect(found!.revisions[0]).toMatchObject({ name: 'Kingfisher as sent', rev: 1, title: 'Kingfisher bench' });
    expect((await find('bench KING')).found!.masters.map(({ title }) => title)).toEqual(['Kingfisher bench']);
    await server.call('POST', `/api/masters/${id}/set-aside`);
    expect((await find('kingf')).found).toMatchObject({
      masters: [{ title: 'The kingfisher’s perch' }],
      copies: [],
      revisions: [{ title: 'The kingfisher’s perch' }],
    });
  });
  it('finds objects and symbols by the name that somebody gave them, of masters of now and from before', async () => {
    const svg = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 90 90"><g id="Weir gate"><path d="M1 1H8V8Z"/></g></svg>';
    const { id } = (await server.bringIn('gates.svg', svg)).body;
    const document = await server.document(id);
    const [item] = document.boards[0]!.items;
    const rename = { op: 'set', node: item!.id, attribute: 'name', value: 'Sluice of 1902' } as const;
    const { step } = stepOf(document, 'Named', [rename]);
    await server.addSteps(id, 1, [], [step]);
    await server.update(id, 1, [step]);
    const objects = async (text: string) => (await find(text)).found!.objects;
    const sluice = { id: item!.id, master: id, title: 'gates', name: 'Sluice of 1902', part: document.boards[0]!.name };
    expect(await objects('sluice 190')).toEqual([sluice]);
    expect(await objects('weir')).toEqual([]);
    await server.workshop.database.query('update master set object_names = null');
    expect(await objects('sluice')).toEqual([]);
    await server.stop();
    await server.start();
    expect(await objects('sluice')).toEqual([sluice]);
    await server.call('POST', `/api/masters/${id}/set-aside`);
    expect(await objects('sluice')).toEqual([]);
  });
  it('takes signs of patterns for what they are', async () => {
    await newMaster('100 % cedar_panel');
    expect((await find('% cedar_')).found!.masters.map(({ title }) => title)).toEqual(['100 % cedar_panel']);
    expect((await find('%%%')).found!.masters).toEqual([]);
    expect((await find("' or 1=1 --")).found!.masters).toEqual([]);
    expect([(await find(' ')).status, (await find('a b c d e f g h i')).status]).toEqual([400, 400]);
  });
});
