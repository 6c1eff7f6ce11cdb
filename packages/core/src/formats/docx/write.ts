import { plainXml } from '../../base/bytes/xml-text';
import { ListCounter, isItem } from '../../evaluate/texts/lists';
import type { ProseBlock, ProseBody, ProsePicture, ProseSpan, ProseTable, ProseWords } from '../../content/prose/prose';
import { parseMark } from '../../contracts/mark';
import { packEntries } from '../../document/native/zip';
import type { Options } from '../../contracts/declaration';
import { PAPER } from '../texts/paper';
import { CUSTOM_PART, DOCUMENT, type Relation, XML, contentTypes, coreProperties, customProperties, relationsXml } from '../opc';
import { endingOf } from '../texts/pictures';
import { EMPHASIS, MAIN, type NumberedList, numberingXml, styleOf, stylesXml } from './styles';

const WORD = 'application/vnd.openxmlformats-officedocument.wordprocessingml';
const DRAWING = 'http://schemas.openxmlformats.org/drawingml/2006';
/** English metric units of a millimetre (ECMA-376-1, 20.1.2.1). */
const EMU = 36_000;
const ALIGN = { left: '', centre: 'center', right: 'right', justified: 'both' } as const;
/** Twentieths of a point of a millimetre. */
const twips = (mm: number): number => Math.round((mm / 25.4) * 1440);

class PackageParts {
  readonly relations: Relation[] = [
    { id: 'rId1', type: 'styles', target: 'styles.xml' },
    { id: 'rId2', type: 'numbering', target: 'numbering.xml' },
    { id: 'rId3', type: 'footnotes', target: 'footnotes.xml' },
  ];
  readonly noteRelations: Relation[] = [];
  readonly notes: string[] = [];
  readonly lists: NumberedList[] = [];
  readonly media = new Map<string, string>();
  private readonly links = new Map<string, string>();
  private frames = 0;

  constructor(
    private readonly body: ProseBody,
    private readonly column: number,
  ) {}

  private link(target: string, into: Relation[]): string {
    const key = `${into === this.relations ? '' : 'note '}${target}`;
    let id = this.links.get(key);
    if (!id) {
      this.links.set(key, (id = `rId${into.length + 1}`));
      into.push({ id, type: 'hyperlink', target, external: true });
    }
    return id;
  }

  private run({ text, marks }: ProseSpan): string {
    const look = EMPHASIS.filter(([mark]) => marks.includes(mark))
      .map(([, xml]) => xml)
      .join('');
    const inner = text
      .split('\n')
      .map((line) => (line ? `<w:t xml:space="preserve">${plainXml(line)}</w:t>` : ''))
      .join('<w:br/>');
    return `<w:r>${look ? `<w:rPr>${look}</w:rPr>` : ''}${inner}</w:r>`;
  }

  private spans(spans: readonly ProseSpan[], relations = this.relations): string {
    return spans
      .map((span) => {
        if (span.note) {
          const id = this.notes.length + 1;
          this.notes.push('');
          this.notes[id - 1] =
            `<w:footnote w:id="${id}"><w:p><w:pPr><w:pStyle w:val="FootnoteText"/></w:pPr><w:r><w:rPr><w:rStyle w:val="FootnoteReference"/></w:rPr><w:footnoteRef/></w:r><w:r><w:t xml:space="preserve"> </w:t></w:r>${this.spans(span.note, this.noteRelations)}</w:p></w:footnote>`;
          return `<w:r><w:rPr><w:rStyle w:val="FootnoteReference"/></w:rPr><w:footnoteReference w:id="${id}"/></w:r>`;
        }
        const run = this.run(span);
        if (!span.link) return run;
        return span.link.startsWith('#')
          ? `<w:hyperlink w:anchor="${plainXml(span.link.slice(1))}">${run}</w:hyperlink>`
          : `<w:hyperlink r:id="${this.link(span.link, relations)}">${run}</w:hyperlink>`;
      })
      .join('');
  }

  private paragraph(style: string | null, spans: string, own = '', align: ProseWords['align'] = 'left'): string {
    const inner = `${style ? `<w:pStyle w:val="${style}"/>` : ''}${own}${align === 'left' ? '' : `<w:jc w:val="${ALIGN[align]}"/>`}`;
    return `<w:p>${inner ? `<w:pPr>${inner}</w:pPr>` : ''}${spans}</w:p>`;
  }

