import type { DefaultTreeAdapterTypes } from 'parse5';
import type { Tally } from '../../bytes/tally';
import { tidyBlocks } from '../../content/prose/lists';
import { type ProseBlock, type ProseSpan, plainWords } from '../../content/prose/prose';
import { type Alignment, DEEPEST, type Emphasis, type Role } from '../../master/texts/schema';
import { ALIGN, TAGS } from './html-write';
import { lengthInMm } from './lengths';

type Element = DefaultTreeAdapterTypes.Element;
type Node = DefaultTreeAdapterTypes.ChildNode;
const isElement = (node: Node): node is Element => 'tagName' in node;
export const attributeIn = (element: Element, name: string): string | undefined =>
  element.attrs.find((one) => (one.prefix ? `${one.prefix}:${one.name}` : one.name) === name)?.value;

const EMPHASIS: Readonly<Record<string, Emphasis>> = {
  ...Object.fromEntries(Object.entries(TAGS).map(([mark, tag]) => [tag, mark as Emphasis])),
  b: 'bold',
  i: 'italic',
  cite: 'italic',
  dfn: 'italic',
  var: 'italic',
  address: 'italic',
  ins: 'underlined',
  del: 'struck',
  strike: 'struck',
  kbd: 'code',
  samp: 'code',
  tt: 'code',
};
const ALIGNMENT = new Map(Object.entries(ALIGN).map(([own, css]) => [css as string, own as Alignment]));
ALIGNMENT.set('start', 'left');

/** Elements that are laid out as blocks and say nothing else. */
const BLOCKS = new Set(
  'p div article section main header footer nav aside address dl dt dd fieldset form hgroup search summary details center figure figcaption body html'.split(
    ' ',
  ),
);
/** Elements within words that add nothing that one sees. */
const PLAIN = new Set('span a abbr time data bdi label output wbr'.split(' '));
/** What shows and can't be read as a text. */
const OTHER = new Set(
  'svg math video audio canvas iframe object embed input button select textarea meter progress map area marquee frameset frame applet dialog picture ruby'.split(
    ' ',
  ),
);
const UNSEEN = new Set(
  'script style template noscript head title meta link base datalist source track param col colgroup'.split(' '),
);
/** Attributes that say nothing that one sees, or that are read where they stand. */
const QUIET =
  /^(?:(?:class|id|role|lang|dir|title|tabindex|href|rel|target|download|type|src|alt|width|height|loading|start|value|colspan|rowspan|scope|headers|datetime|name|style|align|itemprop|itemscope|itemtype|itemid|hidden|open|cite|xmlns)$|epub:|xml:|xmlns:|aria-|data-)/;

/** Elements within elements that are read one by one. */
const DEEPEST_NESTING = 500;

/** The picture that a reference means; null where it can't be had. */
type PictureAt = (source: string) => string | null;

interface Flow {
  readonly role: Role;
  readonly level: number;
  readonly align: Alignment;
  readonly marks: readonly Emphasis[];
  readonly link: string;
  /** Whether blanks and ends of lines are as they stand. */
  readonly kept: boolean;
}
const START: Flow = { role: 'body', level: -1, align: 'left', marks: [], link: '', kept: false };

const stylesIn = (element: Element): Map<string, string> =>
  new Map(
    (attributeIn(element, 'style') ?? '')
      .split(';')
      .map((one) => one.split(':').map((part) => part.trim().toLowerCase()))
      .filter((pair): pair is [string, string] => pair.length >= 2 && pair[0] !== ''),
  );

