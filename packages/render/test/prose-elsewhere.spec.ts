import { strToU8, zipSync } from 'fflate';
import { type Block, addFormats, bringInAny, canBe, declarationOf, derive, partWishes, recipeOf } from '@inkwell-twin/core';
import { python } from '../../core/test/python';
import { nodeFormats } from '../src';
import { services, time } from './prose';
import { judgedBy } from '../../core/test/judged-by';

addFormats(nodeFormats);
const bring = (bytes: Uint8Array, name: string) => bringInAny(bytes, name, services, partWishes());
/** A block as one line: what it is, how deep, and its words with their marks. */
const line = (block: Block): string => {
  if (block.block === 'break') return `-- ${block.of}`;
  if (block.block === 'picture') return `[${block.alt}, ${Math.round(block.width)} mm]`;
  const said = (spans: Extract<Block, { block: 'words' }>['spans']): string =>
    spans
      .map((span) =>
        'note' in span
          ? `^(${said(span.note)})`
          : `${span.marks ? `<${span.marks.join(' ')}>` : ''}${span.text}${span.link ? `(${span.link})` : ''}${span.marks ? '</>' : ''}`,
      )
      .join('');
  if (block.block === 'table')
    return `${said(block.caption)}${block.head ? '#' : ''}| ${block.grid.map((row) => row.map(said).join(' | ')).join(' / ')}`;
  return `${block.role}${block.level ? ` ${block.level}` : ''}${block.start === undefined ? '' : ` from ${block.start}`}${block.align ? ` ${block.align}` : ''}: ${said(block.spans)}`;
};
const lines = async (bytes: Uint8Array, name: string) => {
  const { master, notUnderstood, kept } = await bring(bytes, name);
  const text = master.texts![0]!;
  // What came in can be handed out again, and is true.
  const own = new Map(kept.map(({ resource, bytes: file }) => [resource.id, file]));
  const again = { ...services, resource: (sha: string) => own.get(sha)! };
  for (const target of ['html', 'odt', 'docx'])
    expect((await derive({ master, rev: 1, time }, recipeOf(target, {}, { of: 'texts', ids: [] }), again)).defects).toEqual([]);
  return { text, lines: text.blocks.map(line), told: notUnderstood.map(({ kind }) => kind) };
};

judgedBy('docx').describe('documents of python-docx come in', () => {
  it('with headings, lists, tables, pictures, breaks and looks', async () => {
    const { written } = python(
      `import docx, io
from docx.shared import Mm, Pt, RGBColor
from docx.enum.text import WD_ALIGN_PARAGRAPH, WD_BREAK
from PIL import Image
d = docx.Document()
d.core_properties.title = 'From elsewhere'
d.add_heading('The fen', 0)
d.add_heading('Birds', 1)
p = d.add_paragraph('Herons are ')
p.add_run('seldom').bold = True
p.add_run(' seen ')
r = p.add_run('at noon'); r.italic = True; r.underline = True
p.add_run(', H'); x = p.add_run('2'); x.font.subscript = True; p.add_run('O')
p.add_run().add_break()
p.add_run('next line')
d.add_paragraph('boots', style='List Bullet')
d.add_paragraph('lamp', style='List Bullet')
d.add_paragraph('cells', style='List Bullet 2')
d.add_paragraph('first', style='List Number')
d.add_paragraph('second', style='List Number')
d.add_paragraph('Slowly.', style='Quote')
c = d.add_paragraph('in the middle'); c.alignment = WD_ALIGN_PARAGRAPH.CENTER
t = d.add_table(rows=2, cols=2); t.cell(0, 0).text = 'Day'; t.cell(0, 1).text = 'Hours'; t.cell(1, 0).text = 'Monday'
b = io.BytesIO(); Image.new('RGB', (60, 40), (9, 90, 60)).save(b, 'PNG'); b.seek(0)
d.add_picture(b, width=Mm(45))
d.add_page_break()
q = d.add_paragraph(); w = q.add_run('red words'); w.font.color.rgb = RGBColor(200, 0, 0)
d.save('a.docx')`,
      undefined,
      'a.docx',
    );
    const { text, lines: got, told } = await lines(written, 'letter.docx');
    expect(text.name).toBe('From elsewhere');
    expect(got).toEqual([
      expect.stringContaining(': The fen'),
      'heading 1: Birds',
      'body: Herons are <bold>seldom</> seen <italic underlined>at noon</>, H<lowered>2</>O\nnext line',
      'bullet: boots',
      'bullet: lamp',
      expect.stringMatching(/^bullet( 1)?: cells$/),
      'numbered: first',
      'numbered: second',
      'quote: Slowly.',
      'body centre: in the middle',
      '| Day | Hours / Monday | ',
      '[, 45 mm]',
      '-- page',
      'body: red words',
    ]);
    expect(told).toEqual(expect.arrayContaining(['look of words: color']));
  });
});

