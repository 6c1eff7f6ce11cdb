import type { DefaultTreeAdapterTypes } from 'parse5';
import type { Tally } from '../../contracts/tally';
import { normaliseBlocks } from '../../content/prose/lists';
import { type ProseBlock, type ProseSpan, plainWords } from '../../content/prose/prose';
import { DEEPEST, type Emphasis, type Role } from '../../document/texts/schema';
import {
  EMPHASIS,
  ALIGNMENT,
  BLOCKS,
  PLAIN,
  OTHER,
  UNSEEN,
  QUIET,
  DEEPEST_NESTING,
  STRETCHED,
  isElement,
  isUsualList,
  placesIn,
} from './html-elements';
import { type Colours, coloursWithin, declarations, isColour, isNeutral } from '../html/shown';
import { keptBlanks } from './blanks';
import { equationWords } from './equations';
import { asEquation } from './html-equations';
import { type Flow, startOf } from './html-flow';
import type { DrawnPicture } from '../../contracts/drawn-picture';
import { lengthInMm } from './lengths';

type Element = DefaultTreeAdapterTypes.Element;
type Node = DefaultTreeAdapterTypes.ChildNode;
export const attributeIn = (element: Element, name: string): string | undefined =>
  element.attrs.find((one) => (one.prefix ? `${one.prefix}:${one.name}` : one.name) === name)?.value;

/** What is known of a page before its words are read. */
interface Around {
  /** The picture that an address means; null where it can't be had. */
  readonly picture: (source: string) => DrawnPicture | null;
  readonly language: string;
  readonly colours: Colours;
}

const heightOf = (element: Element): string | undefined =>
  new Map(declarations(element)).get('height') ?? attributeIn(element, 'height');
class HtmlReading {
  readonly blocks: ProseBlock[] = [];
  private spans: ProseSpan[] = [];
  private flow: Flow;
  /** The first words of an item are its own; what comes after goes on with it. */
  private item: { role: Role; start: number | null } | null = null;
  private readonly notes = new Map<string, Element>();
  private readonly noted = new Set<Element>();
  private readonly noteLists = new Set<Element>();

  constructor(
    private readonly root: Element,
    private readonly around: Around,
    private readonly tally: Tally,
  ) {
    this.flow = startOf(around.colours);
    this.findNotes();
  }

  /** Notes stand in a place of their own and are led to from the words. */
  private findNotes(): void {
    const stack: Element[] = [this.root];
    const referred = new Set<string>();
    const byId = new Map<string, Element>();
    while (stack.length) {
      const element = stack.pop()!;
      const id = attributeIn(element, 'id');
      if (id) byId.set(id, element);
      if (this.isReference(element)) referred.add(attributeIn(element, 'href')!.slice(1));
      const role = `${attributeIn(element, 'role') ?? ''} ${attributeIn(element, 'epub:type') ?? ''}`;
      if (/doc-endnotes|footnotes|endnotes|rearnotes/.test(role)) this.noteLists.add(element);
      for (const child of element.childNodes) if (isElement(child)) stack.push(child);
    }
    for (const id of referred) {
      const found = byId.get(id);
      if (!found) continue;
      this.notes.set(id, found);
      this.noted.add(found);
    }
  }

  private isReference(element: Element): boolean {
    if (element.tagName !== 'a' || !attributeIn(element, 'href')?.startsWith('#')) return false;
    return /noteref/.test(`${attributeIn(element, 'role') ?? ''} ${attributeIn(element, 'epub:type') ?? ''}`);
  }

  private flush(): void {
    const { spans, flow, item } = this;
    this.spans = [];
    if (!spans.some(({ text, note }) => note || /[^ \t\r\n\f]/.test(text))) return;
    const level = Math.max(0, Math.min(DEEPEST, flow.level));
    const words = plainWords(spans, flow.role);
    if (flow.level < 0) this.blocks.push({ ...words, align: flow.align });
    else if (item) this.blocks.push({ ...words, role: item.role, level, start: item.start, align: flow.align });
    else this.blocks.push({ ...words, role: 'continued', level, align: flow.align });
    this.item = null;
  }

