import { bringInAny } from '../src';
import { packEntries } from '../src/document/native/zip';
import { services } from './flat';
import { judgedBy } from './judged-by';
import { python } from './python';

const bytes = (text: string) => new TextEncoder().encode(text);
const W = 'http://schemas.openxmlformats.org/wordprocessingml/2006/main';
const M = 'http://schemas.openxmlformats.org/officeDocument/2006/math';
const docx = (body: string, more: Readonly<Record<string, string>> = {}) =>
  packEntries(
    new Map(
      Object.entries({
        '[Content_Types].xml': '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"/>',
        '_rels/.rels':
          '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="a" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>',
        'word/document.xml': `<w:document xmlns:w="${W}" xmlns:m="${M}"><w:body>${body}</w:body></w:document>`,
        ...more,
      }).map(([name, text]) => [name, bytes(text)]),
    ),
    new Set(),
  );

interface Line {
  block: string;
  role?: string;
  level?: number;
  of?: string;
  spans?: { text: string; marks?: string[] }[];
  grid?: { text: string }[][][];
}
async function brought(file: Uint8Array, name: string) {
  const { master, notUnderstood } = await bringInAny(file, name, services);
  const lines = (master.texts![0]!.blocks as Line[]).map(({ block, role, level, of, spans, grid }) =>
    block === 'words'
      ? `${role}${level ? ` ${level}` : ''}: ${spans!.map(({ text, marks }) => (marks ? `${text}{${marks.join()}}` : text)).join('')}`
      : block === 'table'
        ? `table: ${grid!.map((row) => row.map((cell) => cell.map(({ text }) => text).join('')).join(' / ')).join('; ')}`
        : `${block}: ${of ?? ''}`,
  );
  return { lines, told: notUnderstood.map(({ kind }) => kind) };
}

