import { plainXml } from '../../base/bytes/xml-text';
import { ListCounter, isItem } from '../../evaluate/texts/lists';
import type { ProseBlock, ProseBody, ProsePicture, ProseSpan, ProseTable, ProseWords } from '../../content/prose/prose';
import { ALIGN } from '../texts/html-write';
import type { Emphasis } from '../../document/texts/schema';
import { parseMark } from '../../contracts/mark';
import { packEntries } from '../../document/native/zip';
import type { Options } from '../../contracts/declaration';
import { endingOf } from '../texts/pictures';
import { ODT_TYPE } from './declare';
import type { PAPER } from '../texts/paper';
import { EMPHASIS, NAMESPACES, styleOf, stylesXml } from './styles';

export const MARK_ENTRY = 'meta.xml';
const XML = '<?xml version="1.0" encoding="UTF-8"?>\n';

/** Words as ODF has them: blanks in a row collapse there, too (ODF 1.3-3, 6.1.2). */
const textXml = (text: string): string => plainXml(text).replace(/\n/g, '<text:line-break/>');

class Content {
  private readonly out: string[] = [];
  /** Automatic styles by what they are. */
  private readonly spanStyles = new Map<string, string>();
  private readonly paragraphStyles = new Map<string, string>();
  private notes = 0;
  private tables = 0;
  private frames = 0;

  constructor(
    private readonly body: ProseBody,
    private readonly pathOf: (word: string) => string,
  ) {}

  private spanStyle(marks: readonly Emphasis[]): string {
    const key = marks.map((mark) => EMPHASIS[mark]).join(' ');
    let name = this.spanStyles.get(key);
    if (!name) this.spanStyles.set(key, (name = `T${this.spanStyles.size + 1}`));
    return name;
  }

  private paragraphStyle(parent: string, align: ProseWords['align']): string {
    if (align === 'left') return parent;
    const key = `style:parent-style-name="${parent}"><style:paragraph-properties fo:text-align="${{ ...ALIGN, right: 'end' }[align]}"/>`;
    let name = this.paragraphStyles.get(key);
    if (!name) this.paragraphStyles.set(key, (name = `P${this.paragraphStyles.size + 1}`));
    return name;
  }

  private spans(spans: readonly ProseSpan[]): string {
    return spans
      .map(({ text, marks, link, note }) => {
        if (note) {
          const number = ++this.notes;
          return `<text:note text:id="note${number}" text:note-class="footnote"><text:note-citation>${number}</text:note-citation><text:note-body><text:p text:style-name="Footnote">${this.spans(note)}</text:p></text:note-body></text:note>`;
        }
        const inner = marks.length
          ? `<text:span text:style-name="${this.spanStyle(marks)}">${textXml(text)}</text:span>`
          : textXml(text);
        return link ? `<text:a xlink:type="simple" xlink:href="${plainXml(link)}">${inner}</text:a>` : inner;
      })
      .join('');
  }

  private words(block: ProseWords, style = styleOf(block.role)): string {
    const name = this.paragraphStyle(style, block.align);
    const inner = this.spans(block.spans);
    return block.role.startsWith('heading')
      ? `<text:h text:style-name="${name}" text:outline-level="${block.role.slice(-1)}">${inner}</text:h>`
      : `<text:p text:style-name="${name}">${inner}</text:p>`;
  }

  /** Items in a row as nested lists (ODF 1.3-3, 5.3). */
  private list(items: readonly ProseWords[]): void {
    const open: { style: string; begun: boolean }[] = [];
    const counter = new ListCounter();
    const close = (level: number) => {
      while (open.length > level) this.out.push(`${open.pop()!.begun ? '</text:list-item>' : ''}</text:list>`);
    };
    for (const item of items) {
      const { role, level, start } = item;
      close(level + 1);
      if (role === 'continued') {
        this.out.push(this.words(item));
        continue;
      }
      const style = role === 'bullet' ? 'Signs' : 'Numbers';
      if (open[level] && (open[level].style !== style || start !== null)) close(level);
      const number = counter.next(item);
      if (!open[level]) {
        this.out.push(`<text:list text:style-name="${style}">`);
        open.push({ style, begun: false });
        this.out.push(number !== null && number !== 1 ? `<text:list-item text:start-value="${number}">` : '<text:list-item>');
      } else this.out.push('</text:list-item>', '<text:list-item>');
      open[level]!.begun = true;
      this.out.push(this.words(item));
    }
    close(0);
  }

  private table({ head, caption, grid }: ProseTable): void {
    if (caption.length) this.out.push(`<text:p text:style-name="TableCaption">${this.spans(caption)}</text:p>`);
    const row = (cells: ProseTable['grid'][number], style: string) =>
      `<table:table-row>${cells.map((cell) => `<table:table-cell office:value-type="string" table:style-name="CellBox"><text:p text:style-name="${style}">${this.spans(cell)}</text:p></table:table-cell>`).join('')}</table:table-row>`;
    const [first, ...rest] = grid;
    const name = `Table${++this.tables}`;
    this.out.push(
      `<table:table table:name="${name}"><table:table-column table:number-columns-repeated="${first?.length ?? 1}"/>`,
      ...(head && first ? [`<table:table-header-rows>${row(first, 'CellHeading')}</table:table-header-rows>`] : []),
      ...(head ? rest : grid).map((cells) => row(cells, 'Cell')),
      '</table:table>',
    );
  }