  private text(value: string): void {
    const { marks, link, kept } = this.flow;
    const text = kept ? keptBlanks(value.replace(/\r\n?/g, '\n').replace(/\t/g, '    ')) : value.replace(/[ \t\r\n\f]+/g, ' ');
    if (text) this.spans.push({ text, marks, link, note: null });
  }

  /** What an element's own attributes say. */
  private looked(element: Element): Flow | null {
    let { flow } = this;
    const mark = (one: Emphasis, on = true) => {
      const marks = flow.marks.filter((other) => other !== one);
      flow = { ...flow, marks: on ? [...marks, one] : marks };
    };
    const own = EMPHASIS[element.tagName];
    if (own) mark(own);
    if (element.tagName === 'a' && attributeIn(element, 'href') !== undefined)
      flow = { ...flow, link: attributeIn(element, 'href')!.slice(0, 2000) };
    for (const { name, prefix } of element.attrs) {
      const full = prefix ? `${prefix}:${name}` : name;
      if (/^on/.test(full)) this.tally.add('script');
      else if (!QUIET.test(full)) this.tally.add(`attribute ${full}`);
    }
    if (attributeIn(element, 'dir')?.toLowerCase() === 'rtl') this.tally.add('words from right to left');
    const language = attributeIn(element, 'lang') ?? attributeIn(element, 'xml:lang');
    if (language !== undefined && language.toLowerCase() !== this.around.language.toLowerCase())
      this.tally.add('words in another language');
    if (element.tagName === 'details' && attributeIn(element, 'open') === undefined) this.tally.add('words that are folded away');
    const align = attributeIn(element, 'align')?.toLowerCase() ?? (element.tagName === 'center' ? 'center' : undefined);
    if (align && ALIGNMENT.has(align)) flow = { ...flow, align: ALIGNMENT.get(align)! };
    if (attributeIn(element, 'hidden') !== undefined) return null;
    flow = { ...flow, colours: coloursWithin(element, flow.colours, this.tally) };
    const isPicture = element.tagName === 'img';
    for (const [name, value] of declarations(element)) {
      if (isColour(name) || (isPicture && /^(width|height)$/.test(name))) continue;
      else if (name === 'text-align' && ALIGNMENT.has(value)) flow = { ...flow, align: ALIGNMENT.get(value)! };
      else if (name === 'font-weight' && /^(bold|bolder|[6-9]00|normal|lighter|[1-5]00)$/.test(value))
        mark('bold', /^(bold|bolder|[6-9]00)$/.test(value));
      else if (name === 'font-style' && /^(italic|oblique|normal)$/.test(value)) mark('italic', value !== 'normal');
      else if (/^text-decoration(-line)?$/.test(name) && /^(underline|line-through|none)( |$)/.test(value)) {
        if (value.startsWith('underline')) mark('underlined');
        else if (value.startsWith('line')) mark('struck');
      } else if (name === 'vertical-align' && /^(super|sub)$/.test(value)) mark(value === 'super' ? 'raised' : 'lowered');
      else if (name === 'display' && value === 'none') return null;
      else if (name === 'visibility' && value !== 'visible') return null;
      else if (name === 'white-space') flow = { ...flow, kept: value.startsWith('pre') };
      else if (/^list-style(-type)?$/.test(name) && isUsualList(value, element.tagName)) continue;
      else if (!isNeutral(name, value)) this.tally.add(`style ${name.slice(0, 40)}`);
    }
    return flow;
  }

  private within(flow: Flow, of: Element): void {
    const before = this.flow;
    this.flow = flow;
    for (const child of of.childNodes) this.node(child);
    this.flow = before;
  }

  /** A block that ends what was before it and is ended by what comes after. */
  private asBlock(flow: Flow, element: Element): void {
    this.flush();
    const before = this.flow;
    this.flow = flow;
    for (const child of element.childNodes) this.node(child);
    this.flush();
    this.flow = before;
  }

  private depth = 0;
  private node(node: Node): void {
    if (node.nodeName === '#text') return this.text((node as DefaultTreeAdapterTypes.TextNode).value);
    if (!isElement(node)) return;
    if (this.depth >= DEEPEST_NESTING) return this.flat(node);
    this.depth++;
    this.inside(node);
    this.depth--;
  }

