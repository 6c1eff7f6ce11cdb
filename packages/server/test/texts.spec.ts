import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type CopyView, type Identified, type LookView, type MasterView, readMatch } from '@inkwell-twin/api';
import { type Patch, type Prose, type Step, looksNative, readPackage, stepOf } from '@inkwell-twin/core';
import { TestServer, until } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('texts');
});
afterAll(() => server.close());

const view = async (id: string): Promise<MasterView> => (await server.call<MasterView>('GET', `/api/masters/${id}`)).body;
const copyOf = async (id: string, label: string): Promise<CopyView> =>
  (await view(id)).copies.find((one) => one.label === label)!;
async function derived(id: string, target: string, label: string): Promise<CopyView> {
  const scope = { of: 'boards', ids: [] };
  const { status } = await server.call('POST', `/api/masters/${id}/copies`, { target, label, options: {}, scope });
  expect(status).toBe(200);
  await until(async () => (await copyOf(id, label))?.verdict === 'in step', `${label} in step`);
  return copyOf(id, label);
}
const send = async <T>(path: string, name: string, bytes: Uint8Array): Promise<T> => {
  const url = `${server.url}/api/${path}?name=${encodeURIComponent(name)}`;
  const response = await fetch(url, { method: 'POST', body: bytes as never });
  expect(response.status).toBe(200);
  return (await response.json()) as T;
};
const fileOf = (folder: string, ending: string) =>
  join(
    folder,
    readdirSync(folder).find((name) => name.endsWith(ending))!,
  );
/** Puts steps into the draft and updates. */
async function update(id: string, label: string, patches: Patch[]): Promise<void> {
  const { head } = await view(id);
  const { step } = stepOf(await server.document(id), label, patches) as { step: Step };
  await server.addSteps(id, head, [], [step]);
  expect((await server.update(id, head, [step], label)).status).toBe(200);
}

describe('a text', () => {
  let id = '';
  let text: Prose;

  it('is begun, written, and has a picture and copies in every format', async () => {
    const begun = await server.call<{ id: string }>('POST', '/api/masters', {
      title: 'Bench notes',
      purpose: 'text',
      owner: 'Ansa Brook',
    });
    id = begun.body.id;
    [text] = (await server.document(id)).texts as [Prose];
    expect(text.blocks.map((block) => block.block)).toEqual(['words', 'words']);
    const spans = [
      { text: 'The second bench stands where the view is, ' },
      { text: 'eleven', marks: ['bold'] },
      { text: ' steps from the pond.' },
    ];
    await update(id, 'First words', [{ op: 'set', node: text.blocks[1]!.id, attribute: 'spans', value: spans }]);
    for (const target of ['html', 'txt', 'odt', 'docx', 'epub', 'pdf']) await derived(id, target, `as ${target}`);
    await server.idle();
    expect((await fetch(`${server.url}/api/masters/${id}/picture.png`)).headers.get('content-type')).toBe('image/png');
    const native = readFileSync(fileOf(join(server.shelf, 'bench_notes'), '.inkwell'));
    expect(looksNative(native)).toBe(true);
    expect(readPackage(native).master.texts![0]!.blocks[1]).toMatchObject({ spans });
  });

  it('whose copy was changed by a word is found, with both sides, and identified wherever it is met', async () => {
    const copy = await copyOf(id, 'as html');
    const file = fileOf(join(server.shelf, 'bench_notes'), '.html');
    writeFileSync(file, readFileSync(file, 'utf8').replace('eleven', 'seven'));
    await server.call('POST', `/api/copies/${copy.id}/check`);
    await until(async () => (await copyOf(id, 'as html')).verdict === 'touched', 'touched');
    const match = readMatch(await (await fetch(`${server.url}/api/copies/${copy.id}/match`)).arrayBuffer());
    expect(match.view.differences).toMatchObject([
      { kind: 'words changed', master: '“eleven”', copy: '“seven”', source: text.blocks[1]!.id },
    ]);
    expect(match.master?.kind).toBe('prose');
    const found = await send<Identified>('identify', 'somewhere.html', readFileSync(file));
    expect(JSON.stringify(found)).toContain('Bench notes');
    // Packages that begin as ours do are known for what they are.
    for (const ending of ['.odt', '.epub', '.docx', '.pdf']) {
      const bytes = readFileSync(fileOf(join(server.shelf, 'bench_notes'), ending));
      expect([ending, JSON.stringify(await send<Identified>('identify', `x${ending}`, bytes))]).toEqual([
        ending,
        expect.stringContaining('in step'),
      ]);
    }
  });

  it('falls behind where it carries what changed, and only there', async () => {
    await update(id, 'Set right', [{ op: 'set', node: text.blocks[1]!.id, attribute: 'align', value: 'right' }]);
    await until(async () => (await copyOf(id, 'as docx')).verdict === 'behind', 'docx behind');
    await until(async () => (await copyOf(id, 'as txt')).verdict === 'in step', 'txt in step');
    await until(async () => (await copyOf(id, 'as pdf')).verdict === 'behind', 'pdf behind');
  });

  it('comes in from a document of another program, its original kept', async () => {
    const bytes = readFileSync(fileOf(join(server.shelf, 'bench_notes'), '.docx'));
    const brought = await send<{ id: string }>('bring-in', 'from elsewhere.docx', bytes);
    const document = await server.document(brought.id);
    expect(document.texts![0]!.blocks[1]).toMatchObject({ role: 'body' });
    expect(document.resources.some(({ role }) => role === 'original')).toBe(true);
  });
});

