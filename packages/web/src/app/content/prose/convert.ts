import { type Block, EMPHASES, type Emphasis, type Span, type Words, isNote } from '@inkwell-twin/core/texts';
import { Fragment, Mark, type Node } from 'prosemirror-model';
import { schema } from './schema';

const { words, picture, rule, table, table_row, table_cell, table_header, end, note } = schema.nodes as Record<
  string,
  NonNullable<(typeof schema.nodes)['words']>
>;

const marksOf = ({ marks = [], link }: Words): readonly Mark[] => {
  const own = marks.map((mark) => schema.marks[mark]!.create());
  return link ? schema.marks['link']!.create({ href: link }).addToSet(own) : own;
};

/** Words of the master as they are edited. */
function inlineOf(spans: readonly Span[]): Node[] {
  return spans.flatMap((span): Node[] => {
    if (isNote(span)) return [note!.create({ note: span.note })];
    const marks = Mark.setFrom(marksOf(span) as Mark[]);
    return span.text
      .split('\n')
      .flatMap((line, i) => [...(i ? [end!.create(null, null, marks)] : []), ...(line ? [schema.text(line, marks)] : [])]);
  });
}

/** And back: stretches that look alike are one. */
function spansOf(content: Fragment): Span[] {
  const spans: Span[] = [];
  content.forEach((node) => {
    if (node.type === note) {
      spans.push({ note: node.attrs['note'] as Words[] });
      return;
    }
    const text = node.isText ? node.text! : '\n';
    const marks = EMPHASES.filter((mark: Emphasis) => node.marks.some(({ type }) => type.name === mark));
    const link = node.marks.find(({ type }) => type.name === 'link')?.attrs['href'] as string | undefined;
    const own: Words = { text, ...(marks.length ? { marks } : {}), ...(link ? { link } : {}) };
    const last = spans.at(-1);
    if (last && !isNote(last) && last.link === own.link && (last.marks ?? []).join() === marks.join())
      spans[spans.length - 1] = { ...last, text: last.text + text };
    else spans.push(own);
  });
  return spans;
}

function nodeFor(block: Block): Node {
  const { id } = block;
  switch (block.block) {
    case 'words': {
      const { role, level = 0, start = null, align = 'left', spans } = block;
      return words!.create({ id, role, level, start, align }, inlineOf(spans));
    }
    case 'table': {
      const rows = block.grid.map((row, r) =>
        table_row!.create(
          null,
          row.map((cell) => (block.head && r === 0 ? table_header! : table_cell!).create(null, inlineOf(cell))),
        ),
      );
      return table!.create({ id, caption: block.caption }, rows);
    }
    case 'picture':
      return picture!.create({ id, picture: block.picture, alt: block.alt, width: block.width, caption: block.caption });
    case 'break':
      return rule!.create({ id, of: block.of });
  }
}

function blockFor(node: Node): Block {
  const { id, ...attrs } = node.attrs as Record<string, unknown> & { id: string };
  if (node.type === table) {
    const grid: Span[][][] = [];
    node.forEach((row) => {
      const cells: Span[][] = [];
      row.forEach((cell) => void cells.push(spansOf(cell.content)));
      grid.push(cells);
    });
    const head = node.firstChild?.firstChild?.type === table_header;
    return { id, block: 'table', head, caption: attrs['caption'] as Span[], grid };
  }
  if (node.type === picture)
    return {
      id,
      block: 'picture',
      picture: attrs['picture'] as string,
      alt: attrs['alt'] as string,
      width: attrs['width'] as number,
      caption: attrs['caption'] as Span[],
    };
  if (node.type === rule) return { id, block: 'break', of: attrs['of'] as 'page' | 'line' };
  const { role, level, start, align } = attrs as { role: never; level: number; start: number | null; align: never };
  return {
    id,
    block: 'words',
    role,
    ...(level ? { level } : {}),
    ...(start === null ? {} : { start }),
    ...((align as string) === 'left' ? {} : { align }),
    spans: spansOf(node.content),
  };
}

// Both ways are gone once for each block: what did not change is the very same again.
const nodes = new WeakMap<Block, Node>();
const blocks = new WeakMap<Node, Block>();

/** A block as it is edited. */
function nodeOf(block: Block): Node {
  let node = nodes.get(block);
  if (!node) {
    nodes.set(block, (node = nodeFor(block)));
    blocks.set(node, block);
  }
  return node;
}

/** What is edited as a block. */
function blockOf(node: Node): Block {
  let block = blocks.get(node);
  if (!block) {
    blocks.set(node, (block = blockFor(node)));
    nodes.set(block, node);
  }
  return block;
}

/** A text as a document to be edited; an empty one has a place to write in. */
export const docOf = (list: readonly Block[]): Node =>
  schema.nodes['doc']!.create(null, list.length ? list.map(nodeOf) : [words!.create({ id: '' })]);

/** The blocks of a document. */
export function blocksOf(doc: Node): Block[] {
  const list: Block[] = [];
  doc.forEach((node) => void list.push(blockOf(node)));
  return list;
}

/** What is edited says what the master's blocks say: from now on they are known as those. */
export function settle(doc: Node, list: readonly Block[]): void {
  list.forEach((block, i) => {
    const node = doc.maybeChild(i);
    if (!node || blocks.get(node) === block || !node.eq(nodeOf(block))) return;
    blocks.set(node, block);
    nodes.set(block, node);
  });
}
