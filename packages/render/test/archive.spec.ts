import { spawnSync } from 'node:child_process';
import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import fc from 'fast-check';
import { unzipSync, zipSync } from 'fflate';
import {
  type Bag,
  type Master,
  bagIn,
  checkBag,
  codecOf,
  digest,
  nativeInside,
  parseMark,
  readPackage,
  recognise,
} from '@inkwell-twin/core';
import { brokenClauses } from '../src';
import { masterWith, rectangle, text } from '../../core/test/build';
import { judgedBy } from '../../core/test/judged-by';
import { runs } from '../../core/test/depth';
import { inFolder } from './faults/qpdf';
import { copyOf, masterOf, sample, servicesWith } from './workshop';

const services = servicesWith(new Map());

/** A master with something of what there is: two boards, a table, a text, a picture that is described. */
async function mixed(): Promise<{ master: Master; services: typeof services }> {
  const { master, services: own } = await masterOf(sample(60, 40));
  const words = masterWith([rectangle('plate', 10, 10), text('title', 'Lantern Mere', { x: 20, y: 70, size: 9 })]);
  const [resource, ...others] = master.resources;
  return {
    services: own,
    master: {
      ...master,
      title: 'Mere board: Ø 30 % / north',
      keywords: ['mere', 'gate & path'],
      rights: 'Lantern Fen Trust',
      layers: [...master.layers, ...words.layers],
      boards: [
        { ...master.boards[0]!, name: 'Photograph' },
        { ...words.boards[0]!, id: 'other', name: 'Photograph' },
      ],
      tables: [
        {
          id: 'gloss',
          name: 'Gloss by week',
          columns: [{ id: 'w', name: 'week', type: 'number' }],
          rows: [{ id: 'r1', cells: { w: 3 } }],
          summaries: [],
        },
      ],
      texts: [
        {
          id: 'guide',
          name: 'Guide',
          language: 'en',
          blocks: [{ id: 'b1', block: 'words', role: 'body', spans: [{ text: 'Herons nest here.' }] }],
        },
      ],
      resources: [{ ...resource!, said: { keywords: ['heron'], caption: 'At the north pool', rights: '' } }, ...others],
    } as unknown as Master,
  };
}

const filesOf = (bag: Bag): string[] => [...bag.keys()].filter((path) => path.startsWith('data/')).map((path) => path.slice(5));

