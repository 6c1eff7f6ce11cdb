import { Tally } from '../../contracts/tally';
import { type XmlNode, childOf, childrenOf, isXml, own, wordsBelow, xmlTree } from '../../base/bytes/xml-tree';
import type { Services } from '../../contracts/services';
import { normaliseBlocks } from '../../content/prose/lists';
import { type ProseBlock, type ProseBody, type ProseSpan, plainWords } from '../../content/prose/prose';
import { Failure } from '../../base/failure/failure';
import { DEEPEST, EMPHASES, type Emphasis, type Role } from '../../document/texts/schema';
import { unpackEntries } from '../../document/native/zip';
import type { NotUnderstood } from '../../contracts/not-understood';
import { lengthInMm } from '../texts/lengths';
import { tableOfRows, wordsOfCell } from '../texts/cells';
import { PicturesIn } from '../texts/pictures';
import { type CaptionOf, withCaptions } from '../texts/captions';
import { reportContent, reportFrame, reportGround, reportPart, reportRoom, reportTable } from './known';
import { Styles } from './read-styles';

/** Cells that a row says again, and rows of a table that say the same, as far as they hold words. */
const MOST_REPEATED = 1000;

/** Elements within words that say nothing of their own. */
const QUIET = new Set(
  'bookmark bookmark-start bookmark-end reference-mark reference-mark-start reference-mark-end soft-page-break change change-start change-end alphabetical-index-mark alphabetical-index-mark-start alphabetical-index-mark-end toc-mark toc-mark-start toc-mark-end title desc forms sequence-decls variable-decls user-field-decls'.split(
    ' ',
  ),
);
/** What holds other blocks and is passed through. */
const HOLDERS = new Set(
  'section index-body table-of-content illustration-index table-index object-index user-index alphabetical-index bibliography index-title'.split(
    ' ',
  ),
);

interface Inline {
  readonly marks: readonly Emphasis[];
  readonly link: string;
}

class OdtReading {
  readonly blocks: (ProseBlock & { caption?: unknown })[] = [];
  readonly captions = new Map<ProseBlock, CaptionOf>();
  private images: { node: XmlNode; frame: XmlNode }[] = [];

  constructor(
    private readonly styles: Styles,
    private readonly pictures: PicturesIn,
    private readonly tally: Tally,
  ) {}

  /** The words below an element. */
  private inline(node: XmlNode, look: Inline, into: ProseSpan[]): void {
    for (const child of node.children) {
      if (!isXml(child)) {
        // Blanks in a row are one (6.1.2); what must be more is said by an element.
        const text = child.replace(/[ \t\r\n]+/g, ' ');
        if (text) into.push({ text, ...look, note: null });
        continue;
      }
      this.element(child, look, into);
    }
  }

  private element(child: XmlNode, look: Inline, into: ProseSpan[]): void {
    switch (child.name) {
      case 'span': {
        const { marks, hidden } = this.styles.span(own(child, 'style-name'));
        if (hidden) return this.tally.add('hidden words');
        const set = new Set(look.marks);
        for (const [mark, on] of marks)
          if (on) set.add(mark);
          else set.delete(mark);
        return this.inline(child, { ...look, marks: EMPHASES.filter((mark) => set.has(mark)) }, into);
      }
      case 'a':
        return this.inline(child, { ...look, link: (own(child, 'href') ?? '').slice(0, 2000) }, into);
      case 's':
        into.push({ text: ' ', ...look, note: null });
        return;
      case 'tab':
        into.push({ text: ' ', ...look, note: null });
        return;
      case 'line-break':
        into.push({ text: '\n', ...look, note: null });
        return;
      case 'note': {
        const note: ProseSpan[] = [];
        const inner = new OdtReading(this.styles, this.pictures, this.tally);
        for (const one of childrenOf(childOf(child, 'note-body'))) inner.block(one);
        for (const block of inner.blocks)
          if (block.block === 'words') {
            if (note.length) note.push({ text: '\n', marks: [], link: '', note: null });
            note.push(...block.spans);
          }
        into.push({ text: '', marks: [], link: '', note });
        return;
      }
      case 'frame':
        return this.frame(child, look, into);
      case 'annotation':
      case 'annotation-end':
        return this.tally.addUnseen('comment');
      case 'ruby':
        for (const one of childrenOf(child)) if (one.name === 'ruby-base') this.inline(one, look, into);
        return this.tally.add('ruby');
      case 'hidden-text':
      case 'hidden-paragraph':
        return this.tally.add('hidden words');
      case 'script':
        return this.tally.add('script');
      case 'custom-shape':
      case 'g':
      case 'rect':
      case 'line':
      case 'path':
      case 'ellipse':
      case 'circle':
      case 'polygon':
      case 'polyline':
      case 'connector':
      case 'control':
        return this.tally.add('drawing');
      default:
        if (QUIET.has(child.name)) return;
        // A field shows what was computed last.
        this.tally.addUnseen(`field ${child.name}`);
        this.inline(child, look, into);
    }
  }

