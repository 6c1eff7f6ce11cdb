import type { Tally } from '../../contracts/tally';
import { type XmlNode, childOf, childrenOf, own, wordsBelow } from '../../base/bytes/xml-tree';
import type { Leaf } from '../../contracts/leaf';
import type { ProseBlock } from '../../content/prose/prose';
import { textOf } from '../../content/prose/words';
import { NOTE_SIGN } from '../../document/texts/words';

/** What is said about a book, which changes nothing that is read (EPUB 3.3, 5.5); how pages are laid out is asked below. */
const RENDITION = /^rendition:/;

/** Tells what a book says of how it is read that is not followed, and that parts of it are locked. */
export function reportBook(book: XmlNode, entries: ReadonlyMap<string, Uint8Array>, tally: Tally): void {
  const spine = childOf(book, 'spine');
  if (own(spine ?? book, 'page-progression-direction') === 'rtl') tally.add('pages from right to left');
  for (const one of childrenOf(childOf(book, 'metadata'), 'meta')) {
    const property = own(one, 'property') ?? '';
    if (RENDITION.test(property) && !/^(reflowable|auto|paginated)$/.test(wordsBelow(one).trim()))
      tally.add(`“${property.slice(0, 40)}” of the book`);
  }
  for (const reference of childrenOf(spine, 'itemref'))
    if (/rendition:/.test(own(reference, 'properties') ?? '')) tally.add('part that is laid out by itself');
  if (entries.has('META-INF/encryption.xml')) tally.add('parts that are locked');
}

/** Tells where a book is called otherwise than its first text, or says that it is in another language than all of them. */
export function reportName(metadata: XmlNode | undefined, leaves: readonly Leaf<'prose'>[], tally: Tally): void {
  const said = (name: string) =>
    wordsBelow(childOf(metadata, name) ?? NOTHING)
      .replace(/\s+/g, ' ')
      .trim();
  const [first] = leaves;
  if (!first) return;
  const names = [first.label, ...(/^(Text 1)?$/.test(first.label) ? ['Text'] : [])];
  if (!names.includes(said('title'))) tally.add('title of the book');
  const languages = leaves.map(({ body }) => body.language || 'und');
  if (!languages.includes(said('language') || 'und')) tally.add('language of the book');
}
const NOTHING: XmlNode = { name: '', attributes: {}, children: [] };

const squeezed = (text: string): string => text.replaceAll(NOTE_SIGN, '').replace(/\s+/g, '').toLowerCase();

/**
 * Tells of lines of the contents that name no text of the book and no heading in one, or lead elsewhere; and where contents of ours have none.
 * @param isRead whether an address is that of a part that is read
 */
export function reportContents(
  lines: readonly ProseBlock[],
  leaves: readonly Leaf<'prose'>[],
  isRead: (link: string) => boolean,
  isOurs: boolean,
  tally: Tally,
): void {
  if (isOurs && !lines.length) tally.add('contents without lines');
  const known = new Set<string>();
  leaves.forEach(({ label, body }, i) => {
    known.add(squeezed(label || `Text ${i + 1}`));
    for (const block of body.blocks)
      if (block.block === 'words' && block.role.startsWith('heading')) known.add(squeezed(textOf(block.spans)));
  });
  for (const line of lines)
    if (line.block !== 'words') tally.add('something in the contents that is no line');
    else if (!known.has(squeezed(textOf(line.spans)))) tally.add('line of the contents that names nothing in the book');
    else if (line.spans.some(({ link }) => link && !isRead(link))) tally.add('line of the contents that leads elsewhere');
}
