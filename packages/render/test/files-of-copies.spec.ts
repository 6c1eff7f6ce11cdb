import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Master, type Options, type Scope, addFormats, derive, newMaster, recipeOf, writePackage } from '@inkwell-twin/core';
import { judgedBy } from '../../core/test/judged-by';
import { python } from '../../core/test/python';
import { seriesTable } from '../../core/test/series';
import { plate } from './part';
import { guide, masterOf, services as words } from './prose';
import { nodeFormats, solidEngine } from '../src';

addFormats(nodeFormats);

const services = { ...words, solids: solidEngine };
const time = '2026-11-26T10:00:00.000Z';

/** A master with a board, a table, a solid and a text. */
async function everything(): Promise<Master> {
  const { texts, resources } = await masterOf(await guide());
  return {
    ...newMaster('m', 'Gate sign “Näset”', 'Ines Okoro', 'panel'),
    texts,
    resources,
    tables: [seriesTable()],
    solids: [plate()],
  };
}
const written = async (target: string, options: Options, of: 'boards' | 'tables' | 'solids' | 'texts'): Promise<Uint8Array> => {
  const master = await everything();
  const scope: Scope = { of, ids: [master[of]![0]!.id] };
  const { files, defects } = await derive({ master, rev: 2, time }, recipeOf(target, options, scope), services);
  expect(defects).toEqual([]);
  return files[0]!.bytes;
};

/** The rights that Python's zipfile finds on each entry. */
const rights = (bytes: Uint8Array): string[] =>
  python(
    "import zipfile\nfor one in zipfile.ZipFile('a.zip').infolist(): print(one.create_system, oct(one.external_attr >> 16))",
    bytes,
    'a.zip',
  )
    .out.trim()
    .split('\n');

describe('what is packed', () => {
  it.each([
    ['native', { version: 'native 1' }, 'boards'],
    ['native', { version: 'native 2' }, 'boards'],
    ['xlsx', {}, 'tables'],
    ['3mf', {}, 'solids'],
    ['odt', {}, 'texts'],
    ['docx', {}, 'texts'],
    ['epub', {}, 'texts'],
  ] as const)('may be read by everybody who unpacks it: %s %j', async (target, options, of) => {
    const found = rights(await written(target, options, of));
    expect(new Set(found)).toEqual(new Set(['3 0o100644']));
  });
  it('may be read by everybody who unpacks a master', async () => {
    const master = { ...newMaster('m', 'Gate sign', 'Ines', 'panel') };
    const revisions = [{ rev: 1, time, author: 'Ines', message: '', patches: [] }];
    const bytes = writePackage({ master, rev: 1, time, history: { first: master, revisions }, resources: new Map() });
    expect(new Set(rights(bytes))).toEqual(new Set(['3 0o100644']));
  });
});

describe('the title of a copy', () => {
  judgedBy('pdftotext').it('is that of its master, and its mark is among no keywords', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'inkwell-title-'));
    try {
      writeFileSync(join(folder, 'a.pdf'), await written('pdf', {}, 'boards'));
      const info = execFileSync('pdfinfo', ['-enc', 'UTF-8', join(folder, 'a.pdf')], { encoding: 'utf8' });
      expect(/^Title: +(.*)$/m.exec(info)?.[1]).toBe('Gate sign “Näset”');
      expect(info).not.toMatch(/^Keywords/m);
      expect(execFileSync('pdfinfo', ['-meta', join(folder, 'a.pdf')], { encoding: 'utf8' })).toContain('inkwell-twin; master=m');
    } finally {
      rmSync(folder, { recursive: true });
    }
  });
  it.each(['native 1', 'native 2'])('is kept in %s', async (version) => {
    const bytes = await written('native', { version }, 'boards');
    const script =
      "import zipfile,json\nz = zipfile.ZipFile('a.zip')\nprint(' '.join(z.read(n).decode('utf8') for n in z.namelist() if n.endswith('.json') or n.endswith('.inkfolio')))";
    expect(python(script, bytes, 'a.zip').out).toContain('Gate sign “Näset”');
  });
});