describe('an archive package', () => {
  it('has the master, each part as it reads without this program, descriptions, previews and originals; by all checksums', async () => {
    const { master, services: own } = await mixed();
    const made = await copyOf(master, own, 'archive');
    expect(made.defects).toEqual([]);
    expect(recognise(made.bytes)?.id).toBe('archive');
    const bag = bagIn(made.bytes);
    expect(checkBag(bag)).toEqual([]);
    expect(filesOf(bag).sort()).toEqual(
      [
        'descriptions/master.xmp',
        'descriptions/sample.xmp',
        'master/master.inkwell',
        'originals/sample.png',
        'previews/1024/photograph.png',
        'previews/1024/photograph_2.png',
        'previews/256/photograph.png',
        'previews/256/photograph_2.png',
        'renditions/gloss_by_week.csv',
        'renditions/guide.pdf',
        'renditions/photograph.pdf',
        'renditions/photograph_2.pdf',
      ].sort(),
    );
    for (const path of ['photograph', 'photograph_2', 'guide'])
      expect(await brokenClauses(bag.get(`data/renditions/${path}.pdf`)!, 2)).toEqual([]);
    expect(digest(bag.get('data/originals/sample.png')!)).toBe(master.resources[0]!.id);
    expect(readPackage((await nativeInside(made.bytes))!).master).toEqual(master);
    expect(made.report.sentence).toMatch(/arrive as they are\.$/);
    // The same master makes the same bytes.
    expect(Buffer.from((await copyOf(master, own, 'archive')).bytes).equals(Buffer.from(made.bytes))).toBe(true);
  });

  judgedBy('xmllint').it(
    'is right for programs of others: unzip, sha256sum, sha512sum, xmllint, and counts what it says',
    async () => {
      const { master, services: own } = await mixed();
      const { bytes } = await copyOf(master, own, 'archive');
      inFolder((at, run) => {
        writeFileSync(at('a.zip'), bytes);
        expect(run('python3', '-c', 'import zipfile; z = zipfile.ZipFile("a.zip"); print(z.testzip()); z.extractall()')).toBe(
          'None\n',
        );
        const within = (program: string, ...args: string[]) => {
          const { status, stdout } = spawnSync(program, args, { cwd: at('archive'), encoding: 'utf8' });
          expect([program, args, status]).toEqual([program, args, 0]);
          return stdout;
        };
        for (const sum of ['sha256', 'sha512'])
          for (const kind of ['manifest', 'tagmanifest']) within(`${sum}sum`, '--quiet', '--strict', '-c', `${kind}-${sum}.txt`);
        expect(readFileSync(at('archive/bagit.txt'), 'utf8')).toBe('BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n');
        const sizes = within('find', 'data', '-type', 'f', '-printf', '%s\n').trim().split('\n').map(Number);
        const info = readFileSync(at('archive/bag-info.txt'), 'utf8');
        expect(info).toContain(`Payload-Oxum: ${sizes.reduce((sum, one) => sum + one, 0)}.${sizes.length}\n`);
        expect(info).toContain('External-Description: Mere board: Ø 30 % / north\n');
        for (const name of readdirSync(at('archive/data/descriptions')))
          within('xmllint', '--noout', `data/descriptions/${name}`);
      });
    },
  );

  it('tells every file that rots, is missing or was added, by its name, wherever it is hit', async () => {
    const { master, services: own } = await mixed();
    const { bytes } = await copyOf(master, own, 'archive');
    const whole = bagIn(bytes);
    const paths = [...whole.keys()].filter((path) => !path.startsWith('tagmanifest') && path !== 'bagit.txt');
    fc.assert(
      fc.property(fc.constantFrom(...paths), fc.nat(), fc.constantFrom('rot', 'gone', 'more'), (path, at, how) => {
        const bag = new Map(whole);
        const held = Uint8Array.from(bag.get(path)!);
        held[at % held.length]! ^= 1 << (at % 8);
        if (how === 'rot') bag.set(path, held);
        else if (how === 'gone' && !path.startsWith('manifest')) bag.delete(path);
        else bag.set('data/renditions/more.txt', held);
        const found = (): string[] => checkBag(bag).map(({ file }) => file);
        const named = how === 'rot' || (how === 'gone' && !path.startsWith('manifest')) ? path : 'data/renditions/more.txt';
        // A list that is hit itself may not be one any more.
        if (path.startsWith('manifest') && how === 'rot') {
          try {
            expect(found()).toContain(path);
          } catch (error) {
            expect(String(error)).toMatch(/no checksum and name|toContain/);
          }
        } else expect(found()).toContain(named);
      }),
      { numRuns: runs(60) },
    );
  });

  it('falls behind with any change of the master, and is touched by whoever makes it anew with other files', async () => {
    const { master, services: own } = await mixed();
    const made = await copyOf(master, own, 'archive');
    expect((await made.check(made.bytes)).verdict).toBe('in step');
    expect((await made.check(made.bytes, { ...master, rights: 'nobody' })).verdict).toBe('behind');
    // As a zip program makes it again: packed otherwise, and nothing else.
    expect(await made.check(zipSync(unzipSync(made.bytes), { level: 9 }))).toMatchObject({
      verdict: 'in step',
      remark: 're-written elsewhere',
    });
    // With checksums that are right of a page that is another.
    const files = unzipSync(made.bytes);
    const page = 'archive/data/renditions/guide.pdf';
    const other = files['archive/data/renditions/photograph.pdf']!;
    const sums = (name: string, program: string) => {
      const text = Buffer.from(files[name]!).toString();
      const { stdout } = spawnSync(program, { input: Buffer.from(other), encoding: 'utf8' });
      files[name] = Buffer.from(text.replace(/^[0-9a-f]+(?= {2}data\/renditions\/guide\.pdf$)/m, stdout.split(' ')[0]!));
    };
    files[page] = other;
    sums('archive/manifest-sha256.txt', 'sha256sum');
    sums('archive/manifest-sha512.txt', 'sha512sum');
    delete files['archive/tagmanifest-sha256.txt'];
    delete files['archive/tagmanifest-sha512.txt'];
    const forged = zipSync(files, { level: 0 });
    expect(checkBag(bagIn(forged))).toEqual([]);
    expect((await made.check(forged)).verdict).toBe('touched');
  });

  it('that loses something says so in its name, its report and inside', async () => {
    const { master, services: own } = await mixed();
    const made = await copyOf(master, own, 'archive', { boards: 'pixels with loss', originals: 'without', previews: 'none' });
    const bag = bagIn(made.bytes);
    expect(
      filesOf(bag)
        .filter((path) => path.startsWith('renditions/'))
        .sort(),
    ).toEqual(['gloss_by_week.csv', 'guide.pdf', 'photograph.jpg', 'photograph_2.jpg'].map((name) => `renditions/${name}`));
    expect(filesOf(bag).some((path) => /^(originals|previews)/.test(path))).toBe(false);
    expect(made.report.lines.filter(({ outcome }) => outcome === 'approximated').map(({ becomes }) => becomes)).toEqual([
      expect.stringContaining('not for production'),
    ]);
    expect(Buffer.from(bag.get('bag-info.txt')!).toString()).toMatch(/lossy: its pictures are not for production/);
  });

  it('of others is read as far as it can be: other folders, one list, lines that go on, names by numbers', () => {
    const put = (text: string) => new TextEncoder().encode(text);
    const sum = (text: string) => digest(put(text));
    const bag = new Map([
      ['bagit.txt', put('BagIt-Version: 0.97\r\nTag-File-Character-Encoding: UTF-8\r\n')],
      ['bag-info.txt', put('External-Description: goes\n  on\n')],
      ['manifest-sha256.txt', put(`${sum('one').toUpperCase()} *data/a%0Ab.txt\r\n${sum('two')}\t./data/c.txt\r\n`)],
      ['data/a\nb.txt', put('one')],
      ['data/c.txt', put('two')],
    ]);
    expect(checkBag(bag)).toEqual([]);
    const zip = zipSync(Object.fromEntries([...bag].map(([path, bytes]) => [`my bag/${path}`, bytes])));
    expect(checkBag(bagIn(zip))).toEqual([]);
    expect(() => checkBag(new Map([...bag].filter(([path]) => !path.startsWith('manifest'))))).toThrow(/no list of checksums/);
    expect(() => checkBag(new Map([['data/x', put('x')]]))).toThrow(/bagit\.txt/);
    expect(() => checkBag(new Map([...bag, ['manifest-sha256.txt', put('what is this\n')]]))).toThrow(/no checksum and name/);
  });

  it('of others, and what is damaged inside, keeps nobody from what else the file is', async () => {
    const codec = await codecOf('archive');
    const foreign = zipSync({ 'a/bagit.txt': Buffer.from('BagIt-Version: 1.0\n'), 'a/data/x.txt': Buffer.from('x') });
    expect(await codec.read([{ part: '', bytes: foreign }], {}, services)).toEqual({ leaves: [], mark: null, notUnderstood: [] });
    expect(await nativeInside(foreign)).toBeNull();
    const made = await copyOf(masterWith([rectangle('plate', 10, 10)]), services, 'archive');
    const files = unzipSync(made.bytes);
    files['archive/data/master/master.inkwell'] = files['archive/data/master/master.inkwell']!.slice(0, 200);
    expect(await nativeInside(zipSync(files))).toBeNull();
    expect((await made.check(zipSync(files))).differences.map(({ kind }) => kind)).toContain('master inside missing');
  });

  it('of which thousands of files are missing is told of in words that somebody reads', async () => {
    const made = await copyOf(masterWith([rectangle('plate', 10, 10)]), services, 'archive');
    const files = unzipSync(made.bytes);
    const lost = Array.from({ length: 5000 }, (_, i) => `${'0'.repeat(64)}  data/lost${i}\n`).join('');
    files['archive/manifest-sha256.txt'] = Buffer.concat([files['archive/manifest-sha256.txt']!, Buffer.from(lost)]);
    const { verdict, differences } = await made.check(zipSync(files));
    expect(verdict).toBe('touched');
    expect(differences.length).toBeLessThan(200);
    expect(differences.map(({ what }) => what).join()).toMatch(/and \d+ more/);
  });

  it('states its mark of origin among what it says of itself', async () => {
    const made = await copyOf(masterWith([rectangle('plate', 10, 10)]), services, 'archive');
    const { mark } = await (await codecOf('archive')).read([{ part: '', bytes: made.bytes }], {}, services);
    expect(parseMark(mark)).toMatchObject({ says: made.says, rev: 1 });
  });
});