  /** What is nested beyond reason: its words alone. */
  private flat(element: Element): void {
    this.tally.add('nested too deep');
    const stack: Node[] = [element];
    while (stack.length) {
      const next = stack.pop()!;
      if (next.nodeName === '#text') this.text((next as DefaultTreeAdapterTypes.TextNode).value);
      else if (isElement(next) && !UNSEEN.has(next.tagName))
        for (const child of next.childNodes.slice().reverse()) stack.push(child);
    }
  }

  private inside(node: Element): void {
    const { tagName } = node;
    if (UNSEEN.has(tagName)) {
      if (tagName === 'script') this.tally.add('script');
      else if (tagName === 'style' || tagName === 'link') this.tally.add('style sheet');
      return;
    }
    if (tagName === 'math') {
      this.tally.add('equation, as a line of words');
      return void this.spans.push(...equationWords(asEquation(node)).map((one) => ({ ...one, link: this.flow.link })));
    }
    if (OTHER.has(tagName)) return this.tally.add(tagName);
    if (this.noteLists.has(node)) return this.beside(node);
    const flow = this.looked(node);
    if (!flow) return this.tally.add('hidden words');
    if (this.noted.has(node)) return;
    if (this.isReference(node) && this.notes.has(attributeIn(node, 'href')!.slice(1))) return this.note(node);
    this.element(node, flow);
  }

  /** Where notes are gathered: they are read where words lead to them, and nothing else stands there. */
  private beside(list: Element): void {
    if (!this.looked(list)) return this.tally.add('hidden words');
    for (const child of list.childNodes)
      if (!isElement(child)) {
        if (child.nodeName === '#text' && (child as DefaultTreeAdapterTypes.TextNode).value.trim())
          this.tally.add('words beside notes');
      } else if (!this.noted.has(child)) this.beside(child);
      else if (!this.looked(child)) this.tally.add('hidden words');
  }

  private element(node: Element, flow: Flow): void {
    const { tagName } = node;
    if (tagName === 'br') this.spans.push({ text: '\n', marks: [], link: '', note: null });
    else if (tagName === 'hr') this.rule(node);
    else if (tagName === 'img') this.image(node, []);
    else if (tagName === 'figure') this.figure(node, flow);
    else if (/^h[1-6]$/.test(tagName)) this.asBlock({ ...flow, role: `heading ${tagName[1]}` as Role, level: -1 }, node);
    else if (tagName === 'ul' || tagName === 'ol' || tagName === 'menu') this.list(node, flow);
    else if (tagName === 'blockquote') this.asBlock({ ...flow, role: 'quote' }, node);
    else if (tagName === 'pre') this.asBlock({ ...flow, kept: true, marks: [...flow.marks, 'code'] }, node);
    else if (tagName === 'table') this.table(node, flow);
    else if (tagName === 'q') {
      this.text('“');
      this.within(flow, node);
      this.text('”');
    } else if (BLOCKS.has(tagName)) this.asBlock(tagName === 'dt' ? { ...flow, marks: [...flow.marks, 'bold'] } : flow, node);
    else {
      if (!PLAIN.has(tagName) && !EMPHASIS[tagName]) this.tally.add(tagName);
      this.within(flow, node);
    }
  }

  private rule(node: Element): void {
    this.flush();
    const page = /(^|\s)page(\s|$)/.test(attributeIn(node, 'class') ?? '') || /page/.test(attributeIn(node, 'style') ?? '');
    this.blocks.push({ block: 'break', of: page ? 'page' : 'line', source: '' });
  }

  private note(reference: Element): void {
    const note = this.notes.get(attributeIn(reference, 'href')!.slice(1))!;
    this.reportSign(reference, note);
    const inner = new HtmlReading(note, { ...this.around, colours: this.flow.colours }, this.tally);
    inner.noteLists.clear();
    for (const child of note.childNodes) inner.node(child);
    const spans = [...inner.blocks.flatMap((block) => (block.block === 'words' ? block.spans : [])), ...inner.spans];
    // The way back to the words is no part of the note.
    const own = spans.filter(({ link, text }) => !(link.startsWith('#') && /^\s*(↩|\u21a9\ufe0e)\s*$/.test(text)));
    this.spans.push({ text: '', marks: [], link: '', note: own });
  }

