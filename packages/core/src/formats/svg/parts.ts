import type { PictureEngine, Pixels } from '../../contracts/pictures';
import type { DrawnPicture } from '../../contracts/drawn-picture';
import { wordOfPixels } from '../../contracts/pictures';
import { type Matrix, apply, invert, meanScale, multiply } from '../../base/geometry/matrix';
import { isSilent } from './elements';
import { affordableScale } from './filter-work';
import { StyleSheet } from './style';
import type { Properties } from './properties';
import { parseTransform } from './transform';
import { viewportOf } from './viewport';
import type { PartWishes } from '../../contracts/wishes';
import { textOf } from './xml';
import type { XmlElement } from './xml-element';

/** Parts of one drawing that become pictures, and pixels of all of them: more are drawn without their effects, and counted. */
const MOST_PARTS = 200;
const MOST_PIXELS = 40_000_000;
const MOST_OF_ONE = 9_000_000;
/** Pixels across that a part is looked for with. */
const LOOKING = 600;
/** How far beyond the sheet a part is looked for, as a share of it. */
const BEYOND = 0.1;

/** Elements that only hold others. */
const HOLDERS = new Set(['g', 'a', 'switch']);

/** A part that a master can't hold. */
interface Part {
  readonly element: XmlElement;
  /** From its parent's user units to those of the sheet. */
  readonly axes: Matrix;
  /** Whether it looks otherwise at every resolution. */
  readonly bySize: boolean;
}