  private words(block: ProseWords, numbering: string): string {
    return this.paragraph(styleOf(block.role, block.level), this.spans(block.spans), numbering, block.align);
  }

  private table({ head, caption, grid }: ProseTable): string {
    const columns = grid[0]!.length;
    const each = Math.floor(twips(this.column) / columns);
    const border = (side: string) => `<w:${side} w:val="single" w:sz="4" w:space="0" w:color="808080"/>`;
    const row = (cells: ProseTable['grid'][number], isHead: boolean) =>
      `<w:tr>${isHead ? '<w:trPr><w:tblHeader/></w:trPr>' : ''}${cells
        .map(
          (cell) =>
            `<w:tc><w:tcPr><w:tcW w:w="${each}" w:type="dxa"/></w:tcPr>${this.paragraph(isHead ? 'CellHeading' : 'Cell', this.spans(cell))}</w:tc>`,
        )
        .join('')}</w:tr>`;
    const look = `<w:tblPr><w:tblW w:w="${each * columns}" w:type="dxa"/><w:tblBorders>${border('top')}${border('bottom')}${border('insideH')}</w:tblBorders></w:tblPr>`;
    return [
      caption.length ? this.paragraph('TableCaption', this.spans(caption)) : '',
      `<w:tbl>${look}<w:tblGrid>${`<w:gridCol w:w="${each}"/>`.repeat(columns)}</w:tblGrid>${grid.map((cells, i) => row(cells, head && i === 0)).join('')}</w:tbl>`,
    ].join('');
  }

  private picture({ picture, alt, width, caption }: ProsePicture): string {
    const shown = this.body.pictures[picture];
    if (!shown) return '';
    let id = this.media.get(picture);
    if (!id) {
      this.media.set(picture, (id = `rId${this.relations.length + 1}`));
      this.relations.push({ id, type: 'image', target: `media/picture-${this.media.size}.${endingOf(shown.mediaType)}` });
    }
    const number = ++this.frames;
    const wide = Math.round((width || 80) * EMU);
    const high = Math.round((wide * shown.height) / shown.width);
    const said = `id="${number}" name="Picture ${number}"${alt ? ` descr="${plainXml(alt)}"` : ''}`;
    const drawing = `<w:r><w:drawing><wp:inline distT="0" distB="0" distL="0" distR="0"><wp:extent cx="${wide}" cy="${high}"/><wp:docPr ${said}/><a:graphic><a:graphicData uri="${DRAWING}/picture"><pic:pic><pic:nvPicPr><pic:cNvPr ${said}/><pic:cNvPicPr/></pic:nvPicPr><pic:blipFill><a:blip r:embed="${id}"/><a:stretch><a:fillRect/></a:stretch></pic:blipFill><pic:spPr><a:xfrm><a:off x="0" y="0"/><a:ext cx="${wide}" cy="${high}"/></a:xfrm><a:prstGeom prst="rect"><a:avLst/></a:prstGeom></pic:spPr></pic:pic></a:graphicData></a:graphic></wp:inline></w:drawing></w:r>`;
    return (
      this.paragraph(null, drawing, caption.length ? '<w:keepNext/>' : '') +
      (caption.length ? this.paragraph('Caption', this.spans(caption)) : '')
    );
  }

  private other(block: Exclude<ProseBlock, ProseWords>): string {
    if (block.block === 'table') return this.table(block);
    if (block.block === 'picture') return this.picture(block);
    return block.of === 'page'
      ? '<w:p><w:r><w:br w:type="page"/></w:r></w:p>'
      : '<w:p><w:pPr><w:pBdr><w:bottom w:val="single" w:sz="4" w:space="1" w:color="000000"/></w:pBdr></w:pPr></w:p>';
  }

