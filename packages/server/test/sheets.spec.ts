import { existsSync, readFileSync, readdirSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type CopyView, Desk, MasterView } from '@inkwell-twin/api';
import { TestServer, until } from './harness';

let server: TestServer;
let leaflet: string;
beforeAll(async () => {
  server = await TestServer.withDemo('sheets');
  await server.idle();
  leaflet = Desk.parse((await server.call('GET', '/api/desk')).body).masters.find(({ title }) => title === 'Fen map leaflet')!.id;
});
afterAll(() => server.close());

const copy = async (label: string): Promise<CopyView> =>
  MasterView.parse((await server.call('GET', `/api/masters/${leaflet}`)).body).copies.find((one) => one.label === label)!;
const path = (file: string) => join(server.shelf, 'fen_map_leaflet', file);
const becomes = (label: string, verdict: string) => until(async () => (await copy(label)).verdict === verdict, verdict);
const derive = async (body: object) => {
  const answer = await server.call('POST', `/api/masters/${leaflet}/copies`, body);
  await server.idle();
  return answer;
};

describe('a copy of several files', () => {
  const label = 'both sides';
  it('is written with one name pattern, and each file can be had', async () => {
    expect((await derive({ target: 'svg', options: { sheets: 'a file each' }, scope: { of: 'master' }, label })).status).toBe(
      200,
    );
    const { file, parts, verdict, id, size } = await copy(label);
    expect([file, parts, verdict]).toEqual(['both_sides_all_r4.svg', ['both_sides_all_r4_2.svg'], 'in step']);
    expect(size).toBe(readFileSync(path(file)).length + readFileSync(path(parts[0]!)).length);
    const bytes = await (await fetch(`${server.url}/api/copies/${id}/file?part=${parts[0]}`)).text();
    expect(bytes).toBe(readFileSync(path(parts[0]!), 'utf8'));
    expect((await fetch(`${server.url}/api/copies/${id}/file?part=../x`)).status).toBe(404);
  });
  it('is touched when one of its files goes or changes, and in step when it is back', async () => {
    const { parts, id } = await copy(label);
    const part = path(parts[0]!);
    renameSync(part, `${part}.away`);
    await becomes(label, 'touched');
    const { view } = await server.match(id);
    expect(view.differences).toMatchObject([{ kind: 'sheet missing', what: 'Inside' }]);
    expect(view.sides!.master.map((one) => one.label)).toEqual(['Map', 'Inside']);
    renameSync(`${part}.away`, part);
    await becomes(label, 'in step');
    const words = readFileSync(part, 'utf8');
    writeFileSync(part, words.replace(/fill="#14213a"/, 'fill="#c23b22"'));
    await becomes(label, 'touched');
    const changed = (await server.match(id, 1)).view;
    expect(changed.differences[0]).toMatchObject({ kind: 'recoloured', leaf: 1 });
    writeFileSync(part, words);
    await becomes(label, 'in step');
  });
  it('leaves no file behind when it is derived again', async () => {
    const { id } = await copy(label);
    await server.call('POST', `/api/copies/${id}/derive`, {});
    await server.idle();
    const { file, parts } = await copy(label);
    expect(readdirSync(path('.')).filter((name) => name.startsWith('both_sides'))).toEqual([file, ...parts].sort());
    expect(existsSync(path(file))).toBe(true);
  });
});

describe('a recipe', () => {
  it('of several boards is refused in words where the target says one', async () => {
    const answer = await derive({ target: 'hpgl', options: {}, scope: { of: 'master' }, label: 'cut' });
    expect(answer).toMatchObject({ status: 400, body: { error: { code: 'one-part' } } });
  });
  it('may leave a feature out, and keeps doing so', async () => {
    const choices = [{ feature: 'fills', take: 'left out' }];
    await derive({ target: 'svg', options: {}, scope: { of: 'boards', ids: ['Map'] }, choices, label: 'without fills' });
    const found = await copy('without fills');
    expect(found).toMatchObject({ choices, verdict: 'in step' });
    expect(readFileSync(path(found.file), 'utf8')).not.toMatch(/<(path|circle)[^>]* fill="#/);
  });
  it('is shown with its form: numbers with unit and range, choices, words', async () => {
    const { targets } = (await server.call<{ targets: { id: string; options: { name: string }[] }[] }>('GET', '/api/targets'))
      .body;
    expect(targets.find(({ id }) => id === 'hpgl')!.options.slice(0, 4)).toMatchObject([
      { name: 'chord', kind: 'number', unit: 'mm', min: 0.005, max: 1 },
      { name: 'pens', kind: 'choice', choices: [{ value: 'by process' }, { value: 'one pen' }] },
      { name: 'speed', kind: 'number', whole: true, unit: 'cm/s' },
      { name: 'machine', kind: 'machine', language: 'HP-GL', default: '' },
    ]);
  });
  it('left no surprise in the log', () => expect(server.problems).toEqual([]));
});