/** What a filter does pixel by pixel, however large a pixel is (Filter Effects Level 1, 9.9, 9.12, 9.21). */
const BY_PIXEL = new Set(['feDiffuseLighting', 'feSpecularLighting', 'feConvolveMatrix']);
const isBySize = ({ filter = '' }: Properties, ids: ReadonlyMap<string, XmlElement>): boolean =>
  (ids.get(/url\(\s*['"]?#([^'")]+)/.exec(filter)?.[1] ?? '')?.children ?? []).some(
    (child) => typeof child !== 'string' && BY_PIXEL.has(child.name),
  );

/** Whether a property asks for a filter that is there (Filter Effects Level 1, 5). */
const hasFilter = ({ filter }: Properties, ids: ReadonlyMap<string, XmlElement>): boolean => {
  if (!filter || /^\s*none\b/.test(filter)) return false;
  const id = /url\(\s*['"]?#([^'")]+)/.exec(filter)?.[1];
  if (id === undefined) return true;
  const found = ids.get(id);
  // One without anything in it hides what it is put on; one that is missing does nothing.
  return found?.name === 'filter';
};

/** Gathers ids and style sheets. */
function gather(element: XmlElement, ids: Map<string, XmlElement>, sheet: StyleSheet, styles: XmlElement[]): void {
  const { id } = element.attributes;
  if (id && !ids.has(id)) ids.set(id, element);
  if (element.name === 'style') {
    sheet.add(textOf(element));
    styles.push(element);
  }
  for (const child of element.children) if (typeof child !== 'string') gather(child, ids, sheet, styles);
}

/** Parts that are drawn where they stand; what stands in a symbol is drawn elsewhere, and is not found. */
function* partsIn(
  element: XmlElement,
  properties: Properties,
  axes: Matrix,
  sheet: StyleSheet,
  ids: ReadonlyMap<string, XmlElement>,
): Generator<Part> {
  for (const child of element.children) {
    if (typeof child === 'string' || isSilent(child) || child.name === 'svg' || child.name.includes(':')) continue;
    const own = sheet.propertiesOf(child, properties);
    if (own['display'] === 'none') continue;
    if (hasFilter(own, ids)) yield { element: child, axes, bySize: isBySize(own, ids) };
    else if (HOLDERS.has(child.name))
      yield* partsIn(child, own, multiply(axes, parseTransform(child.attributes['transform'] ?? '')), sheet, ids);
  }
}

const escape = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');
/** Other programs' own notes need names that may not be there. */
const isOwn = (name: string): boolean => !name.includes(':') || /^(xlink|xml):/.test(name);

function tag({ name, attributes }: XmlElement, more: Readonly<Record<string, string>> = {}): string {
  const all = { ...attributes, ...more };
  const said = Object.keys(all)
    .filter(isOwn)
    .map((key) => ` ${key}="${escape(all[key]!)}"`);
  return `<${name}${said.join('')}>`;
}
function markup(element: XmlElement, more: Readonly<Record<string, string>> = {}): string {
  if (!isOwn(element.name)) return '';
  const inside = element.children.map((child) => (typeof child === 'string' ? escape(child) : markup(child)));
  return `${tag(element, more)}${inside.join('')}</${element.name}>`;
}

/** What groups around a part do to it is done to its picture afterwards. */
const PLAIN = 'opacity:1;clip-path:none;mask:none;filter:none;mix-blend-mode:normal';

/** A part with everything that it refers to, standing in its groups, as a document of its own but for its frame. */
function alone({ element }: Part, ids: ReadonlyMap<string, XmlElement>, styles: readonly XmlElement[]): string {
  const blend = `${element.attributes['style'] ?? ''};mix-blend-mode:normal`;
  let text = markup(element, { style: blend });
  const needed = new Map<string, string>();
  const follow = (from: string) => {
    for (const [, id] of from.matchAll(/#([^"'()\s;&]+)/g)) {
      const found = ids.get(id!);
      if (!found || needed.has(id!) || found === element) continue;
      const own = markup(found);
      needed.set(id!, own);
      follow(own);
    }
  };
  const sheets = styles.map((style) => markup(style)).join('');
  let root = '';
  for (let up = element.parent; up; up = up.parent) {
    if (!up.parent) {
      const { attributes } = up;
      const frame = new Set(['width', 'height', 'viewBox', 'x', 'y', 'preserveAspectRatio', 'xmlns', 'xmlns:xlink']);
      const inherited = Object.fromEntries(Object.entries(attributes).filter(([name]) => !frame.has(name)));
      root = tag({ ...up, name: 'g', attributes: inherited });
    } else text = `${tag(up, { style: `${up.attributes['style'] ?? ''};${PLAIN}` })}${text}</${up.name}>`;
    follow(tag(up));
  }
  follow(text);
  follow(sheets);
  return `<defs>${sheets}${[...needed.values()].join('')}</defs>${root}${text}</g>`;
}

/** A box of user units. */
interface Frame {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}
const framed = (inside: string, { x, y, width, height }: Frame, across: number, up: number): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="${across}" height="${up}" viewBox="${x} ${y} ${width} ${height}" preserveAspectRatio="none">${inside}</svg>`;

/** The part of a picture that shows anything, in pixels; null where nothing does. */
function seen({ width, height, data }: Pixels): { left: number; top: number; right: number; bottom: number } | null {
  let [left, top, right, bottom] = [width, height, -1, -1];
  for (let y = 0, i = 3; y < height; y++)
    for (let x = 0; x < width; x++, i += 4) {
      if (!data[i]) continue;
      left = Math.min(left, x);
      right = Math.max(right, x);
      top = Math.min(top, y);
      bottom = y;
    }
  return right < 0 ? null : { left, top, right, bottom };
}

/** Draws a part where it is seen. @returns null where nothing of it shows */
async function drawn(
  inside: string,
  sheet: Frame,
  perUnit: number,
  engine: PictureEngine,
): Promise<{ pixels: Pixels; frame: Frame } | null> {
  const ratio = sheet.height / sheet.width;
  const [w, h] = ratio > 1 ? [Math.ceil(LOOKING / ratio), LOOKING] : [LOOKING, Math.ceil(LOOKING * ratio)];
  const looked = await engine.drawSvg(framed(inside, sheet, w, h), w, h);
  const found = seen(looked);
  if (!found) return null;
  const [sx, sy] = [sheet.width / w, sheet.height / h];
  const [left, top] = [Math.max(0, found.left - 2), Math.max(0, found.top - 2)];
  const [right, bottom] = [Math.min(w, found.right + 3), Math.min(h, found.bottom + 3)];
  const frame = { x: sheet.x + left * sx, y: sheet.y + top * sy, width: (right - left) * sx, height: (bottom - top) * sy };
  const area = frame.width * frame.height;
  const scale = affordableScale(inside, area, Math.min(perUnit, Math.sqrt(MOST_OF_ONE / area)));
  const [across, up] = [Math.max(1, Math.round(frame.width * scale)), Math.max(1, Math.round(frame.height * scale))];
  // Numbers that ran out on the way show nothing that could be drawn.
  if (!Number.isFinite(across) || !Number.isFinite(up)) return null;
  return { pixels: await engine.drawSvg(framed(inside, frame, across, up), across, up), frame };
}

/** What became of the parts of a document that a master can't hold. */
export interface TakenParts {
  /** Pictures by what refers to them now. */
  readonly pictures: ReadonlyMap<string, DrawnPicture>;
  /** How many came in as pictures of themselves, and how many stayed away. */
  readonly asPictures: number;
  readonly left: number;
  /** How many of the pictures look otherwise at every resolution. */
  readonly bySize: number;
}

/**
 * Takes the parts of a document that a master can't hold, which are those under a filter, and puts pictures of themselves in
 * their places, or nothing. Changes the tree. @returns at once where there are none
 */
export function takeParts(
  root: XmlElement,
  engine: PictureEngine | undefined,
  wishes: PartWishes,
): TakenParts | Promise<TakenParts> {
  const none = { pictures: new Map<string, DrawnPicture>(), asPictures: 0, left: 0, bySize: 0 };
  if (!engine || root.name !== 'svg') return none;
  const ids = new Map<string, XmlElement>();
  const sheet = new StyleSheet();
  const styles: XmlElement[] = [];
  gather(root, ids, sheet, styles);
  if (![...ids.values()].some(({ name }) => name === 'filter') && !/filter\s*:/.test(styles.map(textOf).join(''))) return none;
  const parts = [...partsIn(root, sheet.propertiesOf(root, {}), [1, 0, 0, 1, 0, 0], sheet, ids)].slice(0, MOST_PARTS);
  return parts.length ? takeAll(root, parts, { ids, styles, engine, wishes }) : none;
}

interface Taking {
  readonly ids: ReadonlyMap<string, XmlElement>;
  readonly styles: readonly XmlElement[];
  readonly engine: PictureEngine;
  readonly wishes: PartWishes;
}

async function takeAll(root: XmlElement, parts: readonly Part[], { ids, styles, engine, wishes }: Taking): Promise<TakenParts> {
  const pictures = new Map<string, DrawnPicture>();
  const viewport = viewportOf(root);
  const toUser = invert(viewport.toBoard)!;
  const [x0, y0] = apply(toUser, [-BEYOND * viewport.width, (1 + BEYOND) * viewport.height]);
  const [x1, y1] = apply(toUser, [(1 + BEYOND) * viewport.width, -BEYOND * viewport.height]);
  const area: Frame = { x: x0, y: y0, width: x1 - x0, height: y1 - y0 };
  const perUnit = (wishes.ppi / 25.4) * meanScale(viewport.toBoard);
  let [left, bySize] = [0, 0];
  let pixelsLeft = MOST_PIXELS;
  for (const part of parts) {
    const { children } = part.element.parent!;
    const at = children.indexOf(part.element);
    const back = invert(part.axes);
    if (wishes.parts === 'left out' || !back) {
      children.splice(at, 1);
      left++;
      continue;
    }
    const made = pixelsLeft > 0 ? await drawn(alone(part, ids, styles), area, perUnit, engine) : undefined;
    // What is too much stays as it is, without its filter, and is counted by the reader.
    if (made === undefined) continue;
    if (made === null) {
      children.splice(at, 1);
      continue;
    }
    const { pixels, frame } = made;
    pixelsLeft -= pixels.width * pixels.height;
    if (part.bySize) bySize++;
    const href = `part:${pictures.size}`;
    const { width, height } = pixels;
    pictures.set(href, { word: wordOfPixels(pixels), width, height, mediaType: 'image/png', bytes: await engine.png(pixels) });
    children[at] = pictureOf(part, frame, back, href);
  }
  return { pictures, asPictures: pictures.size, left, bySize };
}

/** The element that stands for a part. */
function pictureOf({ element }: Part, { x, y, width, height }: Frame, back: Matrix, href: string): XmlElement {
  const blend =
    /mix-blend-mode\s*:\s*([a-z-]+)/.exec(element.attributes['style'] ?? '')?.[1] ?? element.attributes['mix-blend-mode'];
  const { id } = element.attributes;
  return {
    name: 'image',
    attributes: {
      ...(id ? { id } : {}),
      ...(blend && blend !== 'normal' ? { 'mix-blend-mode': blend } : {}),
      href,
      x: `${x}`,
      y: `${y}`,
      width: `${width}`,
      height: `${height}`,
      preserveAspectRatio: 'none',
      transform: `matrix(${back.join(' ')})`,
    },
    children: element.children.filter((child) => typeof child !== 'string' && child.name === 'title'),
    parent: element.parent,
    line: element.line,
  };
}
