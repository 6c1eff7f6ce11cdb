import type { DefaultTreeAdapterTypes } from 'parse5';
import type { Tally } from '../../contracts/tally';
import { isTold } from '../../evaluate/pictures/told';
import { partsOf } from '../../evaluate/pictures/tones';
import { alphaOf, parseColour } from '../svg/style';

type Element = DefaultTreeAdapterTypes.Element;

const names = (text: string): ReadonlySet<string> => new Set(text.trim().split(/\s+/));

/** Elements that are read as tables, or hold and set words without saying or hiding any (HTML, 4.3 to 4.9). */
const NEUTRAL = names(
  `html head body meta main div section article header footer aside nav hgroup address center table caption colgroup col
   thead tbody tfoot tr td th span a b strong i em u ins small big sub sup code kbd samp var abbr cite dfn mark label font tt nobr
   time data br wbr bdi`,
);
/** Elements that are told where the page is read, and what is never drawn. */
const TOLD_ELSEWHERE = names(
  `script style img svg video audio canvas iframe object embed form input button p h1 h2 h3 h4 h5 h6 ul ol dl pre blockquote link
   template datalist`,
);

/** Attributes that are read, or change neither what is said nor whether one sees it (HTML, 3.2.6). */
const ATTRIBUTE = new RegExp(
  `^(?:${[
    'class|id|lang|title|scope|abbr|align|valign|width|height|border|cellpadding|cellspacing|rules|frame|nowrap|summary|headers',
    'colspan|rowspan|span|charset|content|name|property|value|datetime|href|target|rel|role|tabindex|translate|spellcheck|slot',
    'itemprop|itemscope|itemtype|itemid|xmlns|bgcolor|link|vlink|alink|text|face|style|dir|hidden|http-equiv|accesskey|cite',
    'data-[-a-z0-9._]*|aria-[a-z]*|xml:lang|xmlns:[a-z]*|epub:[a-z]*',
  ].join('|')})$`,
);

/** Declarations of style that change neither what is said nor whether one sees it. */
const STYLES: Readonly<Record<string, (value: string) => boolean>> = {
  'text-align': () => true,
  'vertical-align': (value) => !/\d/.test(value),
  'white-space': () => true,
  'font-family': () => true,
  'font-weight': () => true,
  'font-style': () => true,
  'font-variant-numeric': () => true,
  'font-size': (value) => isRead(value),
  'line-height': (value) => value === 'normal' || Number.parseFloat(value) >= 0.8,
  'border-collapse': () => true,
  'border-spacing': () => true,
  'caption-side': () => true,
  'table-layout': () => true,
  'empty-cells': () => true,
  'min-width': () => true,
  'min-height': () => true,
  width: (value) => value === 'auto' || Number.parseFloat(value) >= 4,
  visibility: (value) => value === 'visible',
  display: (value) => /^(block|inline|inline-block|table|table-cell|table-row|table-row-group|table-caption)$/.test(value),
  opacity: (value) => Number(value) === 1,
  position: (value) => value === 'static',
  direction: (value) => value === 'ltr',
  'letter-spacing': (value) => isALittle(value),
  'word-spacing': (value) => isALittle(value),
  'max-width': (value) => value === 'none' || Number.parseFloat(value) >= 4,
  'box-sizing': () => true,
  cursor: () => true,
  hyphens: () => true,
  orphans: () => true,
  widows: () => true,
  'text-decoration': (value) => !/line-through|blink/.test(value),
  'text-decoration-line': (value) => !/line-through|blink/.test(value),
};
/** Letters and words that are a little nearer or farther than usual. */
const isALittle = (value: string): boolean =>
  value === 'normal' || /^(0|-?0?\.0\d*em|0?\.[1-4]\d*em|[0-4](\.\d+)?(px|pt)|-?0?\.\d+(px|pt))$/.test(value);
/** Lengths of a shadow that stays beside what throws it. */
const isNear = (value: string): boolean => !/inset|calc|[^.\d]\d{3}|^\d{3}|\d(em|rem|v\w+|in|cm|mm|ch|ex|q)/.test(value);

