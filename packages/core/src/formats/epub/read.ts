import { type DefaultTreeAdapterTypes, parse } from 'parse5';
import { Tally } from '../../contracts/tally';
import { walkXml } from '../../base/bytes/walk-xml';
import { type XmlNode, childOf, childrenOf, own, wordsBelow, xmlTree } from '../../base/bytes/xml-tree';
import type { Services } from '../../contracts/services';
import type { Leaf } from '../../contracts/leaf';
import { Failure } from '../../base/failure/failure';
import { unpackEntries } from '../../document/native/zip';
import type { NotUnderstood } from '../../contracts/not-understood';
import { isPlainSheet, presentOn } from '../html/plain-sheet';
import { type Colours, PLAIN_COLOURS, reportShown } from '../html/shown';
import { attributeIn, textOfHtml } from '../texts/html-read';
import { TEXT_STYLE } from '../texts/html-write';
import { PicturesIn } from '../texts/pictures';
import { reportBook, reportContents, reportName } from './known';

type Element = DefaultTreeAdapterTypes.Element;
const VOID = /^(area|base|br|col|embed|hr|img|input|link|meta|source|track|wbr)$/i;

/**
 * A document of a book as elements. Its syntax is XML, which is checked before it is read as HTML: there an element of another
 * space, or one in capitals, is none of those that it looks like.
 */
