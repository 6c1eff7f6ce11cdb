import { Tally } from '../../contracts/tally';
import { type XmlNode, childOf, childrenOf, isXml, own, saidOf, wordsBelow, xmlTree } from '../../base/bytes/xml-tree';
import type { Services } from '../../contracts/services';
import { normaliseBlocks } from '../../content/prose/lists';
import { type ProseBlock, type ProseBody, type ProseSpan, plainWords } from '../../content/prose/prose';
import { Failure } from '../../base/failure/failure';
import { DEEPEST, EMPHASES, type Role } from '../../document/texts/schema';
import { unpackEntries } from '../../document/native/zip';
import type { NotUnderstood } from '../../contracts/not-understood';
import { relationsOf } from '../relations';
import { type CaptionOf, withCaptions } from '../texts/captions';
import { tableOfRows, wordsOfCell } from '../texts/cells';
import { keptBlanks } from '../texts/blanks';
import { type EquationNode, equationWords } from '../texts/equations';
import { PicturesIn } from '../texts/pictures';
import { reportDocument, reportEnd, reportParagraph, reportPicture, reportSection, reportTable } from './known';
import { Numbering } from './numbering';
import { Styles, isOn } from './read-styles';

const EMU = 36_000;
type Relations = ReturnType<typeof relationsOf>;

/** Elements within words that say nothing of their own. */
const QUIET = new Set(
  'pPr rPr bookmarkStart bookmarkEnd proofErr lastRenderedPageBreak permStart permEnd commentRangeStart commentRangeEnd sectPr tblPr tblGrid trPr tcPr footnoteRef endnoteRef annotationRef separator continuationSeparator customXmlInsRangeStart customXmlInsRangeEnd moveFromRangeStart moveFromRangeEnd moveToRangeStart moveToRangeEnd instrText fldChar fldData softHyphen'.split(
    ' ',
  ),
);
/** What holds words and is passed through. */
const HOLDERS = new Set(['sdtContent', 'customXml', 'dir', 'bdo', 'sdt', 'smartTag']);

interface Shared {
  readonly styles: Styles;
  readonly numbering: Numbering;
  readonly pictures: PicturesIn;
  readonly notes: ReadonlyMap<string, XmlNode>;
  readonly noteRelations: ReadonlyMap<string, Relations>;
  readonly tally: Tally;
}

/** An equation of this format; its properties stand in an element beside its parts. */
const asEquation = (node: XmlNode): EquationNode => ({
  name: node.name,
  children: childrenOf(node).map(asEquation),
  text: node.name === 't' ? wordsBelow(node) : '',
  said: (property) => saidOf(childOf(node, `${node.name}Pr`), property),
});

class DocxReading {
  readonly blocks: ProseBlock[] = [];
  readonly captions = new Map<ProseBlock, CaptionOf>();
  private images: XmlNode[] = [];
  /** Before which stretch of the words of the paragraph a page ends. */
  private pageBreaks: number[] = [];
  private boxes: XmlNode[] = [];
  private rule = false;
  /** Fields that are open: what they ask for, and whether what follows is their result. */
  private fields: { code: string; result: boolean }[] = [];

  constructor(
    private readonly shared: Shared,
    private readonly relations: Relations,
  ) {}

  private get tally(): Tally {
    return this.shared.tally;
  }

  private linkOf(node: XmlNode): string {
    const relation = this.relations.get(own(node, 'id') ?? '');
    const anchor = own(node, 'anchor');
    return `${relation?.target ?? ''}${anchor ? `#${anchor}` : ''}`.slice(0, 2000);
  }

  private field(node: XmlNode): void {
    const type = own(node, 'fldCharType');
    if (type === 'begin') this.fields.push({ code: '', result: false });
    else if (type === 'separate' && this.fields.length) this.fields.at(-1)!.result = true;
    else if (type === 'end') {
      const code = this.fields.pop()?.code.trim() ?? '';
      if (code && !/^HYPERLINK\b/.test(code)) this.tally.addUnseen(`field ${code.split(/\s+/)[0]!.toLowerCase()}`);
    }
  }

