import { writeFileSync } from 'node:fs';
import fc from 'fast-check';
import {
  type Master,
  codecOf,
  digestOf,
  descriptionIn,
  descriptionRdf,
  footprintHash,
  freshOptions,
  declarationOf,
  recipeOf,
} from '@inkwell-twin/core';
import { brokenClauses } from '../src';
import { filled, masterWith, rectangle } from '../../core/test/build';
import { judgedBy } from '../../core/test/judged-by';
import { runs } from '../../core/test/depth';
import { inFolder } from './faults/qpdf';
import { copyOf, servicesWith } from './workshop';

const services = servicesWith(new Map());
const TARGETS = ['pdf', 'svg', 'png', 'jpeg', 'tiff', 'webp'] as const;
const INSIDE = { description: 'inside' };
const options = (target: string): Record<string, string> => ({
  ...INSIDE,
  ...(target === 'pdf' || target === 'svg' ? {} : { ppi: '30' }),
});

const heron: Master = masterWith([rectangle('plate', 10, 10, { style: filled('#17796a') })], {
  title: 'Heron & <mere>',
  keywords: ['heron', 'north pool', 'Łódka'],
  description: 'At dawn,\nby the second hide',
  rights: '© Lantern Fen “Trust”',
});
const SAID = {
  title: 'Heron & <mere>',
  keywords: ['heron', 'north pool', 'Łódka'],
  caption: 'At dawn,\nby the second hide',
  rights: '© Lantern Fen “Trust”',
};

