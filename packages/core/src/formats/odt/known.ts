import type { Tally } from '../../contracts/tally';
import { type XmlNode, childOf, childrenOf, own, wordsBelow } from '../../base/bytes/xml-tree';
import { lengthInMm } from '../texts/lengths';

const CONTENT = new Set([
  'scripts',
  'font-face-decls',
  'automatic-styles',
  'body',
  'meta',
  'settings',
  'styles',
  'master-styles',
]);

/** Tells what a document has beside its words that is not read (ODF 1.3-3, 3.1 and 3.12; 16.9 for what stands on all pages). */
export function reportContent(content: XmlNode, styles: XmlNode | undefined, tally: Tally): void {
  for (const one of childrenOf(content)) {
    if (one.name === 'scripts' && childrenOf(one).length) tally.add('script');
    if (!CONTENT.has(one.name)) tally.add(`“${one.name.slice(0, 40)}” of the document`);
  }
  for (const one of childrenOf(childOf(content, 'body')))
    if (one.name !== 'text') tally.add(`“${one.name.slice(0, 40)}” of the document`);
  for (const layout of childrenOf(childOf(styles, 'automatic-styles'), 'page-layout')) {
    const page = childOf(layout, 'page-layout-properties');
    if (!page) continue;
    const ground = own(page, 'background-color');
    if (
      (ground !== undefined && !/^(transparent|#ffffff)$/i.test(ground)) ||
      own(childOf(page, 'background-image') ?? page, 'href')
    )
      tally.add('ground of pages');
    if (Number(own(childOf(page, 'columns') ?? page, 'column-count') ?? 1) > 1) tally.add('columns');
  }
  for (const page of childrenOf(childOf(styles, 'master-styles'), 'master-page'))
    for (const one of childrenOf(page))
      if (/^(header|footer)/.test(one.name) && wordsBelow(one).trim()) tally.add('header or footer of pages');
}

/** What a frame's style says of where it stands and how words go around it, or that shows the picture as it is (ODF 1.3-3, 20). */
const FRAME =
  /^(wrap.*|number-wrapped-paragraphs|vertical-(pos|rel)|horizontal-(pos|rel)|margin.*|padding.*|flow-with-text|anchor-.*|protect|editable|allow-overlap|x|y|rel-.*|min-.*|max-.*|auto-grow-.*|shadow-.*|print-content|overflow-behavior|background-color|border.*|fill.*|stroke.*|decorative|parent-style-name)$/;
const AS_IT_IS: Readonly<Record<string, RegExp>> = {
  mirror: /^none$/,
  'run-through': /^foreground$/,
  clip: /^(auto|rect\((0[a-z]*[\s,]*){4}\))$/,
  'image-opacity': /^100%$/,
  opacity: /^100%$/,
  'color-mode': /^standard$/,
  'color-inversion': /^false$/,
  luminance: /^0%$/,
  contrast: /^0%$/,
  red: /^0%$/,
  green: /^0%$/,
  blue: /^0%$/,
  gamma: /^(1(\.0+)?|100%)$/,
  shadow: /^(none|hidden)$/,
};
/** How far the shape of a picture may be from that of its frame, as a share. */
const STRETCHED = 0.01;

/**
 * Tells how a picture is shown otherwise than it is: turned, mirrored, cropped, stretched, in other colours.
 * @param style what the style of its frame says
 * @param shown the picture itself; null where it is not known
 */
export function reportFrame(
  frame: XmlNode,
  style: Iterable<readonly [property: string, value: string]>,
  shown: { readonly width: number; readonly height: number } | null,
  tally: Tally,
): void {
  for (const [property, value] of style)
    if (!FRAME.test(property) && !AS_IT_IS[property]?.test(value)) tally.add(`picture with “${property}”`);
  if (own(frame, 'transform') !== undefined) tally.add('picture that is turned or mirrored');
  const [wide, high] = [lengthInMm(own(frame, 'width')), lengthInMm(own(frame, 'height'))];
  if (shown && wide > 0 && high > 0 && Math.abs((wide * shown.height) / (high * shown.width) - 1) > STRETCHED)
    tally.add('stretched picture');
  if (childrenOf(frame, 'image').length > 1) tally.add('picture with another one in its place');
}

/** An inch over the edge, and as wide as paper is, mm. */
const [OVER, WIDE] = [-25.4, 160];
const signed = (length: string): number => (length.startsWith('-') ? -1 : 1) * lengthInMm(length.replace(/^-/, ''));
const isElsewhere = (length: string): boolean => signed(length) < OVER || signed(length) > WIDE;

/** Tells how a paragraph stands where nobody sees it: off the page, or with its lines on each other (ODF 1.3-3, 20). */
export function reportRoom(properties: Iterable<readonly [property: string, value: string]>, tally: Tally): void {
  for (const [property, value] of properties) {
    if (/^(margin|margin-left|margin-right|text-indent)$/.test(property) && isElsewhere(value)) tally.add('words off the page');
    if (property !== 'line-height' || value === 'normal') continue;
    if (value.endsWith('%') ? Number.parseFloat(value) < 50 : lengthInMm(value) < 1.5) tally.add('lines on each other');
  }
}

/** Tells how a row, a column or a cell hides what it holds, or turns it. */
export function reportPart(
  family: 'table-row' | 'table-column' | 'table-cell',
  style: Iterable<readonly [property: string, value: string]>,
  tally: Tally,
): void {
  for (const [property, value] of style) {
    if (property === 'row-height' && lengthInMm(value) < 1) tally.add('hidden rows');
    if (property === 'column-width' && lengthInMm(value) < 1) tally.add('hidden columns');
    if (property === 'rotation-angle' && Number.parseFloat(value) !== 0) tally.add('words turned in a cell');
    if (family === 'table-cell' && property === 'writing-mode' && !/^(lr|lr-tb|page)$/.test(value))
      tally.add('words turned in a cell');
    if (property === 'cell-protect' && /hidden/.test(value)) tally.add('hidden words');
  }
}

const LIGHT = /^#f[a-f0-9]f[a-f0-9]f[a-f0-9]$/i;
/** Properties of a style of the text that hide words or make others of them (ODF 1.3-3, 20). */
const HIDING: Readonly<Record<string, (value: string) => boolean>> = {
  display: (value) => value !== 'true',
  color: (value) => LIGHT.test(value),
  opacity: (value) => Number.parseFloat(value) < 50,
  'text-transform': (value) => value !== 'none',
  'font-variant': (value) => value !== 'normal',
  'text-scale': (value) => Number.parseFloat(value) < 50,
  'text-rotation-angle': (value) => Number.parseFloat(value) !== 0,
  'font-size': (value) => (value.endsWith('%') ? Number.parseFloat(value) < 40 : lengthInMm(value) < 1.4),
  'letter-spacing': (value) => signed(value) < -0.5,
};
/** Whether a style that stands for many places hides what is set in it. */
export const hides = (property: string, value: string): boolean => HIDING[property]?.(value) ?? false;

/** Tells how a table hides some of what it holds. */
export function reportTable(table: XmlNode, style: Iterable<readonly [property: string, value: string]>, tally: Tally): void {
  const stack = [table];
  while (stack.length) {
    const at = stack.pop()!;
    for (const child of childrenOf(at)) {
      if (child.name === 'table-column' && /^(collapse|filter)$/.test(own(child, 'visibility') ?? ''))
        tally.add('hidden columns');
      if (/^table-(columns|header-columns|column-group)$/.test(child.name)) stack.push(child);
    }
  }
  for (const [property, value] of style) {
    if (/^margin(-left|-right)?$/.test(property) && isElsewhere(value)) tally.add('table off the page');
    if (property === 'display' && value === 'false') tally.add('hidden words');
    if (property === 'writing-mode' && !/^(lr|lr-tb|page)$/.test(value)) tally.add('table from right to left');
  }
}

/** Tells what lies behind and around the words of a paragraph. */
export function reportGround(properties: readonly (readonly [property: string, value: string])[], tally: Tally): void {
  for (const [property, value] of properties) {
    if (property === 'background-color' && !/^(transparent|#ffffff)$/i.test(value)) tally.add('ground behind words');
    if (/^border(-left|-right|-top|-bottom)?$/.test(property) && !/^none$/.test(value)) tally.add('border around words');
    if (property === 'writing-mode' && !/^(lr|lr-tb|page)$/.test(value)) tally.add('words from right to left');
  }
}
