import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { deflateSync } from 'node:zlib';
import fc from 'fast-check';
import { type Item, type Master, digest, nativeInside, readPackage, recipeOf } from '@inkwell-twin/core';
import { CLAUSES, brokenClauses } from '../src';
import { masterWith, rectangle, text } from '../../core/test/build';
import { richMaster } from '../../core/test/rich';
import { judgedBy } from '../../core/test/judged-by';
import { runs } from '../../core/test/depth';
import { inFolder } from './faults/qpdf';
import { copyOf, masterOf, sample, servicesWith } from './workshop';

const services = servicesWith(new Map());
const both = [
  ['A-2b', 2],
  ['A-3b', 3],
] as const;

const seeThrough = { fill: '#2b4180', stroke: '#14213a', strokeWidth: 1, opacity: 0.5 } as const;
const sheet = (): Master =>
  masterWith([rectangle('plate', 10, 10, { style: seeThrough }), text('title', 'Lantern Mere', { x: 20, y: 70, size: 9 })]);

/** A file with its streams open, changed as text, and put together again; nothing is packed. */
const opened = (bytes: Uint8Array, change: (text: string) => string): Uint8Array =>
  inFolder((at, run) => {
    writeFileSync(at('in.pdf'), bytes);
    run('qpdf', '--qdf', '--object-streams=disable', '--stream-data=uncompress', 'in.pdf', 'open.pdf');
    const before = readFileSync(at('open.pdf'), 'latin1');
    const after = change(before);
    if (after === before) throw new Error(`Nothing was changed by ${change}`);
    writeFileSync(at('changed.pdf'), after, 'latin1');
    return spawnSync('fix-qdf', [at('changed.pdf')], { maxBuffer: 1 << 28 }).stdout;
  });

const inCatalog = (entries: string) => (file: string) => file.replace('/Type /Catalog', `/Type /Catalog ${entries}`);
const onPage = (entries: string) => (file: string) => file.replace('/Type /Page\n', `/Type /Page ${entries}\n`);
const inState = (entries: string) => (file: string) => file.replace('/Type /ExtGState', `/Type /ExtGState ${entries}`);
const inPicture = (entries: string) => (file: string) => file.replace('/Subtype /Image', `/Subtype /Image ${entries}`);
const inForm = (entries: string) => (file: string) => file.replace('/Subtype /Form', `/Subtype /Form ${entries}`);
/** At the start of what the page draws. */
const drawn = (operators: string) => (file: string) => file.replace(/(Contents for page 1\n[^]*?\nstream\n)/, `$1${operators}\n`);
/** As bytes, where opening it would mend it. */
const asBytes = (change: (text: string) => string) => (bytes: Uint8Array) =>
  Buffer.from(change(Buffer.from(bytes).toString('latin1')), 'latin1');