judgedBy('odf').describe('documents of odfpy come in', () => {
  it('with styles of their own, lists in lists, notes, cells that are repeated', async () => {
    const { written } = python(
      `from odf.opendocument import OpenDocumentText
from odf.style import Style, TextProperties, ParagraphProperties
from odf.text import H, P, Span, List, ListItem, Note, NoteCitation, NoteBody, A, LineBreak, S
from odf.table import Table, TableRow, TableCell, TableHeaderRows, TableColumn
from odf import dc
d = OpenDocumentText()
d.meta.addElement(dc.Title(text='Aus dem Moor'))
s = Style(name='Strong', family='text'); s.addElement(TextProperties(fontweight='bold')); d.styles.addElement(s)
r = Style(name='R', family='paragraph'); r.addElement(ParagraphProperties(textalign='end')); d.automaticstyles.addElement(r)
n = Style(name='N', family='paragraph'); n.addElement(ParagraphProperties(breakbefore='page')); d.automaticstyles.addElement(n)
h = Style(name='Hid', family='text'); h.addElement(TextProperties(display='none')); d.automaticstyles.addElement(h)
d.text.addElement(H(outlinelevel=2, text='Vogel'))
p = P(text='Ein ')
p.addElement(Span(stylename=s, text='Reiher'))
note = Note(noteclass='footnote'); note.addElement(NoteCitation(text='1')); body = NoteBody(); body.addElement(P(text='gesehen')); note.addElement(body)
p.addElement(note); p.addText(' am '); p.addElement(A(href='https://moor.example', text='Wasser')); p.addElement(LineBreak()); p.addText('unten'); p.addElement(S(c=3)); p.addText('rechts')
d.text.addElement(p)
l = List()
i = ListItem(); i.addElement(P(text='eins')); inner = List(); j = ListItem(); j.addElement(P(text='innen')); inner.addElement(j); i.addElement(inner); l.addElement(i)
k = ListItem(); k.addElement(P(text='zwei')); k.addElement(P(text='weiter')); l.addElement(k)
d.text.addElement(l)
t = Table(); t.addElement(TableColumn(numbercolumnsrepeated=3))
hr = TableHeaderRows(); row = TableRow()
for words in ('Tag', 'Von', 'Bis'):
    c = TableCell(); c.addElement(P(text=words)); row.addElement(c)
hr.addElement(row); t.addElement(hr)
row = TableRow(); c = TableCell(); c.addElement(P(text='Mo')); row.addElement(c)
c = TableCell(numbercolumnsrepeated=2); c.addElement(P(text='zu')); row.addElement(c); t.addElement(row)
d.text.addElement(t)
d.text.addElement(P(stylename=n, text='Neue Seite'))
q = P(stylename=r, text='rechts '); q.addElement(Span(stylename=h, text='verborgen')); d.text.addElement(q)
d.save('a.odt')`,
      undefined,
      'a.odt',
    );
    const { text, lines: got, told } = await lines(written, 'moor.odt');
    expect(text.name).toBe('Aus dem Moor');
    expect(got).toEqual([
      'heading 2: Vogel',
      'body: Ein <bold>Reiher</>^(gesehen) am Wasser(https://moor.example)\nunten rechts',
      'bullet: eins',
      'bullet 1: innen',
      'bullet: zwei',
      'continued: weiter',
      '#| Tag | Von | Bis / Mo | zu | zu',
      '-- page',
      'body: Neue Seite',
      'body right: rechts',
    ]);
    expect(told).toEqual(['hidden words']);
  });
});