  /** The sign that leads to a note: seen, and the number by which the note is listed. */
  private reportSign(reference: Element, note: Element): void {
    let sign = '';
    const stack: Node[] = [...reference.childNodes].reverse();
    while (stack.length) {
      const next = stack.pop()!;
      if (next.nodeName === '#text') sign += (next as DefaultTreeAdapterTypes.TextNode).value;
      else if (isElement(next)) {
        if (!this.looked(next)) this.tally.add('hidden words');
        stack.push(...next.childNodes.slice().reverse());
      }
    }
    const list = note.parentNode;
    const number = /^\[?(\d+)\]?$/.exec(sign.trim())?.[1];
    if (number === undefined || note.tagName !== 'li' || list?.nodeName !== 'ol') return;
    const start = Number(attributeIn(list as Element, 'start') ?? 1);
    if (placesIn(list as Element).get(note)! + start !== Number(number)) this.tally.add('number of a note that is another');
  }

  private list(node: Element, flow: Flow): void {
    this.flush();
    const numbered = node.tagName === 'ol';
    if (attributeIn(node, 'reversed') !== undefined) this.tally.add('numbers backwards');
    if (!/^(1|disc)?$/.test(attributeIn(node, 'type') ?? '')) this.tally.add('letters as numbers');
    let number = Number(attributeIn(node, 'start') ?? 1);
    if (!Number.isInteger(number) || number < 0) number = 1;
    const before = this.flow;
    this.flow = { ...flow, role: 'body', level: flow.level + 1 };
    for (const child of node.childNodes) {
      if (!isElement(child)) {
        this.node(child);
        continue;
      }
      if (child.tagName !== 'li') {
        this.node(child);
        continue;
      }
      const stated = Number(attributeIn(child, 'value') ?? NaN);
      if (numbered && Number.isInteger(stated) && stated >= 0) number = stated;
      const own = this.looked(child);
      if (!own) {
        this.tally.add('hidden words');
        continue;
      }
      this.flush();
      this.item = { role: numbered ? 'numbered' : 'bullet', start: numbered ? number : null };
      this.within({ ...own, role: 'body', level: this.flow.level }, child);
      const outer = this.flow;
      this.flow = { ...outer, align: own.align };
      this.flush();
      this.flow = outer;
      this.item = null;
      number++;
    }
    this.flow = before;
  }

  private image(node: Element, caption: readonly ProseSpan[]): void {
    this.flush();
    const source = attributeIn(node, 'src') ?? '';
    const picture = this.around.picture(source);
    const word = picture?.word ?? null;
    if (word === null) this.tally.add('picture that is not in it');
    const own = new Map(declarations(node)).get('width');
    const width = lengthInMm(own ?? attributeIn(node, 'width'));
    const height = heightOf(node);
    const wanted = picture ? (width || (picture.width * 25.4) / 96) * (picture.height / picture.width) : 0;
    if (height !== undefined && height !== 'auto' && Math.abs(lengthInMm(height) - wanted) > Math.max(0.3, STRETCHED * wanted))
      this.tally.add('stretched picture');
    this.blocks.push({
      block: 'picture',
      picture: word ?? '',
      alt: attributeIn(node, 'alt') ?? '',
      width,
      caption,
      source: '',
    });
  }

  /** Words below an element, as one run. @param flow what stands around them, where the element's own looks are known */
  private wordsIn(node: Element, flow: Flow | null = this.looked(node)): readonly ProseSpan[] {
    if (!flow) this.tally.add('hidden words');
    const { spans, blocks, item } = this;
    const at = blocks.length;
    this.spans = [];
    this.item = null;
    const before = this.flow;
    this.flow = { ...startOf(flow?.colours ?? before.colours), marks: flow?.marks ?? [] };
    for (const child of node.childNodes) this.node(child);
    this.flow = before;
    const found: ProseSpan[] = [];
    const add = (more: readonly ProseSpan[]) => {
      if (found.length && more.length) found.push({ text: '\n', marks: [], link: '', note: null });
      found.push(...more);
    };
    for (const block of blocks.splice(at)) {
      if (block.block === 'words') add(block.spans);
      else this.tally.add(`${block.block} in a cell`);
    }
    if (this.spans.some(({ text, note }) => note || /[^ \t\r\n\f]/.test(text))) add(this.spans);
    [this.spans, this.item] = [spans, item];
    return found;
  }