describe('a text in an older code page', () => {
  const bytes = Uint8Array.from('Gr\u00fc\u00dfe vom Moor.\n\nEs regnet.', (char) => char.charCodeAt(0));
  it('is shown as it would be read, and comes in as it was confirmed', async () => {
    const { look } = await send<{ look: LookView }>('look', 'gruss.txt', bytes);
    expect(look.settings).toMatchObject([{ name: 'encoding', value: 'windows-1252', sure: false }]);
    expect(look.rows[0]).toEqual(['Grüße vom Moor.']);
    const url = `${server.url}/api/bring-in?name=gruss.txt&encoding=iso-8859-2`;
    const { id } = (await (await fetch(url, { method: 'POST', body: bytes as never })).json()) as { id: string };
    expect((await server.document(id)).texts![0]!.blocks[0]).toMatchObject({ spans: [{ text: 'Grüße vom Moor.' }] });
  });

  it('one that says how it is written is not asked about', async () => {
    expect(await send<{ look: LookView | null }>('look', 'plain.txt', new TextEncoder().encode('Grüße.'))).toEqual({
      look: null,
    });
  });
});

describe('what boards show', () => {
  it('is drawn of the draft as it is, and what can’t be drawn is told by its item', async () => {
    const { id } = (
      await server.call<{ id: string }>('POST', '/api/masters', { title: 'Shown', purpose: 'series', owner: 'Ansa Brook' })
    ).body;
    const [table] = (await server.document(id)).tables!;
    const rows = [1, 2, 3].map((value) => ({ id: `r${value}`, cells: { 'table-1-c1': `S-${value}`, 'table-1-c3': value * 10 } }));
    const text = {
      id: 'long',
      name: 'Long',
      language: 'en',
      blocks: Array.from({ length: 60 }, (_, i) => ({
        id: `b${i}`,
        block: 'words',
        role: 'body',
        spans: [{ text: `Line ${i}` }],
      })),
    };
    const at = { layer: null, x: 0, y: 0, width: 80, height: 60, size: 3 };
    const ask = (items: object[], more: object = {}) =>
      server.call<{
        items: Record<string, { kind: string; text?: string }[]>;
        wrong: Record<string, string>;
        more: Record<string, number>;
      }>('POST', `/api/masters/${id}/placed`, {
        rev: 1,
        boards: [{ id: 'b', items }],
        tables: [{ ...table!, rows }],
        texts: [text],
        ...more,
      });
    const { body } = await ask([
      { kind: 'table-frame', id: 't', ...at, table: 'table-1' },
      { kind: 'chart-frame', id: 'c', ...at, table: 'table-1', form: 'bars', across: 'table-1-c1' },
      { kind: 'chart-frame', id: 'w', ...at, table: 'table-1', form: 'bars', up: 'nowhere' },
      { kind: 'text-frame', id: 'f', ...at, text: 'long' },
      { kind: 'solid-view', id: 's', layer: null, solid: 'none', view: 'front', scale: 1, x: 0, y: 0, size: 3 },
    ]);
    const words = (list: { text?: string }[]) => list.flatMap((one) => one.text ?? []);
    expect(words(body.items['t']!)).toEqual(expect.arrayContaining(['Sample', 'S-2', '30']));
    expect(JSON.stringify(body.items['c'])).toContain('S-3');
    expect(words(body.items['f']!)[0]).toBe('Line 0');
    expect(body.items['s']).toEqual([]);
    expect(Object.keys(body.wrong)).toEqual(['w']);
    expect(body.wrong['w']).toMatch(/column/);
    expect(body.more['long']).toBeGreaterThan(1);
    const bad = await ask([{ kind: 'text-frame', id: 'f', ...at, width: -1, text: 'long' }]);
    expect(bad.status).toBe(400);
  });
});