/** Families of declarations: lines and grounds around cells, and room that is not below nothing or off the page. */
const FAMILIES: readonly (readonly [RegExp, (value: string) => boolean])[] = [
  [/^border(-|$)/, () => true],
  [/^(padding|margin)(-|$)/, (value) => !/(^|[\s(])-|(^|[^.\d])\d{4}/.test(value)],
  [/^(break|page-break)-/, () => true],
  [/^box-shadow$/, isNear],
  [/^transition(-|$)/, () => true],
  [/^mso-/, () => true],
  // A name for a value says nothing until somebody asks for it.
  [/^--/, () => true],
];
/** Values that stand elsewhere. */
const ASKED = /\b(var|env|attr)\(/;

/** Whether a declaration changes neither what is said nor whether one sees it; colours are asked for by themselves. */
export const isNeutral = (name: string, value: string): boolean =>
  (name.startsWith('--') || !ASKED.test(value)) &&
  ((STYLES[name] ?? FAMILIES.find(([family]) => family.test(name))?.[1])?.(value) ?? false);

const isRead = (size: string): boolean => {
  const found = /^([\d.]+)(px|pt|em|rem|%|)$/.exec(size);
  if (!found) return /^(small|medium|large|x-small|x-large|xx-large|smaller|larger)$/.test(size);
  const least = { px: 6, pt: 5, em: 0.5, rem: 0.5, '%': 50, '': 6 }[found[2] as 'px'];
  return Number(found[1]) >= least;
};

/** Red, green and blue, 0 to 255; null where it is none, is seen through, or can't be read. */
export function colourOf(value: string): readonly number[] | null {
  const colour = parseColour(value);
  return colour && alphaOf(value) === 1 ? partsOf(colour).map((part) => part * 255) : null;
}

/** Colours that are in force where an element stands. */
export interface Colours {
  readonly letters: readonly number[];
  readonly ground: readonly number[];
}
export const PLAIN_COLOURS: Colours = { letters: [20, 33, 58], ground: [255, 255, 255] };

const attributeOf = (element: Element, name: string): string | undefined =>
  element.attrs.find((one) => (one.prefix ? `${one.prefix}:${one.name}` : one.name) === name)?.value;

/** What an element's own style says, one declaration after the other. */
export const declarations = (element: Element): (readonly [string, string])[] =>
  (attributeOf(element, 'style') ?? '').split(';').flatMap((one) => {
    const at = one.indexOf(':');
    const value = one
      .slice(at + 1)
      .replace(/!\s*important/i, '')
      .trim()
      .toLowerCase();
    return at < 0 ? [] : [[one.slice(0, at).trim().toLowerCase(), value] as const];
  });

/**
 * Tells whatever of an element may add to, hide or turn round what its page says. Only what is listed here as neutral is.
 * @param around colours where it stands
 * @returns colours within it
 */
export function reportShown(element: Element, around: Colours, tally: Tally): Colours {
  const { tagName } = element;
  if (['del', 's', 'strike'].includes(tagName)) tally.add('words struck out');
  else if (!NEUTRAL.has(tagName) && !TOLD_ELSEWHERE.has(tagName) && !isNameOfPage(element)) tally.add(tagName.slice(0, 40));
  for (const { name, prefix, value } of element.attrs) {
    const full = prefix ? `${prefix}:${name}` : name;
    if (/^on/.test(full)) tally.add('script');
    else if (!ATTRIBUTE.test(full) && !(full === 'type' && /^(link|style)$/.test(tagName)))
      tally.add(`attribute ${full.slice(0, 40)}`);
    else if (full === 'dir' && value.toLowerCase() !== 'ltr') tally.add('words from right to left');
    else if (full === 'http-equiv' && value.toLowerCase() === 'refresh') tally.add('another page after a while');
    else if (full === 'hidden' && !['tr', 'td', 'th', 'table'].includes(tagName)) tally.add('hidden words');
  }
  for (const [name, value] of declarations(element))
    if (!isColour(name) && !isHiding(element, name, value) && !isNeutral(name, value)) tally.add(`style ${name.slice(0, 40)}`);
  return coloursWithin(element, around, tally);
}

const isNameOfPage = ({ tagName, parentNode }: Element): boolean => tagName === 'title' && parentNode?.nodeName === 'head';

/** Whether a declaration says the colour of letters or of what lies behind them. */
export const isColour = (name: string): boolean => /^(color|background(-color)?)$/.test(name);

/** Colours within an element; told where they can't be read, and where words are not told from what lies behind them. */
export function coloursWithin(element: Element, around: Colours, tally: Tally): Colours {
  let { letters, ground } = around;
  const paint = (value: string, what: string): readonly number[] | null => {
    const colour = colourOf(value);
    const same = what === 'color' ? /^(inherit|unset)$/ : /^(inherit|initial|unset|transparent|none)$/;
    if (!colour && !same.test(value)) tally.add(`style ${what}`);
    return colour;
  };
  for (const [name, value] of declarations(element))
    if (name === 'color') letters = paint(value, name) ?? letters;
    else if (isColour(name)) ground = paint(value, name) ?? ground;
  for (const [name, of] of [
    ['bgcolor', 'ground'],
    ['color', 'letters'],
  ] as const) {
    const colour = colourOf((attributeOf(element, name) ?? '').toLowerCase());
    if (colour && of === 'ground') ground = colour;
    if (colour && of === 'letters') letters = colour;
  }
  if ((letters !== around.letters || ground !== around.ground) && !isTold(letters, ground))
    tally.add('words in the colour of what lies behind them');
  return { letters, ground };
}

/** Rows, cells and tables that are not shown are told as such where they are read. */
const isHiding = ({ tagName }: Element, name: string, value: string): boolean =>
  ['tr', 'td', 'th', 'table'].includes(tagName) &&
  ((name === 'display' && value === 'none') || (name === 'visibility' && value === 'hidden'));