  private figure(node: Element, flow: Flow): void {
    const images: Element[] = [];
    let caption: Element | undefined;
    const stack = [...node.childNodes];
    let plain = true;
    while (stack.length) {
      const child = stack.shift()!;
      if (!isElement(child)) {
        if (child.nodeName === '#text' && (child as DefaultTreeAdapterTypes.TextNode).value.trim()) plain = false;
      } else if (child.tagName === 'img') images.push(child);
      else if (child.tagName === 'figcaption') caption = child;
      else if (['p', 'div', 'a', 'span'].includes(child.tagName)) {
        if (!this.looked(child)) this.tally.add('hidden picture');
        stack.push(...child.childNodes);
      } else plain = false;
    }
    if (!plain || images.length !== 1) return this.asBlock(flow, node);
    this.flush();
    const words = caption ? this.wordsIn(caption) : [];
    if (this.looked(images[0]!)) this.image(images[0]!, words);
    else this.tally.add('hidden picture');
  }

  private table(node: Element, of: Flow): void {
    this.flush();
    const rows: { cells: Element[]; head: boolean; flow: Flow }[] = [];
    const outer = this.flow;
    let caption: readonly ProseSpan[] = [];
    const gather = (from: Element, head: boolean, flow: Flow) => {
      this.flow = flow;
      for (const child of from.childNodes) {
        if (!isElement(child)) continue;
        if (child.tagName === 'caption') caption = this.wordsIn(child);
        else if (['thead', 'tbody', 'tfoot'].includes(child.tagName)) {
          const within = this.looked(child);
          if (within) gather(child, child.tagName === 'thead', within);
          else this.tally.add('hidden rows');
          this.flow = flow;
        } else if (child.tagName === 'tr') {
          const cells = child.childNodes.filter((one): one is Element => isElement(one) && /^t[dh]$/.test(one.tagName));
          const within = this.looked(child);
          if (!within) this.tally.add('hidden rows');
          else if (cells.length) rows.push({ cells, head: head || cells.every(({ tagName }) => tagName === 'th'), flow: within });
        }
      }
    };
    gather(node, false, of);
    const grid = rows.map(({ cells, flow }, at) =>
      cells.flatMap((cell) => {
        // The heads of a table are its first row.
        if ((cell.tagName === 'th') !== (at === 0 && rows[0]!.head)) this.tally.add('cell that is a head, or none');
        this.flow = flow;
        const own = this.looked(cell);
        const across = Math.min(100, Math.max(1, Number(attributeIn(cell, 'colspan') ?? 1) || 1));
        if (across > 1 || Number(attributeIn(cell, 'rowspan') ?? 1) > 1) this.tally.add('cell across several');
        return [this.wordsIn(cell, own), ...Array.from({ length: across - 1 }, (): readonly ProseSpan[] => [])];
      }),
    );
    this.flow = outer;
    if (!grid.length) return;
    const wide = grid.reduce((most, row) => Math.max(most, row.length), 1);
    this.blocks.push({
      block: 'table',
      head: rows[0]!.head,
      caption,
      grid: grid.map((row) => [...row, ...Array.from({ length: wide - row.length }, (): readonly ProseSpan[] => [])]),
      source: '',
    });
  }

  all(): ProseBlock[] {
    for (const child of this.root.childNodes) this.node(child);
    this.flush();
    return normaliseBlocks(this.blocks);
  }
}

/**
 * Elements of a page as a text. What is hidden, is run or can't be read is counted.
 * @param root what holds them
 */
export const textOfHtml = (root: Element, around: Around, tally: Tally): ProseBlock[] =>
  new HtmlReading(root, around, tally).all();
