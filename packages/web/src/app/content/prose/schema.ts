import { EMPHASES, type Emphasis, HEADINGS, type Role } from '@inkwell-twin/core/texts';
import { type DOMOutputSpec, type MarkSpec, type Node, type NodeSpec, Schema } from 'prosemirror-model';
import { tableNodes } from 'prosemirror-tables';

/** Elements that emphasis is shown by; those that come over the clipboard are read, too. */
const EMPHASIS: Readonly<Record<Emphasis, { readonly tag: string; readonly also: readonly string[] }>> = {
  bold: { tag: 'strong', also: ['b', 'font-weight=bold'] },
  italic: { tag: 'em', also: ['i', 'font-style=italic'] },
  underlined: { tag: 'u', also: ['text-decoration=underline'] },
  struck: { tag: 's', also: ['del', 'strike'] },
  code: { tag: 'code', also: ['kbd', 'samp'] },
  raised: { tag: 'sup', also: [] },
  lowered: { tag: 'sub', also: [] },
};
const markSpec = (mark: Emphasis): MarkSpec => {
  const { tag, also } = EMPHASIS[mark];
  return {
    parseDOM: [tag, ...also].map((one) => (one.includes('=') ? { style: one } : { tag: one })),
    toDOM: () => [tag, 0],
    ...(mark === 'raised' ? { excludes: 'raised lowered' } : mark === 'lowered' ? { excludes: 'raised lowered' } : {}),
  };
};

const TAGS: Readonly<Partial<Record<Role, string>>> = {
  ...Object.fromEntries(HEADINGS.map((role, i) => [role, `h${i + 1}`])),
  quote: 'blockquote',
};

/** What an item of a list that came over the clipboard is. */
function itemOf(element: HTMLElement): { role: Role; level: number } {
  let level = -1;
  for (let at: HTMLElement | null = element; at; at = at.parentElement) if (/^(UL|OL)$/.test(at.tagName)) level++;
  return { role: element.parentElement?.tagName === 'OL' ? 'numbered' : 'bullet', level: Math.max(0, Math.min(8, level)) };
}

function wordsDom({ attrs }: Node): DOMOutputSpec {
  const { role, level, align } = attrs as { role: Role; level: number; align: string };
  const own = { 'data-role': role, 'data-level': String(level), ...(align === 'left' ? {} : { 'data-align': align }) };
  return [TAGS[role] ?? 'p', own, 0];
}

const words: NodeSpec = {
  group: 'block',
  content: 'inline*',
  attrs: {
    id: { default: '' },
    role: { default: 'body' },
    level: { default: 0 },
    start: { default: null },
    align: { default: 'left' },
  },
  defining: true,
  parseDOM: [
    { tag: 'li p', skip: true, priority: 70 },
    { tag: 'li', getAttrs: itemOf, priority: 60 },
    ...HEADINGS.map((role, i) => ({ tag: `h${i + 1}`, attrs: { role } })),
    { tag: 'blockquote p', attrs: { role: 'quote' }, priority: 60 },
    { tag: 'p' },
  ],
  toDOM: wordsDom,
};

const picture: NodeSpec = {
  group: 'block',
  attrs: {
    id: { default: '' },
    picture: { default: '' },
    alt: { default: '' },
    width: { default: 80 },
    caption: { default: [] },
  },
  atom: true,
  selectable: true,
  // As wide as the column is at most; a column is 160 mm.
  toDOM: ({ attrs }) => {
    const {
      picture: sha,
      alt,
      width,
      caption,
    } = attrs as { picture: string; alt: string; width: number; caption: { text?: string }[] };
    const said = caption.map(({ text = '' }) => text).join('');
    const image = [
      'img',
      {
        src: `/api/pictures/${sha}?most=1200`,
        alt,
        style: `width:${Math.min(100, width / 1.6).toFixed(1)}%`,
        draggable: 'false',
      },
    ] as const;
    return ['figure', {}, image, ['figcaption', {}, said]];
  },
};

const tables = tableNodes({ tableGroup: 'block', cellContent: 'inline*', cellAttributes: {} });
const table: NodeSpec = {
  ...tables.table,
  attrs: { ...tables.table.attrs, id: { default: '' }, caption: { default: [] } },
  toDOM: ({ attrs }) => {
    const { caption } = attrs as { caption: { text?: string }[] };
    return ['div', { class: 'table', 'data-caption': caption.map(({ text = '' }) => text).join('') }, ['table', ['tbody', 0]]];
  },
};

/** How a text is held while it is edited. */
export const schema = new Schema({
  nodes: {
    doc: { content: 'block+' },
    words,
    picture,
    rule: {
      group: 'block',
      attrs: { id: { default: '' }, of: { default: 'line' } },
      atom: true,
      selectable: true,
      parseDOM: [{ tag: 'hr' }],
      toDOM: ({ attrs }) => ['div', { class: 'rule', 'data-of': attrs['of'] as string }],
    },
    ...tables,
    table,
    text: { group: 'inline' },
    end: {
      inline: true,
      group: 'inline',
      selectable: false,
      linebreakReplacement: true,
      parseDOM: [{ tag: 'br' }],
      toDOM: () => ['br'],
    },
    note: {
      inline: true,
      group: 'inline',
      atom: true,
      attrs: { note: { default: [] } },
      toDOM: ({ attrs }) => {
        const said = (attrs['note'] as { text: string }[]).map(({ text }) => text).join('');
        return ['sup', { class: 'note', title: said, 'aria-label': `Note: ${said}` }, 'note'];
      },
    },
  },
  marks: {
    ...Object.fromEntries(EMPHASES.map((mark) => [mark, markSpec(mark)])),
    link: {
      attrs: { href: { default: '' } },
      inclusive: false,
      parseDOM: [{ tag: 'a[href]', getAttrs: (element: HTMLElement) => ({ href: element.getAttribute('href') }) }],
      toDOM: ({ attrs }) => ['a', { href: attrs['href'] as string, title: attrs['href'] as string, rel: 'noopener' }, 0],
    },
  },
});