describe('a text of another writer (DOCX)', () => {
  const p = (inner: string, properties = '') => `<w:p>${properties && `<w:pPr>${properties}</w:pPr>`}${inner}</w:p>`;
  const r = (text: string) => `<w:r><w:t xml:space="preserve">${text}</w:t></w:r>`;

  it('ends its page where it says so, in the middle of a paragraph too', async () => {
    const { lines, told } = await brought(docx(p(`${r('before')}<w:r><w:br w:type="page"/><w:t>after</w:t></w:r>`)), 'a.docx');
    expect([lines, told]).toEqual([['body: before', 'break: page', 'body: after'], []]);
  });

  it('keeps equations as words, with what stands above and below the line', async () => {
    const run = (text: string) => `<m:r><m:t>${text}</m:t></m:r>`;
    const power = `<m:sSup><m:e>${run('a')}</m:e><m:sup>${run('2')}</m:sup></m:sSup>`;
    const share = `<m:f><m:fPr/><m:num>${run('x+1')}</m:num><m:den>${run('y')}</m:den></m:f>`;
    const sum = `<m:nary><m:naryPr><m:chr m:val="∑"/></m:naryPr><m:sub>${run('i')}</m:sub><m:sup>${run('n')}</m:sup><m:e>${run('i')}</m:e></m:nary>`;
    const root = `<m:rad><m:radPr/><m:deg/><m:e>${run('a+b')}</m:e></m:rad>`;
    const { lines, told } = await brought(
      docx(p(`${r('so ')}<m:oMath>${power}${run('=')}${share}${sum}${root}</m:oMath>`)),
      'a.docx',
    );
    expect(lines).toEqual(['body: so a2{raised}=(x+1)/y∑i{lowered}n{raised} i√(a+b)']);
    expect(told).toEqual(['equation, as a line of words']);
  });

  it('puts boxes of words after their paragraph, and lines from side to side where they stand', async () => {
    const box = `<w:r><w:pict><w:txbxContent>${p(r('in the box'))}</w:txbxContent></w:pict></w:r>`;
    const rule = '<w:r><w:pict><rect hr="t"/></w:pict></w:r>';
    const { lines, told } = await brought(docx(p(`${r('words')}${box}`) + p(rule) + p(r('more'))), 'a.docx');
    expect([lines, told]).toEqual([
      ['body: words', 'body: in the box', 'break: line', 'body: more'],
      ['box of words, after its paragraph'],
    ]);
  });

  it('keeps the blanks of code, and goes on with an item where its list has no sign', async () => {
    const numbering = `<w:numbering xmlns:w="${W}"><w:abstractNum w:abstractNumId="1"><w:lvl w:ilvl="0"><w:numFmt w:val="decimal"/><w:lvlText w:val="%1."/></w:lvl></w:abstractNum><w:abstractNum w:abstractNumId="2"><w:lvl w:ilvl="0"><w:numFmt w:val="bullet"/><w:lvlText w:val=" "/></w:lvl></w:abstractNum><w:num w:numId="1"><w:abstractNumId w:val="1"/></w:num><w:num w:numId="2"><w:abstractNumId w:val="2"/></w:num></w:numbering>`;
    const item = (list: number) => `<w:numPr><w:ilvl w:val="0"/><w:numId w:val="${list}"/></w:numPr>`;
    const code = '<w:r><w:rPr><w:rFonts w:ascii="Courier New"/></w:rPr><w:t xml:space="preserve">if x:    y</w:t></w:r>';
    const { lines } = await brought(
      docx(p(r('first'), item(1)) + p(r('of the first'), item(2)) + p(r('second'), item(1)) + p(code), {
        'word/numbering.xml': numbering,
        'word/_rels/document.xml.rels':
          '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="n" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/numbering" Target="numbering.xml"/></Relationships>',
      }),
      'a.docx',
    );
    expect(lines).toEqual([
      'numbered: first',
      'continued: of the first',
      'numbered: second',
      'body: if x:\u00a0\u00a0\u00a0\u00a0y{code}',
    ]);
  });

  judgedBy('docx').it('written by another library: styles of lists and quotations, tables in cells', async () => {
    const { written } = python(
      `import docx
d = docx.Document()
for style in ('List Bullet', 'List Bullet 2', 'List Number', 'List Number 2', 'List Continue', 'Intense Quote', 'Quote'):
    d.add_paragraph(style, style=style)
t = d.add_table(1, 2)
t.cell(0, 1).text = 'beside'
inner = t.cell(0, 0).add_table(2, 2)
for i in range(4):
    inner.cell(i // 2, i % 2).text = 'abcd'[i]
d.save('a.docx')`,
      new Uint8Array(),
      'a.docx',
    );
    const { lines, told } = await brought(written, 'a.docx');
    expect(lines).toEqual([
      'bullet: List Bullet',
      'bullet 1: List Bullet 2',
      'numbered: List Number',
      'numbered 1: List Number 2',
      'continued: List Continue',
      'quote: Intense Quote',
      'quote: Quote',
      'table: a | b\nc | d / beside',
    ]);
    expect(told).toContain('table in a cell, as lines of words');
  });
});

describe('a page with equations and code (HTML)', () => {
  it('keeps both', async () => {
    const page =
      '<!doctype html><p>so <math><msup><mi>a</mi><mn>2</mn></msup><mo>=</mo><mfrac><mrow><mi>x</mi><mo>+</mo><mn>1</mn></mrow><mi>y</mi></mfrac><annotation>no</annotation></math></p><pre>if x:\n    y</pre>';
    const { lines, told } = await brought(bytes(page), 'a.html');
    expect(lines).toEqual(['body: so a2{raised}=(x+1)/y', 'body: if x:\n\u00a0\u00a0\u00a0\u00a0y{code}']);
    expect(told).toEqual(['equation, as a line of words']);
  });
});

describe('a plain text that was broken by its width', () => {
  it('is joined where the next word had no room; items and short lines stay lines; that is said to be a guess', async () => {
    const text = [
      'A note on the bench',
      'Ines Okafor',
      '',
      'This paragraph was broken by a program after some sixty',
      'letters, as many of them do, and goes on for three lines',
      'until it ends.',
      '',
      'It takes:',
      '- two boards of oak that are each as long as the bench is,',
      '  planed on all sides',
      '- glue',
      '',
      'The end of the text.',
    ].join('\n');
    const { lines, told } = await brought(bytes(text), 'a.txt');
    expect(lines).toEqual([
      'body: A note on the bench',
      'body: Ines Okafor',
      'body: This paragraph was broken by a program after some sixty letters, as many of them do, and goes on for three lines until it ends.',
      'body: It takes:',
      'body: - two boards of oak that are each as long as the bench is, planed on all sides',
      'body: - glue',
      'body: The end of the text.',
    ]);
    expect(told).toEqual(['lines joined to paragraphs, a guess']);
  });
});
