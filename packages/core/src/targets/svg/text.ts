import { type FontName, nearestFace } from '../../fonts/faces';
import { parseLength } from './lengths';
import type { StyleSheet } from './style';
import type { Viewport } from './viewport';
import type { XmlElement } from './xml';

/** A stretch of text with one place and one look, in user units. */
export interface TextChunk {
  readonly text: string;
  readonly x: number;
  readonly y: number;
  readonly properties: Readonly<Record<string, string>>;
}

type Properties = Readonly<Record<string, string>>;

/**
 * A text element as chunks: a new one wherever a place is given (SVG 1.1, 10.5) or the look changes.
 * @param widthOf measures text so that a chunk which only continues finds its place
 */
export function textChunks(
  element: XmlElement,
  properties: Properties,
  sheet: StyleSheet,
  viewport: Viewport,
  note: (kind: string) => void,
): TextChunk[] {
  const chunks: { text: string; x: number; y: number; properties: Properties }[] = [];
  let [x, y, fresh] = [0, 0, true];
  const place = (node: XmlElement, own: Properties) => {
    const em = fontSize(own, viewport);
    const first = (name: string, whole: number) => {
      const list = node.attributes[name]?.trim().split(/[\s,]+/) ?? [];
      if (list.length > 1) note('text placed letter by letter');
      return parseLength(list[0] || undefined, whole, em);
    };
    const [nx, ny] = [first('x', viewport.userWidth), first('y', viewport.userHeight)];
    const [dx, dy] = [first('dx', viewport.userWidth), first('dy', viewport.userHeight)];
    if (nx !== undefined || ny !== undefined || dx !== undefined || dy !== undefined) fresh = true;
    x = (nx ?? x) + (dx ?? 0);
    y = (ny ?? y) + (dy ?? 0);
    if (node.attributes['rotate'] || node.attributes['textLength']) note('turned or stretched letters');
  };
  const visit = (node: XmlElement, own: Properties) => {
    place(node, own);
    for (const child of node.children) {
      if (typeof child === 'string') {
        const keep = node.attributes['xml:space'] === 'preserve' || own['xml:space'] === 'preserve';
        const text = keep ? child.replace(/[\r\n\t]/g, ' ') : child.replace(/\s+/g, ' ');
        const last = chunks.at(-1);
        if (!fresh && last && sameLook(last.properties, own)) last.text += text;
        else if (text.trim()) {
          if (!fresh) note('text with several looks on one line');
          chunks.push({ text, x, y, properties: own });
          fresh = false;
        }
      } else if (child.name === 'tspan' || child.name === 'a') visit(child, sheet.propertiesOf(child, own));
      else if (child.name !== 'title' && child.name !== 'desc') note(`element ${child.name} in text`);
    }
  };
  visit(element, properties);
  return chunks.map((chunk) => ({
    ...chunk,
    text: chunk.properties['xml:space'] === 'preserve' ? chunk.text : chunk.text.trim(),
  }));
}

const LOOK = ['font-family', 'font-size', 'font-weight', 'font-style', 'fill', 'stroke', 'text-anchor'];
const sameLook = (a: Properties, b: Properties) => LOOK.every((name) => a[name] === b[name]);

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

/** What a drawing calls its font, for the list of what was not understood. */
export const fontName = (properties: Properties): string =>
  `${(properties['font-family'] ?? '').split(',')[0]!.replace(/['"]/g, '') || 'of no name'}${isBold(properties) ? ' bold' : ''}${isItalic(properties) ? ' italic' : ''}`;

const isItalic = ({ 'font-style': style = 'normal' }: Properties): boolean => /^(italic|oblique)/.test(style);

const isBold = ({ 'font-weight': weight = '400' }: Properties): boolean =>
  weight === 'bold' || weight === 'bolder' || Number(weight) >= 600;

/** The shipped font that stands for a family; `exact` says whether it is that family, so heavy and so slanted. */
export function shippedFont(properties: Properties): { font: FontName; exact: boolean } {
  const families = (properties['font-family'] ?? '').split(',').map((one) => one.trim().replace(/^['"]|['"]$/g, ''));
  return nearestFace(families, isBold(properties), isItalic(properties));
}