type Break = readonly [clause: string, how: string, change: (file: string) => string];
/** Files broken on purpose, for each clause at least one. */
const BREAKS: readonly Break[] = [
  ['6.1.7.1', 'a stream that lies outside', inForm('/F (elsewhere.bin)')],
  ['6.1.12', 'rights of a reader', inCatalog('/Perms << /Other 1 >>')],
  ['6.1.13', 'a page that is too long', (file) => file.replace(/\/MediaBox \[[^\]]*\]/, '/MediaBox [ 0 0 20000 500 ]')],
  ['6.1.13', 'a page that is too small', (file) => file.replace(/\/MediaBox \[[^\]]*\]/, '/MediaBox [ 0 0 2 500 ]')],
  ['6.3', 'a film', onPage('/Annots [ << /Type /Annot /Subtype /Movie /Rect [ 0 0 9 9 ] /F 4 /AP << >> >> ]')],
  ['6.3', 'a note that is not printed', onPage('/Annots [ << /Type /Annot /Subtype /Text /Rect [ 0 0 9 9 ] /AP << >> >> ]')],
  ['6.4', 'a form that asks for looks', inCatalog('/AcroForm << /Fields [ ] /NeedAppearances true >>')],
  ['6.5', 'a program', inCatalog('/OpenAction << /S /JavaScript /JS (1) >>')],
  ['6.5', 'something done by itself', onPage('/AA << >>')],
  ['6.9', 'layers without a name', (file) => file.replace(/\/Name \(Layers\)/, '')],
  ['6.10', 'steps to be shown in', onPage('/PresSteps << >>')],
  ['6.11', 'requirements', inCatalog('/Requirements [ ]')],
  ['6.2.2', 'an operator of its own', drawn('12 mist')],
  ['6.1.13 (states)', 'states too deep', drawn(`${'q '.repeat(29)}${'Q '.repeat(29)}`)],
  ['6.2.3', 'colours without a profile', (file) => file.replace(/\/DestOutputProfile \d+ 0 R/, '')],
  ['6.2.3', 'a profile with other parts', (file) => file.replace(/\/N 3\b/, '/N 4')],
  ['6.2.4.3', 'colours of a press', drawn('0 1 0 0 k')],
  ['6.2.4.3', 'no word of what colours are for', (file) => file.replace(/\/OutputIntents \[[^\]]*\]/, '')],
  ['6.2.5', 'a curve of the device', inState('/TR /Identity')],
  ['6.2.8', 'a picture that is smoothed', inPicture('/Interpolate true')],
  ['6.2.9', 'a drawing that lies elsewhere', inForm('/Ref << >>')],
  ['6.2.10', 'a blend of its own', inState('/BM /Mist')],
  ['6.2.11.2', 'a font of another kind', (file) => file.replace(/\/Subtype \/CIDFontType2/, '/Subtype /CIDFontType9')],
  ['6.2.11.3', 'codes of which nobody knows the letter', (file) => file.replace(/\/CIDToGIDMap \/Identity/, '')],
  ['6.2.11.4', 'a font that is not inside', (file) => file.replace(/\/FontFile2 \d+ 0 R/, '')],
  ['6.2.11.8', 'a letter that there is not', (file) => file.replace(/\[\s*<([0-9a-f]{4})/, '[<0000')],
  ['6.6.2.1', 'no metadata', (file) => file.replace(/\/Metadata \d+ 0 R/, '')],
  [
    '6.6.2.3',
    'properties that nobody describes',
    (file) => file.replace('<pdfaSchema:namespaceURI>urn', '<pdfaSchema:namespaceURI>arn'),
  ],
  ['6.6.4', 'another part', (file) => file.replace('<pdfaid:part>2', '<pdfaid:part>4')],
];
const BYTES: readonly (readonly [clause: string, how: string, change: (bytes: Uint8Array) => Uint8Array])[] = [
  ['6.1.2', 'a version after 1.7', asBytes((file) => file.replace('%PDF-1.7', '%PDF-2.0'))],
  ['6.1.2', 'a second line of letters', asBytes((file) => file.replace(/%\xff{4}/, '%abcd'))],
  ['6.1.3', 'something behind the end', asBytes((file) => `${file}more`)],
  ['6.1.3', 'no ID', asBytes((file) => file.replace(/\/ID \[[^\]]*\]/, (one) => ' '.repeat(one.length)))],
  ['6.1.7.2', 'a stream packed by LZW', asBytes((file) => file.replace('/FlateDecode', '/LZWDecode  '))],
];