  private run(run: XmlNode, link: string, runs: readonly XmlNode[], into: ProseSpan[]): void {
    const { marks, hidden } = this.shared.styles.marks(childOf(run, 'rPr'), runs);
    const open = this.fields.at(-1);
    const target = link || (open?.result ? (/^\s*HYPERLINK\s+"([^"]+)"/.exec(open.code)?.[1] ?? '') : '');
    const put = (text: string) => {
      if (!text) return;
      if (hidden) this.tally.add('hidden words');
      else into.push({ text, marks: EMPHASES.filter((mark) => marks.includes(mark)), link: target, note: null });
    };
    for (const child of childrenOf(run)) {
      switch (child.name) {
        case 't':
          {
            const text = wordsBelow(child).replace(/[\r\n\t]+/g, ' ');
            put(marks.includes('code') ? keptBlanks(text) : text);
          }
          break;
        case 'tab':
          put(' ');
          break;
        case 'br':
        case 'cr':
          if (own(child, 'type') === 'page' || own(child, 'type') === 'column') this.pageBreaks.push(into.length);
          else put('\n');
          break;
        case 'noBreakHyphen':
          put('\u2011');
          break;
        case 'footnoteReference':
        case 'endnoteReference':
          this.note(`${child.name[0]}${own(child, 'id') ?? ''}`, into);
          break;
        case 'fldChar':
          this.field(child);
          break;
        case 'instrText':
          if (open) open.code += wordsBelow(child);
          break;
        case 'drawing':
        case 'pict':
          this.drawing(child);
          break;
        case 'AlternateContent':
          this.run(childOf(child, 'Choice') ?? childOf(child, 'Fallback') ?? child, link, runs, into);
          break;
        case 'delText':
          break;
        case 'commentReference':
          this.tally.addUnseen('comment');
          break;
        default:
          if (!QUIET.has(child.name)) this.tally.add(child.name === 'sym' ? 'sign of a font of its own' : child.name);
      }
    }
  }

  private note(key: string, into: ProseSpan[]): void {
    const node = this.shared.notes.get(key);
    if (!node) return this.tally.add('note that is not in it');
    const inner = new DocxReading(this.shared, this.shared.noteRelations.get(key[0]!) ?? this.relations);
    for (const child of childrenOf(node)) inner.block(child);
    const note: ProseSpan[] = [];
    for (const block of inner.blocks)
      if (block.block === 'words') {
        if (note.length) note.push({ text: '\n', marks: [], link: '', note: null });
        note.push(...block.spans);
      }
    into.push({ text: '', marks: [], link: '', note });
  }

  private drawing(node: XmlNode): void {
    const stack = [node];
    let found = false;
    while (stack.length) {
      const at = stack.pop()!;
      if (at.name === 'blip' || at.name === 'imagedata') {
        found = true;
        this.images.push(node);
        break;
      }
      if (at.name === 'txbxContent') {
        found = true;
        this.tally.add('box of words, after its paragraph');
        this.boxes.push(at);
        continue;
      }
      if (/^(t|true)$/.test(own(at, 'hr') ?? '')) {
        found = this.rule = true;
        break;
      }
      stack.push(...childrenOf(at));
    }
    if (!found) this.tally.add('drawing');
  }

  private placeImages(): void {
    const { images } = this;
    this.images = [];
    for (const node of images) {
      let [id, wide, alt]: [string, number, string] = ['', 0, ''];
      const stack = [node];
      while (stack.length) {
        const at = stack.shift()!;
        if (at.name === 'extent') wide = (Number(own(at, 'cx')) || 0) / EMU;
        else if (at.name === 'docPr') alt = own(at, 'descr') ?? '';
        else if (at.name === 'blip') id = own(at, 'embed') ?? '';
        else if (at.name === 'imagedata') id = own(at, 'id') ?? '';
        if (at.name === 'srcRect' && Object.values(at.attributes).some((value) => value !== '0'))
          this.tally.add('cropped picture');
        if (at.name === 'anchor') this.tally.addUnseen('picture beside the words');
        stack.push(...childrenOf(at));
      }
      const word = this.shared.pictures.wordOf(this.relations.get(id)?.target ?? '');
      if (word === null) this.tally.add('picture that is not in it');
      reportPicture(node, word === null ? null : (this.shared.pictures.all[word] ?? null), this.tally);
      this.blocks.push({ block: 'picture', picture: word ?? '', alt, width: wide, caption: [], source: '' });
    }
  }

  private inline(node: XmlNode, link: string, runs: readonly XmlNode[], into: ProseSpan[]): void {
    for (const child of node.children) {
      if (!isXml(child)) continue;
      if (child.name === 'r') this.run(child, link, runs, into);
      else if (child.name === 'hyperlink') this.inline(child, this.linkOf(child), runs, into);
      else if (child.name === 'fldSimple') {
        const code = own(child, 'instr') ?? '';
        if (!/HYPERLINK/.test(code)) this.tally.addUnseen(`field ${code.trim().split(/\s+/)[0]!.toLowerCase()}`);
        this.inline(child, link || (/HYPERLINK\s+"([^"]+)"/.exec(code)?.[1] ?? ''), runs, into);
      } else if (child.name === 'ins' || child.name === 'moveTo') {
        this.tally.add('change that is not settled');
        this.inline(child, link, runs, into);
      } else if (child.name === 'del' || child.name === 'moveFrom') this.tally.add('change that is not settled');
      else if (HOLDERS.has(child.name)) this.inline(child, link, runs, into);
      else if (child.name === 'oMath' || child.name === 'oMathPara') {
        this.tally.add('equation, as a line of words');
        into.push(...equationWords(asEquation(child)));
      } else if (!QUIET.has(child.name) && child.name !== 'sdtPr' && child.name !== 'sdtEndPr') this.tally.add(child.name);
    }
  }