/** How much room a block has, and where pages end: no word comes or goes by it. */
const ROOM = /^(width|height|max-width|margin.*|padding.*|break-.*|page-break-.*|orphans|widows|list-style.*)$/;
/** Room that leaves nothing to be seen: below nothing, off the page, or as good as none. */
const isRoomForNothing = (name: string, value: string): boolean =>
  /(^|[\s(])-/.test(value) ||
  (/^(margin|padding)/.test(name) && /(^|[^.\d])\d{4}/.test(value)) ||
  (/^(width|height|max-width)$/.test(name) && Number.parseFloat(value) < 4);

class Reading {
  readonly blocks: ProseBlock[] = [];
  private spans: ProseSpan[] = [];
  private flow = START;
  /** The first words of an item are its own; what comes after goes on with it. */
  private item: { role: Role; start: number | null } | null = null;
  private readonly notes = new Map<string, Element>();
  private readonly noted = new Set<Element>();
  private readonly noteLists = new Set<Element>();

  constructor(
    private readonly root: Element,
    private readonly picture: PictureAt,
    private readonly tally: Tally,
  ) {
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
    const text = kept ? value.replace(/\r\n?/g, '\n') : value.replace(/[ \t\r\n\f]+/g, ' ');
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
    const align = attributeIn(element, 'align')?.toLowerCase() ?? (element.tagName === 'center' ? 'center' : undefined);
    if (align && ALIGNMENT.has(align)) flow = { ...flow, align: ALIGNMENT.get(align)! };
    if (attributeIn(element, 'hidden') !== undefined) return null;
    for (const [name, value] of stylesIn(element)) {
      if (name === 'text-align' && ALIGNMENT.has(value)) flow = { ...flow, align: ALIGNMENT.get(value)! };
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
      else if (!ROOM.test(name) || isRoomForNothing(name, value) || element.tagName === 'li') this.tally.add(`style ${name}`);
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
    if (OTHER.has(tagName)) return this.tally.add(tagName);
    if (this.noteLists.has(node) || this.noted.has(node)) return;
    const flow = this.looked(node);
    if (!flow) return this.tally.add('hidden words');
    if (this.isReference(node) && this.notes.has(attributeIn(node, 'href')!.slice(1))) return this.note(node);
    this.element(node, flow);
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
    else if (tagName === 'table') this.table(node);
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
    const inner = new Reading(note, this.picture, this.tally);
    inner.noteLists.clear();
    for (const child of note.childNodes) inner.node(child);
    const spans = [...inner.blocks.flatMap((block) => (block.block === 'words' ? block.spans : [])), ...inner.spans];
    // The way back to the words is no part of the note.
    const own = spans.filter(({ link, text }) => !(link.startsWith('#') && /^\s*(↩|\u21a9\ufe0e)\s*$/.test(text)));
    this.spans.push({ text: '', marks: [], link: '', note: own });
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
    const word = this.picture(source);
    if (word === null) this.tally.add('picture that is not in it');
    const own = stylesIn(node).get('width');
    const width = lengthInMm(own ?? attributeIn(node, 'width'));
    this.blocks.push({
      block: 'picture',
      picture: word ?? '',
      alt: attributeIn(node, 'alt') ?? '',
      width,
      caption,
      source: '',
    });
  }

  /** Words below an element, as one run. */
  private wordsIn(node: Element): readonly ProseSpan[] {
    const { spans, blocks, item } = this;
    const at = blocks.length;
    this.spans = [];
    this.item = null;
    const before = this.flow;
    this.flow = { ...START, marks: [] };
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
      else if (['p', 'div', 'a', 'span'].includes(child.tagName)) stack.push(...child.childNodes);
      else plain = false;
    }
    if (!plain || images.length !== 1) return this.asBlock(flow, node);
    this.flush();
    const words = caption ? this.wordsIn(caption) : [];
    if (this.looked(images[0]!)) this.image(images[0]!, words);
    else this.tally.add('hidden picture');
  }

  private table(node: Element): void {
    this.flush();
    const rows: { cells: Element[]; head: boolean }[] = [];
    let caption: readonly ProseSpan[] = [];
    const gather = (from: Element, head: boolean) => {
      for (const child of from.childNodes) {
        if (!isElement(child)) continue;
        if (child.tagName === 'caption') caption = this.wordsIn(child);
        else if (['thead', 'tbody', 'tfoot'].includes(child.tagName)) {
          if (this.looked(child)) gather(child, child.tagName === 'thead');
          else this.tally.add('hidden rows');
        } else if (child.tagName === 'tr') {
          const cells = child.childNodes.filter((one): one is Element => isElement(one) && /^t[dh]$/.test(one.tagName));
          if (!this.looked(child)) this.tally.add('hidden rows');
          else if (cells.length) rows.push({ cells, head: head || cells.every(({ tagName }) => tagName === 'th') });
        }
      }
    };
    gather(node, false);
    const grid = rows.map(({ cells }) =>
      cells.flatMap((cell) => {
        const across = Math.min(100, Math.max(1, Number(attributeIn(cell, 'colspan') ?? 1) || 1));
        if (across > 1 || Number(attributeIn(cell, 'rowspan') ?? 1) > 1) this.tally.add('cell across several');
        if (!this.looked(cell)) this.tally.add('hidden cell');
        return [this.wordsIn(cell), ...Array.from({ length: across - 1 }, (): readonly ProseSpan[] => [])];
      }),
    );
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
    return tidyBlocks(this.blocks);
  }
}

/**
 * Elements of a page as a text. What is hidden, is run or can't be read is counted.
 * @param root what holds them
 */
export const textOfHtml = (root: Element, picture: PictureAt, tally: Tally): ProseBlock[] =>
  new Reading(root, picture, tally).all();