  /** All blocks. Every list that begins anew is one of its own. */
  content(): string {
    const counter = new ListCounter();
    const current: (number | undefined)[] = [];
    const out: string[] = [];
    let last: ProseBlock | undefined;
    for (const block of this.body.blocks) {
      // Tables that follow on each other would be one (17.4.37).
      if (block.block === 'table' && last?.block === 'table' && !block.caption.length) out.push('<w:p/>');
      last = block;
      if (block.block !== 'words' || !isItem(block)) {
        counter.end();
        out.push(block.block === 'words' ? this.words(block, '') : this.other(block));
        continue;
      }
      const { role, level, start } = block;
      const would = counter.would(level);
      const number = counter.next(block);
      if (role === 'continued') {
        out.push(this.words(block, ''));
        continue;
      }
      if (number !== null && (start !== null || would === 1 || current[level] === undefined))
        current[level] = this.lists.push({ level, start: number }) + 1;
      out.push(
        this.words(
          block,
          `<w:numPr><w:ilvl w:val="${level}"/><w:numId w:val="${number === null ? 1 : current[level]!}"/></w:numPr>`,
        ),
      );
    }
    return out.join('\n');
  }
}

const ROOT = `xmlns:w="${MAIN}" xmlns:r="${DOCUMENT}/relationships" xmlns:wp="${DRAWING}/wordprocessingDrawing" xmlns:a="${DRAWING}/main" xmlns:pic="${DRAWING}/picture"`;

/** Writes a text as a document of word processors (ECMA-376-1, transitional). The same text gives the same bytes. */
export function writeDocx(name: string, body: ProseBody, options: Options, mark: string): Uint8Array {
  const [width, height] = PAPER[options['paper'] as keyof typeof PAPER];
  const margin = 22;
  const parts = new PackageParts(body, width - 2 * margin);
  const content = parts.content();
  const separator = (type: string, id: number, tag: string) =>
    `<w:footnote w:type="${type}" w:id="${id}"><w:p><w:r><w:${tag}/></w:r></w:p></w:footnote>`;
  const texts = new Map<string, string>([
    [
      '[Content_Types].xml',
      contentTypes(
        { png: 'image/png', jpg: 'image/jpeg' },
        {
          'word/document.xml': `${WORD}.document.main+xml`,
          'word/styles.xml': `${WORD}.styles+xml`,
          'word/numbering.xml': `${WORD}.numbering+xml`,
          'word/footnotes.xml': `${WORD}.footnotes+xml`,
          'docProps/core.xml': 'application/vnd.openxmlformats-package.core-properties+xml',
          [CUSTOM_PART]: 'application/vnd.openxmlformats-officedocument.custom-properties+xml',
        },
      ),
    ],
    [
      '_rels/.rels',
      relationsXml([
        { id: 'rId1', type: 'officeDocument', target: 'word/document.xml' },
        {
          id: 'rId2',
          type: 'http://schemas.openxmlformats.org/package/2006/relationships/metadata/core-properties',
          target: 'docProps/core.xml',
        },
        { id: 'rId3', type: 'custom-properties', target: CUSTOM_PART },
      ]),
    ],
    [
      'word/document.xml',
      `${XML}<w:document ${ROOT}><w:body>${content}<w:sectPr><w:pgSz w:w="${twips(width)}" w:h="${twips(height)}"/><w:pgMar w:top="${twips(margin)}" w:right="${twips(margin)}" w:bottom="${twips(margin)}" w:left="${twips(margin)}" w:header="700" w:footer="700" w:gutter="0"/></w:sectPr></w:body></w:document>`,
    ],
    ['word/_rels/document.xml.rels', relationsXml(parts.relations)],
    ['word/styles.xml', stylesXml(plainXml(body.language))],
    ['word/numbering.xml', numberingXml(parts.lists)],
    [
      'word/footnotes.xml',
      `${XML}<w:footnotes ${ROOT}>${separator('separator', -1, 'separator')}${separator('continuationSeparator', 0, 'continuationSeparator')}${parts.notes.join('')}</w:footnotes>`,
    ],
    ...(parts.noteRelations.length ? ([['word/_rels/footnotes.xml.rels', relationsXml(parts.noteRelations)]] as const) : []),
    ['docProps/core.xml', coreProperties(name, parseMark(mark)?.written ?? '1980-01-01T00:00:00.000Z', body.language)],
    [CUSTOM_PART, customProperties(mark)],
  ]);
  const encoder = new TextEncoder();
  const entries = new Map<string, Uint8Array>([...texts].map(([path, text]) => [path, encoder.encode(text)]));
  const stored = new Set([CUSTOM_PART]);
  for (const [word, id] of parts.media) {
    const path = `word/${parts.relations.find((one) => one.id === id)!.target}`;
    entries.set(path, body.pictures[word]!.bytes);
    stored.add(path);
  }
  return packEntries(entries, stored);
}