function pageOf(bytes: Uint8Array, name: string, tally: Tally): DefaultTreeAdapterTypes.Document {
  const text = new TextDecoder().decode(bytes);
  // A document type without a list of its own changes nothing (EPUB 3.3, 3.9 on external entities).
  const plain = text.replace(/<!DOCTYPE\s+html[^[>]*>/i, '');
  walkXml(new TextEncoder().encode(plain), name, {
    open: (element) => {
      if (/[{A-Z]/.test(element)) tally.add(`element “${element.slice(0, 40)}”`);
    },
  });
  const open = plain
    .replace(/<\?[\s\S]*?\?>/g, '')
    .replace(/<!\[CDATA\[([\s\S]*?)\]\]>/g, (_, inner: string) => inner.replace(/&/g, '&amp;').replace(/</g, '&lt;'))
    .replace(
      /<([A-Za-z][\w:.-]*)((?:\s+[\w:.-]+\s*=\s*(?:"[^"]*"|'[^']*'))*)\s*\/>/g,
      (whole, tag: string, attributes: string) => (VOID.test(tag) ? whole : `<${tag}${attributes}></${tag}>`),
    );
  return parse(open);
}

const elementsOf = (document: DefaultTreeAdapterTypes.Document): Element[] => {
  const found: Element[] = [];
  const stack: DefaultTreeAdapterTypes.ChildNode[] = [...document.childNodes].reverse();
  while (stack.length) {
    const next = stack.pop()!;
    if (!('tagName' in next)) continue;
    found.push(next);
    stack.push(...next.childNodes.slice().reverse());
  }
  return found;
};

const join = (base: string, href: string): string => {
  const parts = base.split('/').slice(0, -1);
  let plain = href.split('#')[0]!;
  try {
    plain = decodeURIComponent(plain);
  } catch {
    // It is named as it stands.
  }
  for (const part of plain.split('/'))
    if (part === '..') parts.pop();
    else if (part && part !== '.') parts.push(part);
  return parts.join('/');
};

/** Colours in which a document begins; what its head and its body say is told. */
function coloursOf(elements: readonly Element[], tally: Tally): Colours {
  let colours = PLAIN_COLOURS;
  for (const one of elements) {
    const isHead = one.parentNode?.nodeName === 'head';
    if (isHead) reportShown(one, colours, tally);
    else if (/^(html|body)$/.test(one.tagName)) colours = reportShown(one, colours, tally);
  }
  return colours;
}

/** Whether an address is one of the book, and not one somewhere on the net. */
const isWithin = (href: string): boolean => href !== '' && !/^[a-z][a-z0-9+.-]*:/i.test(href);

/** @throws Failure `package-damaged` and what unpacking throws */
export async function readEpub(
  bytes: Uint8Array,
  services: Partial<Services>,
): Promise<{ leaves: Leaf<'prose'>[]; mark: string | null; notUnderstood: readonly NotUnderstood[] }> {
  const entries = unpackEntries(bytes);
  const part = (name: string): XmlNode => {
    const found = entries.get(name);
    if (!found) throw new Failure('package-damaged', `The book has no “${name}”, which it says is there.`);
    return xmlTree(found, name);
  };
  const root = childrenOf(childOf(part('META-INF/container.xml'), 'rootfiles'), 'rootfile')[0];
  const at = root && own(root, 'full-path');
  if (!at) throw new Failure('package-damaged', 'The book does not say where its list of documents is.');
  const book = part(at);
  const metadata = childOf(book, 'metadata');
  const tally = new Tally();
  const hrefs = new Map(childrenOf(childOf(book, 'manifest'), 'item').map((item) => [own(item, 'id') ?? '', item]));
  const leaves: Leaf<'prose'>[] = [];
  const read = new Set<string>();
  const sheets = new Set<string | null>();
  const present = new Set<string>();
  // What has to be there (EPUB 3.3, 4.2.3 and 5.6.1): programs that read books refuse one without.
  const listed = [...hrefs.values()].map((item) => own(item, 'href') ?? '').filter(isWithin);
  for (const name of ['mimetype', ...listed.map((href) => join(at, href))])
    if (!entries.has(name)) tally.addBeyondSight(`missing part: ${name.slice(0, 80)}`);
  for (const reference of childrenOf(childOf(book, 'spine'), 'itemref')) {
    const item = hrefs.get(own(reference, 'idref') ?? '');
    const name = item && join(at, own(item, 'href') ?? '');
    const found = name === undefined ? undefined : entries.get(name);
    if (!item || !found)
      throw new Failure('package-damaged', `The book has no “${name ?? own(reference, 'idref')}”, which it says is read next.`);
    read.add(name!);
    if (/\bnav\b/.test(own(item, 'properties') ?? '')) continue;
    if (own(reference, 'linear') === 'no') tally.add('part beside the order of reading');
    const elements = elementsOf(pageOf(found, name!, tally));
    const body = elements.find(({ tagName }) => tagName === 'body');
    if (!body) continue;
    for (const link of elements)
      if (link.tagName === 'link' && /stylesheet/.test(attributeIn(link, 'rel') ?? '')) {
        const sheet = entries.get(join(name!, attributeIn(link, 'href') ?? ''));
        sheets.add(sheet ? new TextDecoder().decode(sheet) : null);
      } else if (link.tagName === 'style') tally.add('style sheet');
      else if (link.tagName === 'script') tally.add('script');
    const sources = elements.flatMap((one) => (one.tagName === 'img' ? [attributeIn(one, 'src') ?? ''] : []));
    const pictures = await PicturesIn.read(sources, (source) => entries.get(join(name!, source)), services);
    const html = elements.find(({ tagName }) => tagName === 'html')!;
    const language = attributeIn(html, 'lang') ?? attributeIn(html, 'xml:lang') ?? '';
    for (const one of presentOn(elements)) present.add(one);
    const around = { picture: (source: string) => pictures.of(source), language, colours: coloursOf(elements, tally) };
    const blocks = textOfHtml(body, around, tally);
    const title = elements
      .find(({ tagName }) => tagName === 'title')
      ?.childNodes.map((node) => ('value' in node ? node.value : ''));
    const shown = new Set(blocks.map((one) => (one.block === 'picture' ? one.picture : '')));
    leaves.push({
      kind: 'prose',
      key: '',
      label: (title ?? []).join('').replace(/\s+/g, ' ').trim(),
      body: {
        language,
        blocks,
        pictures: Object.fromEntries(Object.entries(pictures.all).filter(([word]) => shown.has(word))),
      },
    });
  }
  for (const sheet of sheets) if (sheet === null || !isPlainSheet(sheet, TEXT_STYLE, 'texts', present)) tally.add('style sheet');
  const origin = childrenOf(metadata, 'meta').find((one) => own(one, 'property') === 'dcterms:provenance');
  reportBook(book, entries, tally);
  for (const item of hrefs.values()) {
    if (!/\bnav\b/.test(own(item, 'properties') ?? '')) continue;
    const name = join(at, own(item, 'href') ?? '');
    const elements = entries.has(name) ? elementsOf(pageOf(entries.get(name)!, name, tally)) : [];
    const body = elements.find(({ tagName }) => tagName === 'body');
    if (!body) continue;
    const language = attributeIn(elements[0]!, 'lang') ?? attributeIn(elements[0]!, 'xml:lang') ?? '';
    const lines = textOfHtml(body, { picture: () => null, language, colours: coloursOf(elements, tally) }, tally);
    reportContents(lines, leaves, (link) => isWithin(link) && read.has(join(name, link)), origin !== undefined, tally);
  }
  // A book of others is called as its author calls it, and its parts otherwise; one of ours is called as its first text.
  if (origin) reportName(metadata, leaves, tally);
  return { leaves, mark: origin ? wordsBelow(origin) : null, notUnderstood: tally.list() };
}
