import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Patch, addFormats, applyPatches, checkCopy, codecOf, derive, footprintHash, recipeOf } from '@inkwell-twin/core';
import { nodeFormats } from '../src';
import { guide, masterOf, services, time } from './prose';

addFormats(nodeFormats);
const ALL = { of: 'texts' as const, ids: [] };
const pdf = (options = {}) => recipeOf('pdf', options, ALL);
const made = async (options = {}) => derive({ master: await masterOf(await guide()), rev: 1, time }, pdf(options), services);
function inFolder<T>(bytes: Uint8Array, work: (file: string, folder: string) => T): T {
  const folder = mkdtempSync(join(tmpdir(), 'prose-pages-'));
  try {
    writeFileSync(join(folder, 'a.pdf'), bytes);
    return work(join(folder, 'a.pdf'), folder);
  } finally {
    rmSync(folder, { recursive: true });
  }
}
const pdfinfo = (bytes: Uint8Array) =>
  Object.fromEntries(
    inFolder(bytes, (file) => execFileSync('pdfinfo', [file], { encoding: 'utf8' }))
      .split('\n')
      .flatMap((line) => (line.includes(':') ? [[line.split(':')[0]!, line.slice(line.indexOf(':') + 1).trim()]] : [])),
  ) as Record<string, string>;

describe('texts as pages', () => {
  it.each([
    ['A4', '595.2', '841.8'],
    ['A5', '419.5', '595.2'],
    ['Letter', '612', '792'],
  ])('on paper of a size, as pdfinfo reads it: %s', async (paper, width, height) => {
    const { files, projection } = await made({ paper });
    const info = pdfinfo(files[0]!.bytes);
    expect(info['Page size']).toContain(`${width}`);
    expect(info['Page size']).toContain(`${height.split('.')[0]}`);
    expect(Number(info['Pages'])).toBe(projection.leaves.length);
  });

  it('larger letters take more pages', async () => {
    const pages = await Promise.all([2.5, 3.7, 6].map(async (letters) => (await made({ letters })).projection.leaves.length));
    expect(pages[0]).toBeLessThanOrEqual(pages[1]!);
    expect(pages[1]).toBeLessThan(pages[2]!);
  });

  it.each(['東', '東 東', '東\u00a0 東', 'fen 東 東'])(
    'letters that no font has leave no blank text behind: %s',
    async (words) => {
      const text = {
        ...(await guide()),
        blocks: [{ id: 'b', block: 'words' as const, role: 'body' as const, spans: [{ text: words }] }],
      };
      const { defects, report } = await derive({ master: await masterOf(text), rev: 1, time }, pdf(), services);
      expect(defects).toEqual([]);
      expect(report.lines.find(({ feature }) => feature === 'characters')?.what).toContain('東');
    },
  );

  it('a page that somebody took out is missed, one that was turned round is found', async () => {
    const { files, says, projection } = await made({ paper: 'A5' });
    const master = await masterOf(await guide());
    const check = async (bytes: Uint8Array) =>
      checkCopy(
        { files: [{ part: '', bytes }], intact: false, says, recipe: pdf({ paper: 'A5' }), current: master, baseline: master },
        services,
      );
    const last = projection.leaves.length;
    const changed = (...pages: string[]) =>
      inFolder(files[0]!.bytes, (file, folder) => {
        execFileSync('qpdf', [file, '--pages', file, pages.join(','), '--', join(folder, 'b.pdf')]);
        return readFileSync(join(folder, 'b.pdf'));
      });
    const missing = await check(changed(`1-${last - 1}`));
    expect(missing.verdict).toBe('touched');
    expect(missing.differences.map(({ kind }) => kind)).toContain('sheet missing');
    expect((await check(changed(`${last}`, `1-${last - 1}`))).verdict).toBe('touched');
    // Saved anew by that library and nothing else, it says what it said.
    const saved = inFolder(files[0]!.bytes, (file, folder) => {
      execFileSync('qpdf', ['--object-streams=generate', file, join(folder, 'b.pdf')]);
      return readFileSync(join(folder, 'b.pdf'));
    });
    expect((await check(saved)).verdict).toBe('in step');
  });

  it('follows what pages show, and nothing that they do not', async () => {
    const master = await masterOf(await guide());
    const changes: [Patch, boolean][] = [
      [{ op: 'set', node: 'p3', attribute: 'spans', value: [{ text: 'Other words.' }] }, true],
      [{ op: 'set', node: 'pic', attribute: 'width', value: 50 }, true],
      [{ op: 'set', node: 'p4', attribute: 'align', value: 'right' }, true],
      [{ op: 'set', node: 'pic', attribute: 'alt', value: 'Another' }, false],
      [{ op: 'set', node: 'guide', attribute: 'language', value: 'fr' }, false],
      [
        {
          op: 'set',
          node: 'p1',
          attribute: 'spans',
          value: (await guide()).blocks.flatMap((one) =>
            one.id === 'p1' && one.block === 'words'
              ? one.spans.map((span) => ('text' in span && span.link ? { ...span, link: 'https://other.example' } : span))
              : [],
          ),
        },
        false,
      ],
    ];
    for (const [patch, expected] of changes) {
      const next = applyPatches(master, [patch]).master;
      expect([patch, footprintHash(next, pdf()) !== footprintHash(master, pdf())]).toEqual([patch, expected]);
    }
  });

  it('are read as sheets of drawings: a difference names the paragraph that it is in', async () => {
    const { files } = await made();
    const read = await (await codecOf('pdf')).read(files, {}, services);
    expect(read.leaves.every(({ kind }) => kind === 'drawing')).toBe(true);
    const now = applyPatches(await masterOf(await guide()), [
      { op: 'set', node: 'h3', attribute: 'spans', value: [{ text: 'Who looks after them' }] },
    ]).master;
    const { differences } = await checkCopy(
      { files, intact: true, says: '', recipe: pdf(), current: now, baseline: null },
      services,
    );
    expect(differences).toMatchObject([{ kind: 'retyped', source: 'h3', master: expect.stringContaining('them') }]);
  });

  it('characters that no shipped font has are told, with the paragraph', async () => {
    const { report } = await made();
    const line = report.lines.find(({ feature }) => feature === 'characters');
    expect(line).toMatchObject({ outcome: 'left out', objects: ['end'] });
    expect(line!.what).toContain('東');
  });
});
