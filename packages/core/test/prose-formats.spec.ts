import { strToU8, unzipSync, zipSync } from 'fflate';
import { Tally } from '../src/contracts/tally';
import { xmlTree } from '../src/base/bytes/xml-tree';
import {
  type ProseBlock,
  type ProseBody,
  type ProseSpan,
  type ProseWords,
  plainSpan,
  plainWords,
} from '../src/content/prose/prose';
import { normaliseBlocks } from '../src/content/prose/lists';
import { Numbering } from '../src/formats/docx/numbering';
import { Styles as DocxStyles } from '../src/formats/docx/read-styles';
import { readDocx } from '../src/formats/docx/read';
import { writeDocx } from '../src/formats/docx/write';
import { Styles as OdtStyles } from '../src/formats/odt/read-styles';
import { writeOdt } from '../src/formats/odt/write';
import { withCaptions } from '../src/formats/texts/captions';
import { htmlOfText } from '../src/formats/texts/html-write';
import { lengthInMm } from '../src/formats/texts/lengths';
import { bytesOfData } from '../src/formats/texts/pictures';
import { readTxt } from '../src/formats/txt/read';
import { writeTxt } from '../src/formats/txt/write';

const tree = (xml: string) => xmlTree(strToU8(xml), 'part.xml');
const p = (text: string, rest: Partial<ProseWords> = {}): ProseWords => ({ ...plainWords([plainSpan(text)]), ...rest });
const span = (text: string, rest: Partial<ProseSpan> = {}): ProseSpan => ({ ...plainSpan(text), ...rest });
const body = (...blocks: ProseBlock[]): ProseBody => ({ language: 'en', blocks: normaliseBlocks(blocks), pictures: {} });
const html = (...blocks: ProseBlock[]) =>
  htmlOfText(body(...blocks), { source: (word) => `${word}.png`, prefix: 'x-', epub: false });

describe('lists of DOCX count as the format has it', () => {
  const numbering = () =>
    new Numbering(
      tree(`<w:numbering>
        <w:abstractNum w:abstractNumId="0"><w:lvl w:ilvl="0"><w:start w:val="1"/><w:numFmt w:val="decimal"/></w:lvl><w:lvl w:ilvl="1"><w:start w:val="1"/><w:numFmt w:val="lowerLetter"/></w:lvl></w:abstractNum>
        <w:abstractNum w:abstractNumId="1"><w:lvl w:ilvl="0"><w:numFmt w:val="bullet"/></w:lvl><w:lvl w:ilvl="1"><w:numFmt w:val="none"/></w:lvl></w:abstractNum>
        <w:num w:numId="1"><w:abstractNumId w:val="0"/></w:num>
        <w:num w:numId="2"><w:abstractNumId w:val="0"/><w:lvlOverride w:ilvl="0"><w:startOverride w:val="7"/></w:lvlOverride></w:num>
        <w:num w:numId="3"><w:abstractNumId w:val="1"/></w:num></w:numbering>`),
    );
  it('one list counts on, a deeper one begins anew, one that says so begins where it says', () => {
    const one = numbering();
    const next = (id: string, level: number) => one.next(id, level)?.number;
    expect([next('1', 0), next('1', 1), next('1', 1), next('1', 0), next('1', 1)]).toEqual([1, 1, 2, 2, 1]);
    expect([next('2', 0), next('2', 0), next('1', 0)]).toEqual([7, 8, 9]);
  });
  it('signs, items without one, letters, and lists that are not there', () => {
    const one = numbering();
    expect(one.next('3', 0)).toMatchObject({ role: 'bullet', number: null });
    expect(one.next('3', 1)).toMatchObject({ role: 'continued', number: null });
    expect(one.next('1', 1)).toMatchObject({ role: 'numbered', plain: false });
    expect(one.next('9', 0)).toBeNull();
  });
});

