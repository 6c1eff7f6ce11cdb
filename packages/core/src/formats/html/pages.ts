import type { DefaultTreeAdapterTypes } from 'parse5';
import type { Tally } from '../../contracts/tally';
import type { Services } from '../../contracts/services';
import type { Leaf } from '../../contracts/leaf';
import { attributeIn, textOfHtml } from '../texts/html-read';
import type { Colours } from './shown';
import { PicturesIn, bytesOfData } from '../texts/pictures';

type Element = DefaultTreeAdapterTypes.Element;
export const TEXT_CLASS = 'text';

const classes = (element: Element): string[] => (attributeIn(element, 'class') ?? '').split(/\s+/);
const isText = (element: Element): boolean => element.tagName === 'article' && classes(element).includes(TEXT_CLASS);

/** Words that no table holds make a page one of text. */
const WORDY = new Set(['p', 'h1', 'h2', 'h3', 'h4', 'h5', 'h6', 'ul', 'ol', 'dl', 'pre', 'blockquote', 'article']);

/** What of a page is text: each article of ours, or all of a page that is no page of tables. */
export function textsOn(elements: readonly Element[]): Element[] {
  const articles = elements.filter(isText);
  if (articles.length) return articles;
  if (elements.some((one) => one.tagName === 'table' && classes(one).includes('rows'))) return [];
  const body = elements.find(({ tagName }) => tagName === 'body');
  if (!body) return [];
  const words = elements.some(({ tagName }) => WORDY.has(tagName));
  const loose = body.childNodes.some(
    (node) => node.nodeName === '#text' && (node as DefaultTreeAdapterTypes.TextNode).value.trim(),
  );
  const tables = elements.some(({ tagName }) => tagName === 'table');
  return words || loose || !tables ? [body] : [];
}

/** Pictures that stand in a page, by their addresses. */
export function picturesOn(elements: readonly Element[], services: Partial<Services>): Promise<PicturesIn> {
  const sources = elements.flatMap((one) => (one.tagName === 'img' ? [attributeIn(one, 'src') ?? ''] : []));
  return PicturesIn.read(sources, bytesOfData, services);
}

/** What is known of a page before a part of it is read as a text. */
interface PageAround {
  readonly language: string;
  readonly name: string;
  readonly pictures: PicturesIn;
  readonly colours: Colours;
}

/** A part of a page as a text. */
export function leafOf(element: Element, around: PageAround, tally: Tally): Leaf<'prose'> {
  const { name, pictures, colours } = around;
  const language = attributeIn(element, 'lang') ?? attributeIn(element, 'xml:lang') ?? around.language;
  const blocks = textOfHtml(element, { picture: (source) => pictures.of(source), language, colours }, tally);
  const shown = new Set(blocks.map((block) => (block.block === 'picture' ? block.picture : '')));
  return {
    kind: 'prose',
    key: '',
    label: (attributeIn(element, 'aria-label') ?? name).replace(/\s+/g, ' ').trim(),
    body: {
      language,
      blocks,
      pictures: Object.fromEntries(Object.entries(pictures.all).filter(([word]) => shown.has(word))),
    },
  };
}