describe('pages to keep for good', () => {
  it.each(both)('break no clause, whatever they show: %s', (version, part) =>
    fc.assert(
      fc.asyncProperty(richMaster, async (master) => {
        const made = await copyOf(master, services, 'pdf', { version }, { of: 'master' });
        expect(made.defects).toEqual([]);
        expect(await brokenClauses(made.bytes, part)).toEqual([]);
      }),
      { numRuns: runs(12) },
    ),
  );

  it('are broken by a file for each clause that is checked', async () => {
    const { master, services: own } = await masterOf(sample(40, 30, true));
    const words = sheet();
    const whole = { ...master, layers: [...master.layers, ...words.layers], boards: [...master.boards, ...words.boards] };
    const { bytes } = await copyOf(whole, own, 'pdf', { version: 'A-2b' }, { of: 'master' });
    expect(
      await brokenClauses(
        opened(bytes, (file) => file.replace('%QDF-1.0', '%QDF-1.0 ')),
        2,
      ),
    ).toEqual([]);
    const missed: string[] = [];
    for (const [clause, how, change] of BREAKS) {
      const found = await brokenClauses(opened(bytes, change), 2);
      if (!found.some((one) => one.clause === clause)) missed.push(`${clause}: ${how}: ${JSON.stringify(found)}`);
    }
    for (const [clause, how, change] of BYTES) {
      const found = await brokenClauses(change(bytes), 2);
      if (!found.some((one) => one.clause === clause)) missed.push(`${clause}: ${how}: ${JSON.stringify(found)}`);
    }
    expect(missed).toEqual([]);
    const covered = new Set([...BREAKS, ...BYTES].map(([clause]) => clause));
    // What travels inside has a test of its own.
    expect(CLAUSES.map(({ number }) => number).filter((number) => !covered.has(number))).toEqual(['6.8']);
  });

  it('are held against the standard again at each check: one that is no more fit for keeping does not match', async () => {
    const made = await copyOf(sheet(), services, 'pdf', { version: 'A-2b' });
    const { verdict, differences } = await made.check(opened(made.bytes, inCatalog('/Requirements [ ]')));
    expect(verdict).toBe('touched');
    expect(differences.map(({ what }) => what).join()).toContain('6.11');
  });

  it('show no letter that is missing: words that no font has are told of, and leave nothing behind', async () => {
    const master = masterWith([
      text('east', '東 fen 京', { x: 10, y: 30, size: 9 }),
      text('all', '東', { x: 10, y: 60, size: 9 }),
    ]);
    const made = await copyOf(master, services, 'pdf', { version: 'A-2b' });
    expect(made.defects).toEqual([]);
    expect(await brokenClauses(made.bytes, 2)).toEqual([]);
    expect(made.report.lines.filter(({ outcome }) => outcome === 'left out').length).toBeGreaterThan(0);
  });

  judgedBy('pikepdf').it(
    'that unpack to more than any memory, in parts that nothing shows, are looked at within bounds',
    async () => {
      const { bytes } = await copyOf(sheet(), services, 'pdf', { version: 'A-2b' });
      const bomb = deflateSync(Buffer.alloc(300_000_000, 'q '));
      const grown = inFolder((at, run) => {
        writeFileSync(at('in.pdf'), bytes);
        writeFileSync(at('bomb'), bomb);
        const script = [
          'import pikepdf',
          'pdf = pikepdf.open("in.pdf")',
          'forms = []',
          'for i in range(8):',
          '    form = pikepdf.Stream(pdf, b"")',
          '    form.write(open("bomb", "rb").read(), filter=pikepdf.Name.FlateDecode)',
          '    form.Type, form.Subtype = pikepdf.Name.XObject, pikepdf.Name.Form',
          '    form.BBox = [0, 0, 9, 9]',
          '    forms.append(pdf.make_indirect(form))',
          'pdf.Root.PieceInfo = pikepdf.Dictionary(Kept=pikepdf.Array(forms))',
          'pdf.save("out.pdf", stream_decode_level=pikepdf.StreamDecodeLevel.none, compress_streams=False)',
        ];
        run('/usr/bin/python3', '-c', script.join('\n'));
        return readFileSync(at('out.pdf'));
      });
      const found = await brokenClauses(grown, 2, 20);
      expect(found).toHaveLength(8);
      for (const one of found)
        expect(one).toMatchObject({ clause: '6.1.7.1', words: expect.stringContaining('larger than is looked at') });
    },
  );

  it('keep states no deeper than the standard allows, however deep groups are clipped', async () => {
    let inner: Item = rectangle('dot', 20, 20);
    const clip = [
      {
        outlines: [
          {
            start: [0, 0],
            closed: true,
            segments: [
              [90, 0],
              [90, 90],
            ].map((to) => ({ kind: 'line', to })),
          },
        ],
        rule: 'nonzero',
      },
    ];
    for (let i = 0; i < 40; i++)
      inner = { kind: 'group', id: `g${i}`, layer: inner.layer, items: [inner], clip } as unknown as Item;
    const made = await copyOf(masterWith([inner]), services, 'pdf', { version: 'A-2b' });
    expect(made.defects).toEqual([]);
    expect(await brokenClauses(made.bytes, 2)).toEqual([]);
  });
});