describe('pages and books that others wrote come in', () => {
  it('a page as a person would write it by hand', async () => {
    const page = `<html><body>
      <center>Middle</center> loose words <p>One<p>Two <font color=red>red</font>
      <ol type=a><li>letters<li value=5>five</ol><ul><li><b>bold</b> item<br>second line</ul>
      <blockquote>Plain <q>quoted</q></blockquote><hr><h6>Small</h6>
      <figure><img src="data:image/png;base64,AAAA" alt="broken"><figcaption>Under it</figcaption></figure>
      <table><caption>Hours</caption><tr><td>a<td>b<tr><td>c</table><svg></svg></body></html>`;
    const { lines: got, told } = await lines(strToU8(page), 'hand.html');
    expect(got).toEqual([
      'body centre: Middle',
      'body: loose words',
      'body: One',
      'body: Two red',
      'numbered: letters',
      'numbered from 5: five',
      'bullet: <bold>bold</> item\nsecond line',
      'quote: Plain “quoted”',
      '-- line',
      'heading 6: Small',
      'Hours| a | b / c | ',
    ]);
    expect(told.sort()).toEqual(['attribute color', 'font', 'letters as numbers', 'picture that is not in it', 'svg'].sort());
  });

  it('a book of two documents with a picture and notes of its own kind', async () => {
    const page = (title: string, inner: string) =>
      strToU8(
        `<?xml version="1.0"?><html xmlns="http://www.w3.org/1999/xhtml" xmlns:epub="http://www.idpf.org/2007/ops" xml:lang="fr"><head><title>${title}</title></head><body>${inner}</body></html>`,
      );
    const png = await services.pictures!.png({ width: 4, height: 2, data: new Uint8Array(32).fill(200) });
    const book = zipSync({
      mimetype: strToU8('application/epub+zip'),
      'META-INF/container.xml': strToU8('<container><rootfiles><rootfile full-path="OPS/book.opf"/></rootfiles></container>'),
      'OPS/book.opf': strToU8(
        '<package xmlns="http://www.idpf.org/2007/opf"><metadata/><manifest><item id="n" href="nav.xhtml" properties="nav"/><item id="a" href="text/one.xhtml"/><item id="b" href="text/two%20b.xhtml"/></manifest><spine><itemref idref="n"/><itemref idref="a"/><itemref idref="b"/></spine></package>',
      ),
      'OPS/nav.xhtml': page('Contents', '<nav/>'),
      'OPS/text/one.xhtml': page(
        'Un',
        '<section><h1>Un</h1><p>Mot<a epub:type="noteref" href="#n1">1</a>.</p><a id="here"/><p>Fin</p><aside epub:type="footnote" id="n1"><p>La note</p></aside></section>',
      ),
      'OPS/text/two b.xhtml': page('Deux', '<p><img src="../img/x.png" alt="Gris" width="20"/></p>'),
      'OPS/img/x.png': png,
    });
    const { master, notUnderstood } = await bring(book, 'livre.epub');
    expect(master.texts!.map(({ name, language, blocks }) => [name, language, blocks.map(line)])).toEqual([
      ['Un', 'fr', ['heading 1: Un', 'body: Mot^(La note).', 'body: Fin']],
      ['Deux', 'fr', ['[Gris, 5 mm]']],
    ]);
    expect(notUnderstood).toEqual([]);
  });

  it('a text whose lines somebody broke is put together again', async () => {
    const text =
      'A first paragraph that was broken by hand\nat forty letters or so, as mail does it,\nand goes on.\n\nA second one.\n';
    const { lines: got } = await lines(strToU8(text), 'mail.txt');
    expect(got).toEqual([
      'body: A first paragraph that was broken by hand at forty letters or so, as mail does it, and goes on.',
      'body: A second one.',
    ]);
    // Verses stay verses.
    const { lines: verses } = await lines(strToU8('Reed\nand water\n\nand light\n'), 'verse.txt');
    expect(verses).toEqual(['body: Reed', 'body: and water', 'body: and light']);
  });

  it('cells that look like a text, and a text that looks like cells, are told apart', () => {
    const recognised = (text: string) => canBe(declarationOf('txt'), strToU8(text));
    expect(recognised('Well, here we are.\nWell, there we go.\nAnd so on, it ends.\n')).toBe(true);
    const csv = declarationOf('csv');
    expect(canBe(csv, strToU8('Well, here we are.\nWell, there we go.\nAnd so on, it ends.\n'))).toBe(false);
    expect(canBe(csv, strToU8('a,b\n1,2\n3,4\n'))).toBe(true);
    expect(recognised('\u0000\u0001\u0002')).toBe(false);
  });
});