describe('What a master says of itself', () => {
  test.each(TARGETS)('stands in its own places in %s, is read back and compared', async (target) => {
    const { back, defects, report, bytes, check, says } = await copyOf(heron, services, target, options(target));
    expect([defects, back.described]).toEqual([[], SAID]);
    expect(report.lines.find(({ feature }) => feature === 'description')?.becomes).toMatch(
      /^title, caption, keywords and rights/,
    );
    expect((await check(bytes, { ...heron, rights: 'All free' })).differences).toMatchObject([
      { kind: 'description changed', what: 'Rights', master: 'All free', copy: '© Lantern Fen “Trust”' },
    ]);
    expect((await check(bytes, { ...heron, keywords: ['Łódka', 'heron', 'north pool'] })).verdict).toBe('in step');
    // Whoever has nothing but the file goes by its mark of origin.
    const codec = await codecOf(target);
    const alone = await codec.read([{ part: '', bytes }], {}, services);
    expect(digestOf(alone)).toBe(says);
    const plain = await copyOf(heron, services, target, { ...options(target), description: 'left out' });
    expect(plain.back.described).toBeUndefined();
    expect((await plain.check(plain.bytes, { ...heron, rights: 'All free', title: 'Egret' })).verdict).toBe('in step');
  });

  test('is what new copies say, and not those from before there was the choice', () => {
    expect(recipeOf('png', {}).options['description']).toBe('left out');
    for (const target of TARGETS) expect(freshOptions(declarationOf(target))).toEqual(INSIDE);
    expect(freshOptions(declarationOf('csv'))).toEqual({});
    const of = (master: Master, described: string): string => footprintHash(master, recipeOf('svg', { description: described }));
    const other = { ...heron, rights: 'All free' };
    expect([of(heron, 'inside') === of(other, 'inside'), of(heron, 'left out') === of(other, 'left out')]).toEqual([false, true]);
  });

  test('that somebody changed in a copy is found, however it is written', async () => {
    const { bytes, check } = await copyOf(heron, services, 'svg', INSIDE);
    const text = Buffer.from(bytes).toString('utf8');
    const found = await check(Buffer.from(text.replace('north pool', 'south pool')));
    expect(found).toMatchObject({ verdict: 'touched', differences: [{ kind: 'description changed', what: 'Keywords' }] });
    // As other programs write it: names bound at the root, plain words as attributes.
    const moved = text
      .replace(/ xmlns:(rdf|dc)="[^"]*"/g, '')
      .replace(
        '<svg ',
        '<svg xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#" xmlns:dc="http://purl.org/dc/elements/1.1/" ',
      )
      .replace(/<dc:title>[\s\S]*?<\/dc:title>\n/, '')
      .replace('<rdf:Description rdf:about=""', '<rdf:Description rdf:about="" dc:title="Heron &amp; &lt;mere>"');
    expect(moved).not.toBe(text);
    expect((await check(Buffer.from(moved))).verdict).toBe('in step');
    expect((await check(Buffer.from(text.replace(/<metadata>\n<rdf[\s\S]*?<\/metadata>/, '')))).differences).toHaveLength(4);
  });

  test('comes back from properties of RDF as it went in, whatever it is', () => {
    const words = fc
      .string({ unit: 'grapheme', maxLength: 40 })
      .map((text) => text.replace(/[\u0000-\u001f\ufffe\uffff]/g, ' ').trim());
    fc.assert(
      fc.property(words, fc.array(words.filter(Boolean), { maxLength: 5 }), words, words, (title, keywords, caption, rights) => {
        const said = { title, keywords, caption, rights };
        const rdf = `<rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">${descriptionRdf(said)}</rdf:RDF>`;
        const nothing = !title && !keywords.length && !caption && !rights;
        expect(descriptionIn(rdf)).toEqual(nothing ? undefined : said);
      }),
      { numRuns: runs(100) },
    );
    for (const odd of [
      null,
      '',
      '<',
      '<rdf:RDF>',
      'http://purl.org/dc/elements/1.1/',
      '<a xmlns="http://purl.org/dc/elements/1.1/">',
    ])
      expect(descriptionIn(odd)).toBeUndefined();
  });

  judgedBy('pikepdf', 'pdftotext').it('is shown by programs that nobody here wrote', async () => {
    const { bytes } = await copyOf(heron, services, 'pdf', INSIDE);
    const shown = inFolder((at, run) => {
      writeFileSync(at('in.pdf'), bytes);
      const code =
        "import pikepdf\nwith pikepdf.open('in.pdf') as pdf:\n  with pdf.open_metadata() as m: print(m['dc:title'], sorted(m['dc:subject']), m['dc:rights'], m['pdf:Keywords'], sep='|')";
      return [run('pdfinfo', 'in.pdf'), run('/usr/bin/python3', '-c', code)];
    });
    expect(shown[0]).toMatch(/^Title: +Heron & <mere>$/m);
    expect(shown[0]).toMatch(/^Keywords: +heron, north pool, Łódka$/m);
    expect(shown[0]).toMatch(/^Subject: +At dawn,/m);
    expect(shown[1]).toContain("Heron & <mere>|['heron', 'north pool', 'Łódka']|© Lantern Fen “Trust”|heron, north pool, Łódka");
  });

  judgedBy('PIL').it.each(['png', 'jpeg', 'tiff', 'webp'] as const)('is found by others in %s', async (target) => {
    const { bytes } = await copyOf(heron, services, target, options(target));
    const shown = inFolder((at, run) => {
      writeFileSync(at('in'), bytes);
      const code =
        "from PIL import Image\nim = Image.open('in')\nraw = im.info.get('XML:com.adobe.xmp') or im.info.get('xmp') or (im.tag_v2.get(700) if hasattr(im, 'tag_v2') else None) or (im.app.get('APP1') if hasattr(im, 'app') else None)\nprint(raw if isinstance(raw, str) else raw.decode('utf8', 'replace'))"; // term-guard: standard (ISO 16684-3, 1.1.5)
      return run('/usr/bin/python3', '-c', code);
    });
    expect(descriptionIn(shown.slice(shown.indexOf('<x:xmpmeta'), shown.indexOf('</x:xmpmeta>') + 12))).toEqual(SAID);
  });

  test('keeps pages fit for keeping', async () => {
    const { bytes } = await copyOf(heron, services, 'pdf', { ...INSIDE, version: 'A-2b' });
    expect(await brokenClauses(bytes, 2)).toEqual([]);
  });
});