describe('versions of pages', () => {
  const { it: judged } = judgedBy('qpdf');

  judged('are what they say, and are read back whole', async () => {
    const master = sheet();
    for (const [version, line] of [
      ['1.4', '%PDF-1.4'],
      ['1.7', '%PDF-1.7'],
      ['2.0', '%PDF-2.0'],
      ['A-2b', '%PDF-1.7'],
      ['A-3b', '%PDF-1.7'],
    ]) {
      const made = await copyOf(master, services, 'pdf', { version });
      expect(made.defects).toEqual([]);
      expect(Buffer.from(made.bytes.subarray(0, 8)).toString()).toBe(line);
      const said = inFolder((at, run) => {
        writeFileSync(at('a.pdf'), made.bytes);
        return run('qpdf', '--check', 'a.pdf');
      });
      expect(said).toMatch(/No syntax or stream encoding errors/);
    }
  });

  it('have no layers before 1.5, and the report says so', async () => {
    const one = sheet();
    const upper = { ...one.layers[0]!, id: 'upper', name: 'Upper' };
    const items = one.boards[0]!.items.map((item, i) => (i ? { ...item, layer: 'upper' } : item));
    const master = { ...one, layers: [...one.layers, upper], boards: [{ ...one.boards[0]!, items }] };
    const made = await copyOf(master, services, 'pdf', { version: '1.4' });
    expect(made.defects).toEqual([]);
    expect(Buffer.from(made.bytes).toString('latin1')).not.toContain('/OCG');
    expect(made.report.lines.filter(({ outcome }) => outcome === 'approximated').map(({ what, count }) => [what, count])).toEqual(
      [['Layer names', 2]],
    );
  });
});

describe('a master that travels inside its pages', () => {
  const inside = { version: 'A-3b', inside: 'master' };

  it('is the master, to the byte of its pictures, and the file stays fit for keeping', async () => {
    const { master, services: own } = await masterOf(sample(40, 30));
    const made = await copyOf(master, own, 'pdf', inside);
    expect(made.defects).toEqual([]);
    expect(await brokenClauses(made.bytes, 3)).toEqual([]);
    const found = readPackage((await nativeInside(made.bytes))!);
    expect(found.master).toEqual(master);
    for (const { id } of master.resources) expect(digest(found.resources.get(id)!)).toBe(id);
    // Part 2 holds no such file.
    expect((await brokenClauses(made.bytes, 2)).map(({ clause }) => clause)).toContain('6.8');
    expect(() => recipeOf('pdf', { version: 'A-2b', inside: 'master' })).toThrow(/A-3b/);
  });

  it('is compared: with any change of the master it is out of date, whatever the pages show', async () => {
    const master = sheet();
    const made = await copyOf(master, services, 'pdf', inside);
    const later = { ...master, description: 'Of the north shore' };
    const { verdict, differences } = await made.check(made.bytes, later);
    expect([verdict, differences.map(({ kind }) => kind)]).toEqual(['behind', ['master inside changed']]);
    const plain = await copyOf(master, services, 'pdf', { version: 'A-3b' });
    expect((await plain.check(plain.bytes, later)).verdict).toBe('in step');
  });

  it('is looked for once in each place, however often a tree of names leads to itself', async () => {
    const made = await copyOf(sheet(), services, 'pdf', { inside: 'master' });
    const looped = opened(made.bytes, (file) => {
      const names = /\n(\d+ 0) obj\n<<\n {2}\/Dests/.exec(file)![1]!;
      return file.replace(/\/EmbeddedFiles <<[^]*?\n {2}>>/, `/EmbeddedFiles ${names} R /Kids [ ${`${names} R `.repeat(60)}]`);
    });
    expect(await nativeInside(looped)).toBeNull();
  });

  judgedBy('qpdf').it('is missed where somebody took it out, and another file beside it is told', async () => {
    const made = await copyOf(sheet(), services, 'pdf', { inside: 'master' });
    const changed = (...how: string[]): Uint8Array =>
      inFolder((at, run) => {
        writeFileSync(at('in.pdf'), made.bytes);
        writeFileSync(at('remark.txt'), 'somebody said something');
        run('qpdf', 'in.pdf', 'out.pdf', ...how);
        return readFileSync(at('out.pdf'));
      });
    const [without, more] = [changed('--remove-attachment=master.inkwell'), changed('--add-attachment', 'remark.txt', '--')];
    const kinds = async (bytes: Uint8Array) => {
      const { verdict, differences } = await made.check(bytes);
      return [verdict, differences.map(({ kind }) => kind)];
    };
    expect(await kinds(without)).toEqual(['touched', ['master inside missing']]);
    expect(await kinds(more)).toEqual(['touched', ['not understood']]);
  });
});
