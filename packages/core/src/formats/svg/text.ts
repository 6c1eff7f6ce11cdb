import { isItalic } from './font-words';
import { fontFamilies } from './font-words';
import { isBold } from './font-words';
import { type FontName, nearestFace } from '../../document/faces';
import type { Measure } from '../../document/items';
import { parseLength } from './lengths';
import type { StyleSheet } from './style';
import type { Viewport } from './viewport';
import type { XmlElement } from './xml-element';

/** A stretch of text with one look. */
export interface TextPart {
  readonly text: string;
  readonly properties: Properties;
}

/** A stretch of text with one place, in user units. */
interface TextChunk {
  readonly x: number;
  readonly y: number;
  readonly parts: readonly TextPart[];
}

type Properties = Readonly<Record<string, string>>;

/** What reading texts needs to know of the drawing. */
interface Setting {
  readonly sheet: StyleSheet;
  readonly viewport: Viewport;
  /** Places what goes on where something else ended. */
  readonly measure: Measure;
  readonly note: (kind: string) => void;
  /** Counts what of a part of a text is not understood. */
  readonly look: (element: XmlElement, properties: Properties) => void;
}

/** A text element as chunks: a new one wherever a place is given (SVG 1.1, 10.5), with a part for each look. */
export function textChunks(element: XmlElement, properties: Properties, setting: Setting): TextChunk[] {
  const chunks: { x: number; y: number; parts: TextPart[] }[] = [];
  const { sheet, viewport, measure, note, look } = setting;
  let [x, y, fresh, preceded] = [0, 0, true, true];
  const place = (node: XmlElement, own: Properties) => {
    const em = fontSize(own, viewport);
    const first = (name: string, whole: number) => {
      const list = node.attributes[name]?.trim().split(/[\s,]+/) ?? [];
      if (list.length > 1) note('text placed letter by letter');
      return parseLength(list[0] || undefined, whole, em);
    };
    const [nx, ny] = [first('x', viewport.userWidth), first('y', viewport.userHeight)];
    const [dx, dy] = [first('dx', viewport.userWidth), first('dy', viewport.userHeight)];
    if (node.attributes['rotate'] || node.attributes['textLength']) note('turned or stretched letters');
    if (nx === undefined && ny === undefined && dx === undefined && dy === undefined) return;
    // A line about its middle or its end is one, shifts and all: where its parts stand is known only when it is whole.
    if (!fresh && nx === undefined && isAnchored(own)) note('letters shifted in a line about its middle or end');
    fresh = true;
    x = (nx ?? x) + (dx ?? 0);
    y = (ny ?? y) + (dy ?? 0);
  };
  const say = (child: string, own: Properties, preserve: boolean) => {
    let text = preserve ? child.replace(/[\r\n\t]/g, ' ') : child.replace(/\s+/g, ' ');
    // Of blanks that follow on each other one counts, and none where a text begins (SVG 1.1, 10.15).
    if (!preserve && preceded) text = text.replace(/^ /, '');
    const size = fontSize(own, viewport);
    const runs = (words: string) =>
      isAnchored(own) ? 0 : measure(shippedFont(own).font, words) * size + letterSpacing(own, size) * [...words].length;
    if (fresh && !preserve && text.startsWith(' ')) {
      x += runs(' ');
      text = text.slice(1);
      preceded = true;
    }
    if (!text || (fresh && !text.trim())) return;
    if (fresh) chunks.push({ x, y, parts: [] });
    fresh = false;
    const { parts } = chunks.at(-1)!;
    const last = parts.at(-1);
    if (last && sameLook(last.properties, own)) parts[parts.length - 1] = { ...last, text: last.text + text };
    else parts.push({ text, properties: own });
    preceded = !preserve && text.endsWith(' ');
    x += runs(text);
  };
  const visit = (node: XmlElement, own: Properties) => {
    place(node, own);
    const preserve = (node.attributes['xml:space'] ?? own['xml:space']) === 'preserve';
    for (const child of node.children) {
      if (typeof child === 'string') say(child, preserve ? { ...own, 'xml:space': 'preserve' } : own, preserve);
      else if (child.name === 'tspan' || child.name === 'a') {
        const inner = sheet.propertiesOf(child, own);
        look(child.name === 'a' ? { ...child, name: 'tspan' } : child, inner);
        if (inner['display'] !== 'none') visit(child, inner);
      } else if (child.name !== 'title' && child.name !== 'desc') note(`element ${child.name} in text`);
    }
  };
  visit(element, properties);
  for (const { parts } of chunks) {
    const last = parts.at(-1)!;
    if (last.properties['xml:space'] === 'preserve') continue;
    parts[parts.length - 1] = { ...last, text: last.text.replace(/ $/, '') };
    if (!parts.at(-1)!.text) parts.pop();
  }
  return chunks;
}

const isAnchored = ({ 'text-anchor': anchor = 'start' }: Properties): boolean => anchor === 'middle' || anchor === 'end';

const LOOK = [
  'font-family',
  'font-size',
  'font-weight',
  'font-style',
  'letter-spacing',
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-width',
  'stroke-opacity',
];
const sameLook = (a: Properties, b: Properties) => LOOK.every((name) => a[name] === b[name]);

/** Space between letters as it can be read. */
const SPACING = /^\s*[+-]?(?:\d+(?:\.\d*)?|\.\d+)(?:px|pt|pc|mm|cm|in|em|ex|rem|%)?\s*$/i;

/** Space between letters, user units; none where it can't be read. */
export function letterSpacing({ 'letter-spacing': text }: Properties, size: number): number {
  const spacing = text !== undefined && SPACING.test(text) ? parseLength(text, size, size)! : 0;
  // Beyond what a text can hold they would stand on each other, or nowhere near.
  return Math.max(-0.99 * size, Math.min(10 * size, spacing));
}

export const fontSize = (properties: Properties, { userHeight }: Viewport): number => {
  const text = properties['font-size'];
  const named: Record<string, number> = {
    'xx-small': 9,
    'x-small': 10,
    small: 13,
    medium: 16,
    large: 18,
    'x-large': 24,
    'xx-large': 32,
  };
  return text && text in named ? named[text]! : (parseLength(text, userHeight) ?? 16);
};

/** Weights that shipped fonts have; others are drawn in the nearest of these. */
const WEIGHTS: Readonly<Record<string, string>> = { normal: '', '400': '', bold: ' bold', bolder: ' bold', '700': ' bold' };

/** What a drawing calls its font, for the list of what was not understood. */
export function fontName(properties: Properties): string {
  const family = (properties['font-family'] ?? '').split(',')[0]!.replace(/['"]/g, '') || 'of no name';
  const { 'font-weight': weight = 'normal' } = properties;
  return `${family}${WEIGHTS[weight] ?? ` of weight ${weight}`}${isItalic(properties) ? ' italic' : ''}`;
}

/** The shipped font that stands for a family; `exact` says whether it is that family, so heavy and so slanted. */
export function shippedFont(properties: Properties): { font: FontName; exact: boolean } {
  const { font, exact } = nearestFace(fontFamilies(properties['font-family']), isBold(properties), isItalic(properties));
  return { font, exact: exact && (properties['font-weight'] ?? 'normal') in WEIGHTS };
}
