import type { DefaultTreeAdapterTypes } from 'parse5';
import type { Alignment, Emphasis } from '../../document/texts/schema';
import { ALIGN, TAGS } from './html-write';

/** Elements that say how their words look. */
export const EMPHASIS: Readonly<Record<string, Emphasis>> = {
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
/** Alignments by what CSS calls them. */
export const ALIGNMENT = new Map(Object.entries(ALIGN).map(([own, css]) => [css as string, own as Alignment]));
ALIGNMENT.set('start', 'left');

export const isElement = (node: DefaultTreeAdapterTypes.ChildNode): node is DefaultTreeAdapterTypes.Element => 'tagName' in node;

/** Elements that are laid out as blocks and say nothing else. */
export const BLOCKS = new Set(
  'p div article section main header footer nav aside address dl dt dd fieldset form hgroup search summary details center figure figcaption body html'.split(
    ' ',
  ),
);
/** Elements within words that add nothing that one sees. */
export const PLAIN = new Set('span a abbr time data bdi label output wbr'.split(' '));
/** What shows and can't be read as a text. */
export const OTHER = new Set(
  'svg math video audio canvas iframe object embed input button select textarea meter progress map area marquee frameset frame applet dialog picture ruby'.split(
    ' ',
  ),
);
/** Elements that show nothing. */
export const UNSEEN = new Set(
  'script style template noscript head title meta link base datalist source track param col colgroup'.split(' '),
);
/** Attributes that say nothing that one sees, or that are read where they stand. */
export const QUIET =
  /^(?:(?:class|id|role|lang|dir|title|tabindex|translate|spellcheck|accesskey|href|rel|target|download|type|src|alt|width|height|loading|start|value|colspan|rowspan|scope|headers|datetime|name|style|align|itemprop|itemscope|itemtype|itemid|hidden|open|cite|xmlns)$|epub:|xml:|xmlns:|aria-|data-)/;

/** Signs of items as they are where nothing is said. */
export const isUsualList = (value: string, tagName: string): boolean =>
  value
    .split(/\s+/)
    .every((word) => (tagName === 'ol' ? /^(decimal|inside|outside)$/ : /^(disc|circle|square|inside|outside)$/).test(word));

const places = new WeakMap<DefaultTreeAdapterTypes.Element, ReadonlyMap<DefaultTreeAdapterTypes.ChildNode, number>>();
/** The items of a list with their places; counted once, however many lead to them. */
export function placesIn(list: DefaultTreeAdapterTypes.Element): ReadonlyMap<DefaultTreeAdapterTypes.ChildNode, number> {
  let found = places.get(list);
  if (!found) {
    const items = list.childNodes.filter((one) => one.nodeName === 'li');
    places.set(list, (found = new Map(items.map((item, at) => [item, at]))));
  }
  return found;
}

/** So much may a picture be higher or lower than its width says. */
export const STRETCHED = 0.02;
/** Elements within elements that are read one by one. */
export const DEEPEST_NESTING = 500;
