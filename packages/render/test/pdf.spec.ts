import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import sharp from 'sharp';
import { type Difference, FACES, type Item, type Master, bringInAny, codecOf, digest, parseMark } from '@inkwell-twin/core';
import { pictureEngine } from '../src';
import { masterWith, rectangle, text } from '../../core/test/build';
import { richMaster } from '../../core/test/rich';
import { changed, inFolder, rewritten } from './faults/qpdf';
import { copyOf, masterOf, servicesWith, sample, withPicture } from './workshop';
import { judgedBy } from '../../core/test/judged-by';
import { runs } from '../../core/test/depth';
import { cpuTime } from '../../core/test/cpu-time';

const services = servicesWith(new Map());

/** A PDF with its streams open, changed as text, and put together again. */
const edited = (bytes: Uint8Array, change: (opened: string) => string): Uint8Array => {
  const made = changed(bytes, change);
  if (!made) throw new Error('Nothing was changed.');
  return made;
};

const painted = async (): Promise<Master> => {
  const file = join(__dirname, '../../core/test/fixtures/painted.svg');
  return (await (await codecOf('svg')).bringIn!(readFileSync(file), 'painted.svg')).master;
};

/** Words as some systems save them: each letter, and then its accents, which stand over it by the font's own measure. */
const accents = (): Master =>
  masterWith([
    text('small', 'e\u0301 fen, ga\u0308nsehaut, n\u0303a, c\u0327a, y\u0302', { x: 10, y: 30, size: 14 }),
    text('tall', 'E\u0301TE\u0301 X\u0301 O\u0308 A\u030a', { x: 10, y: 60, size: 20, font: 'Source Serif 4 Bold Italic' }),
    text('end', 'o\u0304 z\u030c', { x: 140, y: 90, size: 16, align: 'end', spacing: 0.2 }),
  ]);

const stroked = { fill: null, stroke: '#c23b22', strokeWidth: 0.5 } as const;
const card = (items: Item[] = []): Master => {
  const one = masterWith([
    rectangle('plate', 10, 10, { style: { fill: '#2b4180', stroke: null, strokeWidth: 0 } }),
    rectangle('edge', 60, 20, { style: stroked }),
    text('title', 'Lantern Mere', { x: 20, y: 70, size: 9 }),
    text('right', 'Łódka, 7 ½', { x: 150, y: 80, size: 6, align: 'end', font: 'Source Serif 4 Bold Italic' }),
    ...items,
  ]);
  const back = {
    id: 'b2',
    name: 'Back',
    width: 90,
    height: 60,
    background: '#f7f0e2',
    items: [text('word', 'Sedge', { y: 30 })],
  };
  return {
    ...one,
    boards: [
      { ...one.boards[0]!, name: 'Front' },
      { ...back, items: back.items as never },
    ],
  };
};