  private paragraph(node: XmlNode): void {
    const { styles, numbering } = this.shared;
    const own_ = childOf(node, 'pPr');
    const look = styles.paragraph(own_);
    const spans: ProseSpan[] = [];
    this.inline(node, '', look.runs, spans);
    const filled = spans.some(({ text, note }) => note || /[^ ]/.test(text));
    const number = look.list && !look.heading ? numbering.next(look.list.id, look.list.level) : null;
    if (look.list && look.heading) this.tally.add('numbered heading');
    if (number && !number.plain) this.tally.add('letters as numbers');
    if (look.breakBefore) this.blocks.push({ block: 'break', of: 'page', source: '' });
    const plain = plainWords(spans, this.roleOf(look));
    const level = Math.min(DEEPEST, number ? look.list!.depth : Math.max(0, look.continued));
    const block = { ...plain, ...(number ? { role: number.role, start: number.number } : {}), level, align: look.align };
    const ends = [...this.pageBreaks, spans.length];
    const isBroken = this.pageBreaks.length > 0;
    const isRule = this.rule || (look.ruled && !this.images.length);
    this.pageBreaks = [];
    this.rule = false;
    if (look.caption && filled) this.captions.set(block, look.caption);
    if (!isBroken && filled) this.blocks.push(block);
    let from = 0;
    for (const [i, end] of isBroken ? ends.entries() : []) {
      const part = spans.slice(from, end);
      from = end;
      // What goes on after the page goes on with the same item.
      if (part.some(({ text, note }) => note || /[^ ]/.test(text)))
        this.blocks.push({ ...block, ...(i && number ? { role: 'continued', start: null } : {}), spans: part });
      if (i === ends.length - 2) this.placeImages();
      if (i < ends.length - 1) this.blocks.push({ block: 'break', of: 'page', source: '' });
    }
    if (!filled && isRule) this.blocks.push({ block: 'break', of: 'line', source: '' });
    this.placeImages();
    const boxes = this.boxes;
    this.boxes = [];
    for (const box of boxes) for (const child of childrenOf(box)) this.block(child);
    if (isOn(own_, 'bidi')) this.tally.add('words from right to left');
    if (childOf(own_, 'framePr')) this.tally.add('box of words');
    reportParagraph(own_, filled, this.tally);
    reportEnd(childOf(own_, 'rPr'), this.tally);
    if (filled) styles.reportOf(own_);
    const section = childOf(own_, 'sectPr');
    if (section) reportSection(section, this.tally);
  }

  private roleOf(look: ReturnType<Styles['paragraph']>): Role {
    if (look.heading) return `heading ${Math.min(6, look.heading)}` as Role;
    return look.quote ? 'quote' : look.continued >= 0 ? 'continued' : 'body';
  }

  private cell(node: XmlNode): ProseSpan[] {
    const inner = new DocxReading(this.shared, this.relations);
    for (const child of childrenOf(node)) inner.block(child);
    return wordsOfCell(inner.blocks, this.tally);
  }

  private table(node: XmlNode): void {
    const rows: { cells: ProseSpan[][]; head: boolean }[] = [];
    const gather = (from: XmlNode) => {
      for (const row of childrenOf(from)) {
        if (HOLDERS.has(row.name)) gather(row);
        if (row.name !== 'tr') continue;
        const cells: ProseSpan[][] = [];
        const take = (holder: XmlNode) => {
          for (const cell of childrenOf(holder)) {
            if (HOLDERS.has(cell.name)) take(cell);
            if (cell.name !== 'tc') continue;
            const properties = childOf(cell, 'tcPr');
            reportTable(properties, 'cell', this.tally);
            const across = Math.min(100, Number(saidOf(properties, 'gridSpan') ?? 1) || 1);
            if (across > 1 || childOf(properties, 'vMerge')) this.tally.add('cell across several');
            cells.push(this.cell(cell), ...Array.from({ length: across - 1 }, (): ProseSpan[] => []));
          }
        };
        take(row);
        const properties = childOf(row, 'trPr');
        reportTable(properties, 'row', this.tally);
        if (isOn(properties, 'hidden')) this.tally.add('hidden rows');
        else rows.push({ cells, head: isOn(properties, 'tblHeader') ?? false });
      }
    };
    gather(node);
    reportTable(childOf(node, 'tblPr'), 'table', this.tally);
    this.blocks.push(...tableOfRows(rows));
  }