  private frame(frame: XmlNode, look: Inline, into: ProseSpan[]): void {
    const image = childOf(frame, 'image');
    if (image) {
      this.images.push({ node: image, frame });
      return;
    }
    const box = childOf(frame, 'text-box');
    if (!box) return this.tally.add('object in a frame');
    // A picture with its caption stands in a box of its own in some programs.
    this.tally.addUnseen('box of words');
    for (const paragraph of childrenOf(box)) {
      if (paragraph.name === 'p' || paragraph.name === 'h') this.inline(paragraph, look, into);
      else this.tally.add(`${paragraph.name} in a box`);
    }
  }

  private placeImages(): void {
    const { images } = this;
    this.images = [];
    for (const { node, frame } of images) {
      const word = this.pictures.wordOf((own(node, 'href') ?? '').replace(/^\.\//, ''));
      if (word === null) this.tally.add('picture that is not in it');
      const style = this.styles.outside('graphic', own(frame, 'style-name'));
      reportFrame(frame, style, word === null ? null : (this.pictures.all[word] ?? null), this.tally);
      this.blocks.push({
        block: 'picture',
        picture: word ?? '',
        alt: [childOf(frame, 'desc'), childOf(frame, 'title')].map((one) => (one ? wordsBelow(one) : '')).find(Boolean) ?? '',
        width: lengthInMm(own(frame, 'width')),
        caption: [],
        source: '',
      });
    }
  }

  private words(node: XmlNode, as?: { role: Role; level: number; start: number | null }): boolean {
    const look = this.styles.paragraph(own(node, 'style-name'));
    if (look.hidden) {
      this.tally.add('hidden words');
      return false;
    }
    const spans: ProseSpan[] = [];
    this.inline(node, { marks: EMPHASES.filter((mark) => look.marks.includes(mark)), link: '' }, spans);
    if (look.breakBefore) this.blocks.push({ block: 'break', of: 'page', source: '' });
    const filled = spans.some(({ text, note }) => note || /[^ ]/.test(text));
    if (!filled && look.ruled && !this.images.length) this.blocks.push({ block: 'break', of: 'line', source: '' });
    const level = node.name === 'h' ? Number(own(node, 'outline-level') ?? 1) || 1 : look.heading;
    const role: Role = level > 0 ? (`heading ${Math.min(6, level)}` as Role) : look.quote ? 'quote' : 'body';
    const block = { ...plainWords(spans, role), ...(as && level === 0 ? as : {}), align: look.align };
    if (filled) {
      reportGround(this.styles.made(own(node, 'style-name')), this.tally);
      reportRoom(this.styles.room(own(node, 'style-name')), this.tally);
      if (look.caption && !as) this.captions.set(block, look.caption);
      this.blocks.push(block);
    }
    this.placeImages();
    if (look.breakAfter) this.blocks.push({ block: 'break', of: 'page', source: '' });
    return filled;
  }

  private list(node: XmlNode, level: number, outer: string | undefined, counts: Map<string, number>): void {
    const style = own(node, 'style-name') ?? outer;
    const { numbered, start, format, odd } = this.styles.listLevel(style, level);
    if (odd && style !== undefined && childrenOf(node).length) this.tally.add(odd);
    if (numbered && format !== '1') this.tally.add('letters as numbers');
    const key = `${style ?? ''} ${level}`;
    let number =
      own(node, 'continue-numbering') === 'true' || own(node, 'continue-list') ? (counts.get(key) ?? start - 1) : start - 1;
    for (const item of childrenOf(node)) {
      const stated = own(item, 'start-value');
      const own_ = item.name === 'list-item';
      if (own_) number = stated === undefined ? number + 1 : Number(stated) || 0;
      let first = own_;
      for (const child of childrenOf(item)) {
        if (child.name === 'list') this.list(child, Math.min(DEEPEST, level + 1), style, counts);
        else if (child.name === 'p' || child.name === 'h') {
          const role: Role = first ? (numbered ? 'numbered' : 'bullet') : 'continued';
          if (this.words(child, { role, level, start: first && numbered ? number : null })) first = false;
        } else this.block(child);
      }
    }
    counts.set(key, number);
  }
  private readonly counts = new Map<string, number>();

  private cell(node: XmlNode): ProseSpan[] {
    const inner = new OdtReading(this.styles, this.pictures, this.tally);
    for (const child of childrenOf(node)) inner.block(child);
    return wordsOfCell(inner.blocks, this.tally);
  }

  private part(family: 'table-row' | 'table-column' | 'table-cell', node: XmlNode): void {
    reportPart(family, this.styles.outside(family, own(node, 'style-name')), this.tally);
  }

  private table(node: XmlNode): void {
    const rows: { cells: ProseSpan[][]; head: boolean }[] = [];
    const gather = (from: XmlNode, head: boolean) => {
      for (const child of childrenOf(from)) {
        if (/^table-columns?$/.test(child.name))
          for (const column of [child, ...childrenOf(child)]) this.part('table-column', column);
        else if (child.name === 'table-header-rows') gather(child, true);
        else if (child.name === 'table-rows' || child.name === 'table-row-group') gather(child, head);
        else if (child.name === 'table-row') {
          if (/^(collapse|filter)$/.test(own(child, 'visibility') ?? '')) {
            this.tally.add('hidden rows');
            continue;
          }
          this.part('table-row', child);
          const cells: ProseSpan[][] = [];
          for (const cell of childrenOf(child)) {
            if (cell.name !== 'table-cell' && cell.name !== 'covered-table-cell') continue;
            if (Number(own(cell, 'number-columns-spanned') ?? 1) > 1 || Number(own(cell, 'number-rows-spanned') ?? 1) > 1)
              this.tally.add('cell across several');
            this.part('table-cell', cell);
            const spans = cell.name === 'table-cell' ? this.cell(cell) : [];
            const times = Math.min(100, Math.max(1, Number(own(cell, 'number-columns-repeated') ?? 1) || 1));
            for (let k = 0; k < times; k++) cells.push(spans);
          }
          const times = Math.min(MOST_REPEATED, Math.max(1, Number(own(child, 'number-rows-repeated') ?? 1) || 1));
          const repeated = cells.some(({ length }) => length) ? times : 1;
          for (let k = 0; k < repeated; k++) rows.push({ cells, head });
        }
      }
    };
    gather(node, false);
    reportTable(node, this.styles.outside('table', own(node, 'style-name')), this.tally);
    this.blocks.push(...tableOfRows(rows));
  }

  block(node: XmlNode): void {
    if (node.name === 'p' || node.name === 'h') this.words(node);
    else if (node.name === 'list') this.list(node, 0, undefined, this.counts);
    else if (node.name === 'table') this.table(node);
    else if (node.name === 'frame') {
      const spans: ProseSpan[] = [];
      this.frame(node, { marks: [], link: '' }, spans);
      if (spans.length) this.blocks.push(plainWords(spans));
      this.placeImages();
    } else if (HOLDERS.has(node.name)) {
      if (own(node, 'display') === 'none' || own(node, 'display') === 'condition') this.tally.add('hidden words');
      else for (const child of childrenOf(node)) this.block(child);
      if (childOf(node, 'section-source')) this.tally.add('section from elsewhere');
    } else if (node.name === 'tracked-changes') {
      if (childrenOf(node).length) this.tally.add('change that is not settled');
    } else if (node.name === 'numbered-paragraph') {
      for (const child of childrenOf(node)) this.block(child);
      this.tally.add('numbered paragraph');
    } else if (!QUIET.has(node.name) && !/-source$/.test(node.name)) this.tally.add(node.name);
  }
}

/** @throws Failure `package-damaged` and what unpacking throws */
export async function readOdt(
  bytes: Uint8Array,
  services: Partial<Services>,
): Promise<{ name: string; body: ProseBody; mark: string | null; notUnderstood: readonly NotUnderstood[] }> {
  const entries = unpackEntries(bytes);
  const part = (name: string): XmlNode | undefined => {
    const found = entries.get(name);
    return found && xmlTree(found, name);
  };
  const content = part('content.xml');
  const text = childOf(content, 'body', 'text');
  if (!content || !text)
    throw new Failure('package-damaged', 'The package has no text: “content.xml” is missing, or is something else.');
  const tally = new Tally();
  // A package has one (ODF 1.3, part 2, 3.2); of the file “mimetype” it is only said that it should.
  if (!entries.has('META-INF/manifest.xml')) tally.addBeyondSight('missing part: META-INF/manifest.xml');
  const styles = new Styles([part('styles.xml'), content], tally);
  const meta = childOf(part('meta.xml'), 'meta');
  const addresses: string[] = [];
  const find = (node: XmlNode): void => {
    for (const child of childrenOf(node)) {
      if (child.name === 'image') addresses.push((own(child, 'href') ?? '').replace(/^\.\//, ''));
      else find(child);
    }
  };
  find(text);
  const pictures = await PicturesIn.read(addresses, (name) => entries.get(name), services);
  for (const name of entries.keys()) if (/^Basic\/|^Scripts\//.test(name) && !name.endsWith('/')) tally.add('script');
  reportContent(content, part('styles.xml'), tally);
  const reading = new OdtReading(styles, pictures, tally);
  for (const node of childrenOf(text)) reading.block(node);
  const say = (name: string) => {
    const found = childOf(meta, name);
    return found ? wordsBelow(found).trim() : '';
  };
  const origin = childrenOf(meta, 'user-defined').find((one) => own(one, 'name') === 'Origin');
  const blocks = normaliseBlocks(withCaptions(reading.blocks, reading.captions));
  const shown = new Set(blocks.map((one) => (one.block === 'picture' ? one.picture : '')));
  return {
    name: say('title'),
    body: {
      language: styles.language || say('language'),
      blocks,
      pictures: Object.fromEntries(Object.entries(pictures.all).filter(([word]) => shown.has(word))),
    },
    mark: origin ? wordsBelow(origin) : null,
    notUnderstood: tally.list(),
  };
}