describe('styles are followed to where they come from', () => {
  const tally = new Tally();
  const docx = new DocxStyles(
    tree(`<w:styles><w:docDefaults><w:rPrDefault><w:rPr><w:lang w:val="de-AT"/></w:rPr></w:rPrDefault></w:docDefaults>
      <w:style w:type="paragraph" w:default="1" w:styleId="N"><w:name w:val="Normal"/></w:style>
      <w:style w:type="paragraph" w:styleId="H"><w:name w:val="heading 2"/><w:basedOn w:val="N"/><w:rPr><w:b/></w:rPr></w:style>
      <w:style w:type="paragraph" w:styleId="Mine"><w:name w:val="My own"/><w:basedOn w:val="H"/></w:style>
      <w:style w:type="paragraph" w:styleId="Loud"><w:name w:val="Loud"/><w:pPr><w:jc w:val="center"/><w:outlineLvl w:val="9"/></w:pPr><w:rPr><w:b/><w:i w:val="0"/></w:rPr></w:style>
      <w:style w:type="character" w:styleId="Em"><w:name w:val="Emphasis"/><w:rPr><w:i/></w:rPr></w:style></w:styles>`),
    tally,
  );
  const paragraph = (xml: string) => docx.paragraph(tree(`<w:pPr>${xml}</w:pPr>`));
  const marks = (xml: string, runs: readonly ReturnType<typeof tree>[] = []) =>
    docx.marks(tree(`<w:rPr>${xml}</w:rPr>`), runs).marks;
  it('DOCX: headings by name, by style and by outline; emphasis by run, style and paragraph', () => {
    expect(docx.language).toBe('de-AT');
    expect(paragraph('<w:pStyle w:val="H"/>')).toMatchObject({ heading: 2, runs: [] });
    expect(paragraph('<w:pStyle w:val="Mine"/>').heading).toBe(2);
    expect(paragraph('<w:outlineLvl w:val="3"/>').heading).toBe(4);
    const loud = paragraph('<w:pStyle w:val="Loud"/>');
    expect(loud).toMatchObject({ heading: 0, align: 'centre' });
    expect(marks('', loud.runs)).toEqual(['bold']);
    expect(marks('<w:b w:val="false"/>', loud.runs)).toEqual([]);
    expect(marks('<w:rStyle w:val="Em"/>', loud.runs)).toEqual(['bold', 'italic']);
    expect(marks('<w:u w:val="none"/><w:vertAlign w:val="subscript"/><w:dstrike/>')).toEqual(['struck', 'lowered']);
  });

  it('ODT: automatic styles from named ones, what is not read is told', () => {
    const told = new Tally();
    const styles = new OdtStyles(
      [
        tree(`<d><style:font-face-decls/><styles>
          <style:default-style style:family="paragraph"><style:text-properties fo:language="pt" fo:country="BR"/></style:default-style>
          <style:style style:name="Base" style:family="paragraph"><style:paragraph-properties fo:text-align="end"/></style:style>
          <style:style style:name="Strong" style:family="text"><style:text-properties fo:font-weight="700"/></style:style></styles>
          <automatic-styles><style:style style:name="P1" style:family="paragraph" style:parent-style-name="Base"><style:paragraph-properties fo:break-before="page"/><style:text-properties fo:font-style="oblique"/></style:style>
          <style:style style:name="T1" style:family="text" style:parent-style-name="Strong"><style:text-properties fo:font-weight="normal" style:text-position="33% 58%" fo:color="#ff0000"/></style:style>
          <text:list-style style:name="L"><text:list-level-style-number text:level="1" style:num-format="1" text:start-value="3"/><text:list-level-style-bullet text:level="2"/></text:list-style></automatic-styles></d>`),
      ],
      told,
    );
    expect(styles.language).toBe('pt-BR');
    expect(styles.paragraph('P1')).toMatchObject({ align: 'right', breakBefore: true, marks: ['italic'] });
    expect(styles.span('T1').marks).toEqual([
      ['bold', false],
      ['raised', true],
      ['lowered', false],
    ]);
    expect([styles.listLevel('L', 0), styles.listLevel('L', 1).numbered]).toEqual([
      { numbered: true, start: 3, format: '1', odd: null },
      false,
    ]);
    expect(told.list().map(({ kind }) => kind)).toEqual(['look of words: color']);
  });
});

describe('parts of formats', () => {
  it('captions go to what they belong to', () => {
    const [above, below] = [p('Of the table'), p('Of the picture')];
    const picture: ProseBlock = { block: 'picture', picture: 'w', alt: '', width: 1, caption: [], source: '' };
    const table: ProseBlock = { block: 'table', head: false, caption: [], grid: [[[]]], source: '' };
    const captions = new Map([
      [above, 'table'],
      [below, 'any'],
    ] as const) as never;
    expect(withCaptions([picture, below, above, table], captions)).toMatchObject([
      { caption: below.spans },
      { caption: above.spans },
    ]);
    expect(withCaptions([picture, above, table], captions)).toMatchObject([{ caption: [] }, { caption: above.spans }]);
    expect(withCaptions([table, below], captions)).toMatchObject([{ caption: below.spans }]);
    expect(withCaptions([below], captions)).toEqual([below]);
  });

  it.each([
    ['10mm', 10],
    ['1in', 25.4],
    ['72pt', 25.4],
    ['96px', 25.4],
    ['96', 25.4],
    ['2.5 cm', 25],
    ['6pc', 25.4],
    ['50%', 0],
    ['wide', 0],
    [undefined, 0],
  ])('%s is a length', (text, mm) => expect(lengthInMm(text)).toBeCloseTo(mm, 6));

  it('pictures in addresses', () => {
    expect([...bytesOfData('data:image/png;base64,AQID')!]).toEqual([1, 2, 3]);
    expect(bytesOfData('https://elsewhere.example/x.png')).toBeNull();
    expect(bytesOfData('data:image/png;base64,%%%')).toBeNull();
    expect(bytesOfData('data:text/html;base64,AQID')).toBeNull();
  });

  it('plain text is broken at blanks and put together again', () => {
    const text = body(p('one two three four five six seven eight nine ten eleven twelve'), p('next'));
    const broken = new TextDecoder().decode(writeTxt(text, { lines: 'broken', width: 30, ends: 'LF', bom: false }));
    for (const line of broken.split('\n')) expect(line.length).toBeLessThanOrEqual(30);
    expect(readTxt(broken, true)).toEqual(
      readTxt(new TextDecoder().decode(writeTxt(text, { lines: 'one a paragraph', width: 72, ends: 'CR LF', bom: true })), false),
    );
    expect(readTxt('\u2028a\u2029b\fc', false).length).toBe(3);
  });
});