  block(node: XmlNode): void {
    if (node.name === 'p') this.paragraph(node);
    else if (node.name === 'tbl') this.table(node);
    else if (HOLDERS.has(node.name)) for (const child of childrenOf(node)) this.block(child);
    else if (node.name === 'sectPr') reportSection(node, this.tally);
    else if (node.name === 'ins' || node.name === 'moveTo') {
      this.tally.add('change that is not settled');
      for (const child of childrenOf(node)) this.block(child);
    } else if (node.name === 'del' || node.name === 'moveFrom') this.tally.add('change that is not settled');
    else if (node.name === 'altChunk') this.tally.add('part in another format');
    else if (!QUIET.has(node.name) && node.name !== 'sdtPr' && node.name !== 'sdtEndPr') this.tally.add(node.name);
  }
}

/** Footnotes and endnotes by the letter of their kind and their number. */
function notesOf(entries: ReadonlyMap<string, Uint8Array>, relations: Relations): Pick<Shared, 'notes' | 'noteRelations'> {
  const notes = new Map<string, XmlNode>();
  const noteRelations = new Map<string, Relations>();
  for (const { type, target } of relations.values()) {
    const bytes = type === 'footnotes' || type === 'endnotes' ? entries.get(target) : undefined;
    if (!bytes) continue;
    noteRelations.set(type[0]!, relationsOf(entries, target));
    for (const note of childrenOf(xmlTree(bytes, target)))
      if (!own(note, 'type') || own(note, 'type') === 'normal') notes.set(`${type[0]}${own(note, 'id') ?? ''}`, note);
  }
  return { notes, noteRelations };
}

/** @throws Failure `package-damaged` and what unpacking throws */
export async function readDocx(
  bytes: Uint8Array,
  services: Partial<Services>,
): Promise<{ name: string; body: ProseBody; mark: string | null; notUnderstood: readonly NotUnderstood[] }> {
  const entries = unpackEntries(bytes);
  const root = [...relationsOf(entries, '').values()];
  const main = root.find(({ type }) => type === 'officeDocument')?.target ?? 'word/document.xml';
  const part = (name: string | undefined): XmlNode | undefined => {
    const found = name === undefined ? undefined : entries.get(name);
    return found && xmlTree(found, name!);
  };
  const whole = part(main);
  const document = childOf(whole, 'body');
  if (!whole || !document)
    throw new Failure('package-damaged', `The package has no text: “${main}” is missing, or is something else.`);
  const relations = relationsOf(entries, main);
  const of = (type: string) => part([...relations.values()].find((one) => one.type === type)?.target);
  const tally = new Tally();
  for (const name of entries.keys()) if (/vbaProject|\.bin$/i.test(name)) tally.add('script');
  // Without it no program opens the package (ISO/IEC 29500-2, 7.2.3).
  if (!entries.has('[Content_Types].xml')) tally.addBeyondSight('missing part: [Content_Types].xml');
  reportDocument(
    whole,
    [...relations.values()].map(({ type }) => type),
    tally,
  );
  const images = [...relations.values()].filter(({ type, external }) => type === 'image' && !external);
  const pictures = await PicturesIn.read(
    images.map(({ target }) => target),
    (name) => entries.get(name),
    services,
  );
  const styles = new Styles(of('styles'), tally);
  const { notes, noteRelations } = notesOf(entries, relations);
  const reading = new DocxReading(
    { styles, numbering: new Numbering(of('numbering')), pictures, notes, noteRelations, tally },
    relations,
  );
  for (const node of childrenOf(document)) reading.block(node);
  const core = part(root.find(({ type }) => type === 'core-properties')?.target);
  const custom = part(root.find(({ type }) => type === 'custom-properties')?.target);
  const origin = childrenOf(custom, 'property').find((one) => own(one, 'name') === 'Origin');
  const title = childOf(core, 'title');
  const blocks = normaliseBlocks(withCaptions(reading.blocks, reading.captions));
  const shown = new Set(blocks.map((one) => (one.block === 'picture' ? one.picture : '')));
  return {
    name: title ? wordsBelow(title).trim() : '',
    body: {
      language: styles.language,
      blocks,
      pictures: Object.fromEntries(Object.entries(pictures.all).filter(([word]) => shown.has(word))),
    },
    mark: origin ? wordsBelow(origin) : null,
    notUnderstood: tally.list(),
  };
}