describe('a copy as PDF', () => {
  it('reads back what was written, whatever it was: paints, patterns, masks, clips, blends, texts, symbols', () =>
    fc.assert(
      fc.asyncProperty(richMaster, fc.constantFrom({}, { text: 'outlines' }, { bleed: 3 }), async (master, options) => {
        const made = await copyOf(master, services, 'pdf', options, { of: 'master' });
        expect(made.defects).toEqual([]);
        expect((await made.check(made.bytes)).verdict).toBe('in step');
      }),
      { numRuns: runs(25) },
    ));

  it('reads every letter of every shipped font back as the letter that it is', async () => {
    const letters = [...'abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789.,;:!?()-+"\'/&%$#@*=<>[]{}_äöüéñß'];
    for (const { name } of FACES) {
      const place = (i: number) => ({ x: 10 + (i % 12) * 15, y: 10 + Math.floor(i / 12) * 16, size: 8, font: name });
      const copy = await copyOf(masterWith(letters.map((one, i) => text(`t${i}`, one + one, place(i)))), services, 'pdf');
      expect([name, copy.defects.map(({ kind, what }) => `${kind} ${what}`)]).toEqual([name, []]);
    }
  });

  it('keeps apart and together what groups in groups do: clips, masks, blends and shares of the same things', async () => {
    const square = (to: number) => ({
      rule: 'nonzero' as const,
      outlines: [
        {
          start: [0, 0] as const,
          segments: [[to, 0] as const, [to, 90] as const].map((one) => ({ kind: 'line' as const, to: one })),
          closed: true,
        },
      ],
    });
    const items = () => [rectangle('one', 10, 10), rectangle('two', 30, 20)];
    const effects = [
      { opacity: 0.5 },
      { clip: [square(80)] },
      { blend: 'multiply' as const },
      { clip: [square(60), square(90)] },
      {},
    ];
    for (const outer of effects)
      for (const inner of effects) {
        const group = { kind: 'group' as const, id: 'inner', layer: 'cut', ...inner, items: items() };
        const master = masterWith([{ kind: 'group', id: 'outer', layer: 'cut', ...outer, items: [group] }]);
        for (const target of ['pdf', 'svg'])
          expect([outer, inner, target, (await copyOf(master, services, target)).defects]).toEqual([outer, inner, target, []]);
      }
  });

  it('shows whole what follows a see-through shape: groups that mix, groups that are clipped, pictures', async () => {
    const thin = rectangle('thin', 10, 10, { style: { fill: '#a4c9ee', fillOpacity: 0.7, stroke: null, strokeWidth: 0 } });
    const { master: pictured, services: withFile } = await masterOf(sample(20, 10));
    const [picture] = pictured.boards[0]!.items;
    const group = { kind: 'group' as const, id: 'group', layer: 'cut', items: [rectangle('inner', 30, 20)] };
    for (const next of [
      { ...group, blend: 'multiply' as const },
      { ...group, opacity: 0.4 },
      { ...picture!, layer: 'cut' },
    ]) {
      const master = { ...masterWith([thin, next as Item, rectangle('last', 50, 30)]), resources: pictured.resources };
      expect([next.id, (await copyOf(master, withFile, 'pdf')).defects]).toEqual([next.id, []]);
    }
  });

  it('is the same each time, and says where it came from in two places', async () => {
    const made = await copyOf(card(), services, 'pdf');
    expect(digest((await copyOf(card(), services, 'pdf')).bytes)).toBe(digest(made.bytes));
    const words = Buffer.from(made.bytes).toString('latin1');
    const marks = words.match(/inkwell-twin;[^<)]*/g)!.map((one) => parseMark(one));
    expect(marks).toHaveLength(2);
    for (const mark of marks) expect(mark).toMatchObject({ says: made.says, rev: 1 });
  });

  it('keeps pictures: a plain JPEG byte for byte, another without loss, cut off and seen through', async () => {
    const { master, services: own } = await masterOf(sample(300, 200, true));
    const cropped = withPicture(master, {
      crop: { left: 0.1, bottom: 0, right: 0.8, top: 0.75 },
      style: { fill: null, stroke: null, strokeWidth: 0, opacity: 0.5 },
    });
    for (const one of [master, cropped]) {
      const made = await copyOf(one, own, 'pdf');
      expect(made.defects).toEqual([]);
      expect((await made.check(made.bytes)).verdict).toBe('in step');
    }
    const jpeg = await sharp(sample(300, 200).data as Uint8Array, { raw: { width: 300, height: 200, channels: 4 } })
      .removeAlpha()
      .jpeg({ quality: 80 })
      .toBuffer();
    const brought = await bringInAny(jpeg, 'a.jpg', { pictures: pictureEngine });
    const files = new Map(brought.kept.map((kept) => [kept.resource.id, kept.bytes]));
    const made = await copyOf(brought.master, servicesWith(files), 'pdf');
    expect(made.defects).toEqual([]);
    expect(Buffer.from(made.bytes).includes(jpeg)).toBe(true);
  });

  it('says what it leaves out: what has neither fill nor line, and letters that its font has not', async () => {
    const unseen = rectangle('unseen', 5, 5, { style: { fill: null, stroke: null, strokeWidth: 0 } });
    const { report, defects } = await copyOf(card([unseen, text('rare', 'Fen 象 path', { y: 40 })]), services, 'pdf');
    expect(defects).toEqual([]);
    expect(report.lines).toContainEqual(expect.objectContaining({ feature: 'unseen', outcome: 'left out', count: 1 }));
    expect(report.lines).toContainEqual(expect.objectContaining({ feature: 'characters', outcome: 'left out' }));
  });
});