  private picture({ picture, alt, width, caption }: ProsePicture): void {
    const { width: across, height: down } = this.body.pictures[picture] ?? { width: 4, height: 3 };
    const [wide, high] = [width || 80, ((width || 80) * down) / across].map((one) => `${Number(one.toFixed(3))}mm`);
    this.out.push(
      `<text:p text:style-name="Figure"><draw:frame draw:name="Picture${++this.frames}" text:anchor-type="as-char" svg:width="${wide}" svg:height="${high}"><draw:image xlink:type="simple" xlink:show="embed" xlink:actuate="onLoad" xlink:href="${this.pathOf(picture)}"/>${alt ? `<svg:desc>${plainXml(alt)}</svg:desc>` : ''}</draw:frame></text:p>`,
      ...(caption.length ? [`<text:p text:style-name="Caption">${this.spans(caption)}</text:p>`] : []),
    );
  }

  private block(block: ProseBlock): void {
    if (block.block === 'table') this.table(block);
    else if (block.block === 'picture') this.picture(block);
    else if (block.block === 'break') this.out.push(`<text:p text:style-name="${block.of === 'page' ? 'NewPage' : 'Across'}"/>`);
    else this.out.push(this.words(block));
  }

  xml(version: string): string {
    const { blocks } = this.body;
    for (let i = 0; i < blocks.length; i++) {
      if (!isItem(blocks[i]!)) {
        this.block(blocks[i]!);
        continue;
      }
      let end = i;
      while (end < blocks.length && isItem(blocks[end]!)) end++;
      this.list(blocks.slice(i, end) as ProseWords[]);
      i = end - 1;
    }
    const spanStyles = [...this.spanStyles].map(
      ([own, name]) => `<style:style style:name="${name}" style:family="text"><style:text-properties ${own}/></style:style>`,
    );
    const paragraphs = [...this.paragraphStyles].map(
      ([own, name]) => `<style:style style:name="${name}" style:family="paragraph" ${own}</style:style>`,
    );
    const box =
      '<style:style style:name="CellBox" style:family="table-cell"><style:table-cell-properties fo:padding="1mm" fo:border-bottom="0.25pt solid #808080"/></style:style>';
    return `${XML}<office:document-content ${NAMESPACES} office:version="${version}"><office:automatic-styles>${paragraphs.join('')}${spanStyles.join('')}${box}</office:automatic-styles><office:body><office:text>${this.out.join('\n')}</office:text></office:body></office:document-content>`;
  }
}

/** Writes a text as a document of OpenDocument. The same text gives the same bytes. */
export function writeOdt(name: string, body: ProseBody, { version, paper }: Options, mark: string): Uint8Array {
  const paths = new Map(
    Object.entries(body.pictures).map(([word, { mediaType }], i) => [word, `Pictures/picture-${i + 1}.${endingOf(mediaType)}`]),
  );
  const content = new Content(body, (word) => paths.get(word) ?? '').xml(String(version));
  const written = (parseMark(mark)?.written ?? '1980-01-01T00:00:00.000Z').replace(/\.\d+Z$/, 'Z');
  const encode = (text: string) => new TextEncoder().encode(text);
  const entries = new Map<string, Uint8Array>([
    ['mimetype', encode(ODT_TYPE)],
    ['content.xml', encode(content)],
    ['styles.xml', encode(stylesXml(XML, String(version), body.language, paper as keyof typeof PAPER))],
    [
      MARK_ENTRY,
      encode(
        `${XML}<office:document-meta ${NAMESPACES} office:version="${version}"><office:meta><dc:title>${plainXml(name)}</dc:title>${body.language ? `<dc:language>${plainXml(body.language)}</dc:language>` : ''}<meta:creation-date>${written}</meta:creation-date><meta:user-defined meta:name="Origin" meta:value-type="string">${plainXml(mark)}</meta:user-defined></office:meta></office:document-meta>`,
      ),
    ],
  ]);
  for (const [word, path] of paths) entries.set(path, body.pictures[word]!.bytes);
  const types = [...entries.keys()].slice(1).map((path) => {
    const type = path.endsWith('.xml') ? 'text/xml' : path.endsWith('.png') ? 'image/png' : 'image/jpeg';
    return `<manifest:file-entry manifest:full-path="${path}" manifest:media-type="${type}"/>`;
  });
  entries.set(
    'META-INF/manifest.xml',
    encode(
      `${XML}<manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0" manifest:version="${version}"><manifest:file-entry manifest:full-path="/" manifest:version="${version}" manifest:media-type="${ODT_TYPE}"/>${types.join('')}</manifest:manifest>`,
    ),
  );
  const pictures = [...entries.keys()].filter((path) => path.startsWith('Pictures/'));
  return packEntries(entries, new Set(['mimetype', MARK_ENTRY, ...pictures]));
}