describe('HTML of texts', () => {
  it('lists nest as their items are deep, and go on where they should', () => {
    const item = (text: string, level: number, rest: Partial<ProseWords> = {}) => p(text, { role: 'bullet', level, ...rest });
    expect(html(item('a', 0), item('b', 1), item('c', 0)).replace(/\n/g, '')).toBe(
      '<ul><li>a<ul><li>b</li></ul></li><li>c</li></ul>',
    );
    const numbered = (text: string, start: number | null = null) => p(text, { role: 'numbered', start });
    expect(html(numbered('a', 4), numbered('b'), numbered('c', 1)).replace(/\n/g, '')).toBe(
      '<ol start="4"><li>a</li><li>b</li></ol><ol><li>c</li></ol>',
    );
    expect(html(item('a', 0), p('more', { role: 'continued' })).replace(/\n/g, '')).toBe('<ul><li><p>a</p><p>more</p></li></ul>');
  });

  it('emphasis nests in one order, quotations in a row are one, notes lead there and back', () => {
    expect(html({ ...p(''), spans: [span('x', { marks: ['bold', 'italic'], link: 'u' })] })).toBe(
      '<p><a href="u"><strong><em>x</em></strong></a></p>',
    );
    expect(html(p('a', { role: 'quote' }), p('b', { role: 'quote' }))).toBe('<blockquote><p>a</p>\n<p>b</p></blockquote>');
    const noted = html({ ...p(''), spans: [span('x'), span('', { note: [span('why')] })] });
    expect(noted).toContain('id="x-ref-1" href="#x-note-1"');
    expect(noted).toContain('<li id="x-note-1">why <a role="doc-backlink" href="#x-ref-1">↩</a></li>');
  });

  it('what looks like markup is words, everywhere', () => {
    const evil = '"><script>&';
    const all = html(
      p(evil),
      { block: 'picture', picture: evil, alt: evil, width: 10, caption: [span(evil)], source: '' },
      { ...p(''), spans: [span('x', { link: evil })] },
    );
    expect(all).not.toContain('<script>');
  });
});

describe('packages of texts', () => {
  const text = body(
    p('Heading', { role: 'heading 1' }),
    p('Words'),
    p('one', { role: 'numbered', start: 3 }),
    p('two', { role: 'numbered' }),
  );
  it('ODT begins with what it is, unpacked, and names all its parts', () => {
    const bytes = writeOdt('Name', text, { version: '1.3', paper: 'A4' }, 'mark');
    expect(new TextDecoder().decode(bytes.subarray(30, 38))).toBe('mimetype');
    expect(new TextDecoder().decode(bytes.subarray(38, 38 + 39))).toBe('application/vnd.oasis.opendocument.text');
    const parts = unzipSync(bytes);
    const manifest = new TextDecoder().decode(parts['META-INF/manifest.xml']);
    for (const name of Object.keys(parts)) if (!/^(mimetype|META-INF)/.test(name)) expect(manifest).toContain(`"${name}"`);
  });

  it('DOCX: every part has a kind, every relation leads somewhere, lists that begin elsewhere say so', async () => {
    const bytes = writeDocx('Name', text, { paper: 'A4' }, 'mark');
    const parts = unzipSync(bytes);
    const decode = (name: string) => new TextDecoder().decode(parts[name]);
    const types = decode('[Content_Types].xml');
    for (const name of Object.keys(parts))
      if (/^(word|docProps)\/[^/]*\.xml$/.test(name)) expect(types).toContain(`PartName="/${name}"`);
    for (const [, target] of decode('word/_rels/document.xml.rels').matchAll(/Target="([^"]+)"(?! TargetMode)/g))
      expect(parts[`word/${target}`]).toBeDefined();
    expect(decode('word/numbering.xml')).toContain('<w:startOverride w:val="3"/>');
    const back = await readDocx(bytes, {});
    expect(back.body.blocks.map((block) => (block.block === 'words' ? [block.role, block.start] : []))).toEqual([
      ['heading 1', null],
      ['body', null],
      ['numbered', 3],
      ['numbered', null],
    ]);
    // Relations may be written from the root of the package, too.
    const rooted = decode('word/_rels/document.xml.rels').replace(/Target="(styles|numbering|footnotes)/g, 'Target="/word/$1');
    const again = await readDocx(zipSync({ ...parts, 'word/_rels/document.xml.rels': strToU8(rooted) }), {});
    expect(again.body.blocks).toEqual(back.body.blocks);
  });
});