judgedBy('qpdf', 'pdftotext', 'rsvg-convert').describe('a copy as PDF, to programs that nobody here wrote', () => {
  it('is sound, has its fonts in it, its words as words, and its boxes', async () => {
    const { bytes } = await copyOf(card(), services, 'pdf', { bleed: 3 }, { of: 'master' });
    inFolder((at, run) => {
      writeFileSync(at('a.pdf'), bytes);
      expect(run('qpdf', '--check', 'a.pdf')).toMatch(/No syntax or stream encoding errors/);
      const fonts = run('pdffonts', 'a.pdf').split('\n').slice(2).filter(Boolean);
      expect(fonts.length).toBeGreaterThanOrEqual(2);
      for (const font of fonts) expect(font).toMatch(/CID TrueType\s+Identity-H\s+yes yes yes/);
      const words = run('pdftotext', 'a.pdf', '-');
      for (const one of ['Lantern Mere', 'Łódka, 7 ½', 'Sedge']) expect(words).toContain(one);
      const box = run('pdfinfo', '-box', '-f', '1', '-l', '2', 'a.pdf');
      expect(box).toMatch(/Page\s+2 TrimBox:\s+8\.50\s+8\.50\s+263\.62\s+178\.58/);
      expect(box).toMatch(/Page\s+2 MediaBox:\s+0\.00\s+0\.00\s+272\.13\s+187\.09/);
    });
  });

  it('sets text that is placed by its end or middle so that it ends or stands there, kerned as its font says', async () => {
    const at = { x: 100, size: 10, font: 'Work Sans' } as const;
    const words = 'Tyre LT P. r, y.';
    const master = masterWith([
      text('end', words, { ...at, y: 20, align: 'end' }),
      text('middle', words, { ...at, y: 50, align: 'middle' }),
    ]);
    const { bytes } = await copyOf(master, services, 'pdf');
    inFolder((file, run) => {
      writeFileSync(file('a.pdf'), bytes);
      const boxes = [...run('pdftotext', '-bbox', 'a.pdf', '-').matchAll(/xMin="([\d.]+)" yMin="([\d.]+)" xMax="([\d.]+)"/g)];
      const mm = boxes.map(([, left, top, right]) => [left, top, right].map((one) => (Number(one) / 72) * 25.4));
      const of = (low: boolean) => mm.filter(([, top]) => top! > 65 === low);
      const span = (row: number[][]) => [Math.min(...row.map(([left]) => left!)), Math.max(...row.map(([, , right]) => right!))];
      const [end, middle] = [span(of(true)), span(of(false))];
      expect(Math.abs(end[1]! - 100)).toBeLessThan(0.3);
      expect(Math.abs((middle[0]! + middle[1]!) / 2 - 100)).toBeLessThan(0.3);
    });
  });

  it.each([
    ['painted', painted],
    ['with letters and accents apart', () => Promise.resolve(accents())],
  ])('looks as the SVG copy does: %s', async (_, of) => {
    const master = await of();
    const [pdf, svg] = [await copyOf(master, services, 'pdf'), await copyOf(master, services, 'svg', { text: 'outlines' })];
    expect(pdf.defects).toEqual([]);
    const [one, other] = await Promise.all(
      inFolder((at, run) => {
        writeFileSync(at('a.pdf'), pdf.bytes);
        writeFileSync(at('a.svg'), svg.bytes);
        run('pdftocairo', '-png', '-singlefile', '-scale-to-x', '1600', '-scale-to-y', '1200', 'a.pdf', 'a');
        run('rsvg-convert', '-w', '1600', '-h', '1200', '--background-color', 'white', 'a.svg', '-o', 'b.png');
        return [readFileSync(at('a.png')), readFileSync(at('b.png'))];
      }).map((png) => sharp(png).resize(400, 300).removeAlpha().raw().toBuffer()),
    );
    expect(one!.filter((value, i) => Math.abs(value - other![i]!) > 24).length / one!.length).toBeLessThan(0.01);
  });

  it.each([
    ['linearised', ['--linearize']],
    ['opened', ['--qdf', '--object-streams=disable']],
    ['unpacked', ['--stream-data=uncompress']],
    ['packed into object streams', ['--object-streams=generate']],
    ['packed anew', ['--recompress-flate', '--compression-level=9', '--object-streams=generate']],
    ['without its metadata', ['--remove-metadata', '--remove-info']],
  ])('is in step when it is only %s', async (_, how) => {
    const { master, services: own } = await masterOf(sample(120, 80, true));
    const drawn = await painted();
    for (const made of [
      await copyOf(drawn, services, 'pdf'),
      await copyOf(card(), services, 'pdf'),
      await copyOf(master, own, 'pdf'),
    ]) {
      let bytes;
      try {
        bytes = rewritten(made.bytes, ...how, 'in.pdf');
      } catch (error) {
        // Older releases of the program don't know every way.
        if (/unrecognized|unknown argument/.test(String(error))) return;
        throw error;
      }
      const checked = await made.check(bytes);
      expect([checked.verdict, checked.differences]).toEqual(['in step', []]);
    }
  });

  const moved = (opened: string, by: number) =>
    opened.replace(/([\d.]+) ([\d.]+) m\n/, (_, x: string, y: string) => `${Number(x) + by} ${y} m\n`);
  it.each<[string, (opened: string) => string, Difference['kind'][]]>([
    ['a corner moved by 0.05 mm', (opened) => moved(opened, 0.05), ['reshaped', 'moved', 'missing']],
    ['a colour changed', (opened) => opened.replace(/(0\.16863 0\.2549) 0\.50196 rg/, '$1 0.6 rg'), ['recoloured']],
    ['a line made wider', (opened) => opened.replace(/\n0\.5 w\n/, '\n0.7 w\n'), ['restyled']],
    ['an outline taken out', (opened) => opened.replace(/\n[^\n]* m\n(?:[^\n]* l\n)+h\nf\n/, '\n'), ['missing']],
    ['a letter changed', (opened) => opened.replace(/(Tf \[<0001)(....)/, '$10005'), ['retyped']],
    ['a line of text moved', (opened) => opened.replace(/20 70 Tm/, '20.05 70 Tm'), ['moved']],
    ['a text in another size', (opened) => opened.replace(/ 9 Tf/, ' 9.2 Tf'), ['resized']],
    ['another font', (opened) => opened.replace(/\/F2 6 Tf/, '/F1 6 Tf'), ['font changed', 'retyped', 'missing']],
    ['letters drawn apart', (opened) => opened.replace(/BT 0 Tr/, 'BT 0.4 Tc 0 Tr'), ['restyled']],
    ['text that nobody sees', (opened) => opened.replace(/BT 0 Tr/, 'BT 3 Tr'), ['missing']],
    [
      'a layer called otherwise',
      (opened) => opened.replace(/\/Name \([^)]*\)(?=\s+\/Type \/OCG)/, '/Name (Elsewhere)'),
      ['re-layered'],
    ],
    [
      'a page made larger',
      (opened) =>
        opened.replace(/(\/MediaBox \[\s+0\s+0\s+)([\d.]+)/, (_, head: string, width: string) => `${head}${Number(width) + 3}`),
      ['sheet resized'],
    ],
    ['a note laid over it', (opened) => opened.replace(/ET\n/, 'ET\n0 0 1 rg 5 5 3 3 re f\n'), ['added']],
    [
      'an instruction that is not known',
      (opened) => opened.replace(/\nET\n/, '\n2 Tw (a) Tj ET\n'),
      ['not understood', 'retyped'],
    ],
  ])('is not in step after %s', async (_, change, kinds) => {
    const made = await copyOf(card(), services, 'pdf');
    const { verdict, differences } = await made.check(edited(made.bytes, change));
    expect(verdict).not.toBe('in step');
    expect(differences.map(({ kind }) => kind).some((kind) => kinds.includes(kind))).toBe(true);
  });

  it('is in step where spaces between words are stated that its letters of two bytes do not know (ISO 32000-1, 9.3.3)', async () => {
    const made = await copyOf(card(), services, 'pdf');
    const { verdict, differences } = await made.check(edited(made.bytes, (opened) => opened.replace(/(?<=BT )/, '2 Tw ')));
    expect([verdict, differences]).toEqual(['in step', []]);
  });

  it('is looked at as pixels where it holds what the reader does not know: the same, or where it is not', async () => {
    const made = await copyOf(card(), services, 'pdf', { bleed: 3 }, { of: 'master' });
    // The width of a letter outside of a font (ISO 32000-1, 9.6.5) changes nothing.
    const same = await made.check(edited(made.bytes, (opened) => opened.replace(/(?=BT )/, '500 0 d0 ')));
    expect([same.verdict, same.differences]).toEqual(['in step', []]);
    expect(same.proof).toMatch(/does not know was looked at as pixels, 150 to the inch: they are the same\.$/);
    // A shading all over the second page: whatever it is, it is seen there.
    const veiled = edited(made.bytes, (opened) => {
      const at = opened.lastIndexOf('\nET\n') + 4;
      return `${opened.slice(0, at)}500 0 d0 0.8 0 0 rg 20 20 4 4 re f\n${opened.slice(at)}`;
    });
    const { verdict, differences, proof } = await made.check(veiled);
    expect([verdict, /pixels/.test(proof)]).toEqual(['touched', true]);
    const seen = differences.find(({ kind }) => kind === 'region changed')!;
    expect(seen).toMatchObject({ leaf: 1, unit: 'ΔE' });
    const { minX, minY, maxX, maxY } = seen.place!;
    for (const [value, wanted] of [
      [minX, 20],
      [minY, 20],
      [maxX, 24],
      [maxY, 24],
    ] as const)
      expect(Math.abs(value - wanted)).toBeLessThan(0.6);
  });

  it('is not in step after its pages changed places, or one is gone', async () => {
    const made = await copyOf(card(), services, 'pdf', {}, { of: 'master' });
    expect((await made.check(made.bytes)).verdict).toBe('in step');
    const found = async (pages: string) => {
      const { verdict, differences } = await made.check(rewritten(made.bytes, 'in.pdf', '--pages', '.', pages, '--'));
      return [verdict, differences.map(({ kind }) => kind)];
    };
    expect(await found('2,1')).toEqual(['touched', ['sheet re-ordered']]);
    expect(await found('1')).toEqual(['touched', ['sheet missing']]);
    expect(await found('1,2,2')).toEqual(['touched', ['sheet added']]);
  });

  it('is not in step after a corner of what is seen of a picture was moved', async () => {
    const { master, services: own } = await masterOf(sample(120, 80));
    const cropped = withPicture(master, { crop: { left: 0.25, bottom: 0, right: 1, top: 0.75 } });
    const made = await copyOf(cropped, own, 'pdf');
    expect(made.defects).toEqual([]);
    expect((await made.check(edited(made.bytes, (opened) => moved(opened, 0.05)))).verdict).toBe('touched');
  });

  it('is not in step after a picture in it was painted on', async () => {
    const { master, services: own } = await masterOf(sample(120, 80));
    const made = await copyOf(master, own, 'pdf');
    const change = (opened: string) => {
      const at = opened.indexOf('stream\n', opened.indexOf('/Subtype /Image')) + 7 + 3 * (120 * 40 + 60);
      return opened.slice(0, at) + '\xff\x00\x00'.repeat(12) + opened.slice(at + 36);
    };
    const { verdict, differences } = await made.check(edited(made.bytes, change));
    expect([verdict, differences.map(({ kind }) => kind)]).toEqual(['touched', ['region changed']]);
    // Twelve pixels of 200 to the inch, in the middle of it.
    const { minX, maxX, minY, maxY } = differences[0]!.place!;
    expect([minX, maxX, minY, maxY].map((one) => Number(one.toFixed(1)))).toEqual([7.6, 9.1, 5, 5.1]);
  });

  it.each<[string, (bytes: Uint8Array) => Uint8Array, RegExp]>([
    ['locked', (bytes) => rewritten(bytes, '--encrypt', 'open', 'owner', '256', '--', 'in.pdf'), /locked with a password/],
    ['cut off', (bytes) => bytes.subarray(0, 400), /can't be read/],
    ['nothing but its first line', () => Buffer.from('%PDF-1.7\n'), /can't be read/],
  ])('says what is wrong with a file that is %s', async (_, change, words) => {
    const made = await copyOf(card(), services, 'pdf');
    const { verdict, proof } = await made.check(change(made.bytes));
    expect(verdict).toBe('unreadable');
    expect(proof).toMatch(words);
  });

  it('that another program made comes in as it looks: gradients that fade, masks, clips, patterns, words', async () => {
    const source = join(__dirname, '../../core/test/fixtures/painted.svg');
    const theirs = inFolder((at, run) => {
      run('rsvg-convert', '-f', 'pdf', source, '-o', 'a.pdf');
      return readFileSync(at('a.pdf'));
    });
    const { master, kept, notUnderstood } = await bringInAny(theirs, 'painted.pdf', { pictures: pictureEngine });
    expect(notUnderstood.filter(({ kind }) => !kind.startsWith('font '))).toEqual([]);
    const own = servicesWith(new Map(kept.map((one) => [one.resource.id, one.bytes])));
    const [svg, pdf] = [await copyOf(master, own, 'svg'), await copyOf(master, own, 'pdf')];
    expect([svg.defects, pdf.defects]).toEqual([[], []]);
    const drawn = inFolder((at, run) => {
      writeFileSync(at('a.svg'), svg.bytes);
      writeFileSync(at('a.pdf'), theirs);
      run('rsvg-convert', '-w', '1600', '-h', '1200', '--background-color', 'white', 'a.svg', '-o', 'b.png');
      run('pdftocairo', '-png', '-singlefile', '-scale-to-x', '1600', '-scale-to-y', '1200', 'a.pdf', 'a');
      return [readFileSync(at('a.png')), readFileSync(at('b.png'))];
    });
    const [one, other] = await Promise.all(drawn.map((png) => sharp(png).resize(400, 300).removeAlpha().raw().toBuffer()));
    expect(one!.filter((value, i) => Math.abs(value - other![i]!) > 24).length / one!.length).toBeLessThan(0.01);
  });

  it('does not read thousands of pages', async () => {
    const kids = Array.from({ length: 5000 }, (_, i) => `${i + 3} 0 R`).join(' ');
    const page = '<</Type/Page/Parent 2 0 R/MediaBox[0 0 10 10]>>';
    const objects = [
      '<</Type/Catalog/Pages 2 0 R>>',
      `<</Type/Pages/Count 5000/Kids[${kids}]>>`,
      ...Array<string>(5000).fill(page),
    ];
    const bytes = Buffer.from(
      `%PDF-1.7\n${objects.map((one, i) => `${i + 1} 0 obj${one}endobj\n`).join('')}trailer<</Root 1 0 R>>\n%%EOF\n`,
    );
    const made = await copyOf(card(), services, 'pdf');
    const start = cpuTime();
    const { verdict, proof } = await made.check(bytes);
    expect([verdict, proof]).toEqual(['unreadable', expect.stringMatching(/5000 pages; at most 500/)]);
    expect(cpuTime() - start).toBeLessThan(20_000);
  });
});
