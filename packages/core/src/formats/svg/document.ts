import { namelessLayer } from '../../base/naming/nameless';
import { type DrawingSink, NO_EFFECTS } from '../../content/drawing/sink';
import { decodeMarkup } from '../../base/bytes/text';
import { Failure } from '../../base/failure/failure';
import { type Matrix, identity, invert, meanScale, multiply } from '../../base/geometry/matrix';
import type { Measure } from '../../document/items';
import type { OpenFont } from '../../contracts/carried-font';
import type { Budget } from '../../document/limits';
import type { NotUnderstood } from '../../contracts/not-understood';
import { DocumentReading } from './context';
import { childrenOf, titleOf } from './reading';
import { inside, isSilent, readElement } from './elements';
import { effectsOf, hasEffects } from './grouping';
import { unknownIn, withGeometry } from './known';
import { MM_PER_PX, parseLength } from './lengths';
import { breaksOff, parseTransform } from './transform';
import { alphaOf, parseColour, shareOf } from './style';
import type { Properties } from './properties';
import type { StandingPicture } from './reading';
import { type Viewport, viewBoxOf, viewportOf } from './viewport';
import { parseXml, textOf } from './xml';
import type { XmlElement } from './xml-element';

/** What stands around the drawing in a file. */
interface SvgDocument {
  readonly title: string;
  readonly mark: string | null;
  readonly notUnderstood: readonly NotUnderstood[];
  /** Texts in fonts that the file carries, which became outlines. */
  readonly asOutlines: number;
  /** The whole file as text. */
  readonly text: string;
}

/** A file as text and as a tree. */
export interface OpenedSvg {
  readonly text: string;
  readonly root: XmlElement;
}

/** @throws Failure of `decodeMarkup` and `parseXml` */
export function openSvg(bytes: Uint8Array): OpenedSvg {
  const text = decodeMarkup(bytes);
  return { text, root: parseXml(text) };
}

/**
 * Tells a sink what an SVG document says, in board millimetres: groups become layers or groups. A document that holds nothing
 * but named viewports is several sheets.
 * @throws Failure that names the line; nothing is left out without being counted in `notUnderstood`
 */
export function emitSvg(
  { text, root }: OpenedSvg,
  sink: DrawingSink,
  budget: Budget,
  pictures: ReadonlyMap<string, StandingPicture> = new Map(),
  measure?: Measure,
  openFont?: OpenFont,
): SvgDocument {
  if (root.name !== 'svg')
    throw new Failure('not-svg', `This is not an SVG drawing: its first element is <${root.name}>.`, { line: root.line });
  const reading = new DocumentReading(sink, budget, readElement, root, pictures, measure, openFont);
  const sheets = sheetsOf(root);
  const viewport = viewportOf(root);
  const { width, height, viewBox } = root.attributes;
  if (width === undefined && height === undefined && viewBox === undefined)
    reading.tally.add('no size stated, taken as 300 × 150');
  for (const sheet of sheets)
    emitSheet(
      sheet,
      titleOf(sheet)!,
      viewportOf(sheet, meanScale(viewport.toBoard)),
      reading,
      reading.sheet.propertiesOf(root, {}),
    );
  if (!sheets.length) emitSheet(root, '', viewport, reading, {});
  const title = childrenOf(root).find(({ name }) => name === 'title');
  return {
    title: title ? textOf(title).trim() : '',
    mark: reading.mark,
    notUnderstood: reading.tally.list(),
    asOutlines: reading.carried?.count.texts ?? 0,
    text,
  };
}

/** The named viewports that a document consists of; none where it holds anything else that is drawn. */
function sheetsOf(root: XmlElement): XmlElement[] {
  const drawn = childrenOf(root).filter((child) => !isSilent(child) && !child.name.includes(':'));
  const named = ({ name, attributes, children }: XmlElement) =>
    name === 'svg' &&
    attributes['width'] !== undefined &&
    attributes['height'] !== undefined &&
    children.some((child) => typeof child !== 'string' && child.name === 'title');
  return drawn.every(named) ? drawn : [];
}

function emitSheet(root: XmlElement, label: string, viewport: Viewport, reading: DocumentReading, around: Properties): void {
  reading.look({ ...viewport, toBoard: movedWhole(root, viewport, reading) });
  let properties = reading.sheet.propertiesOf(root, around);
  reading.noteUnknown(root, properties);
  if (properties['display'] === 'none') reading.tally.add('the whole drawing hidden');
  const isOne = isGroup(properties);
  const drawnIn = (element: XmlElement) => childrenOf(element).filter((child) => !isSilent(child) && !reading.isForeign(child));
  let drawing = drawnIn(root);
  // A view in the sheet that is all of it adds nothing.
  for (let only = drawing[0]; drawing.length === 1 && only?.name === 'svg' && isWholeView(only, viewport); only = drawing[0]) {
    properties = reading.sheet.propertiesOf(only, properties);
    noteWhole(only, properties, reading);
    drawing = drawnIn(only);
  }
  const first = drawing[0];
  let background: string | null = null;
  const own = first && reading.sheet.propertiesOf(first, properties);
  if (first && !isOne && isBackground(first, own!)) {
    background = parseColour(own!['fill'] ?? '#000000') ?? null;
    drawing.shift();
  }
  reading.sink.page(label, viewport.width, viewport.height, background);
  emitLayers(isOne ? [groupOf(root, properties, drawing, viewport)] : drawing, properties, reading);
}

/** What a root does to all of a drawing besides placing it. */
const OF_GROUPS = ['opacity', 'clip-path', 'mask', 'mix-blend-mode'];
const isGroup = (properties: Properties): boolean => shareOf(properties['opacity']) < 1 || hasEffects(properties);

/**
 * A root as the group that it is: see-through, clipped, masked or mixed as a whole. What it is clipped and masked by lies on the
 * sheet in pixels, before the view box (as browsers and librsvg have it).
 */
function groupOf(root: XmlElement, properties: Properties, children: XmlElement[], { height, toBoard }: Viewport): XmlElement {
  const group = (attributes: Record<string, string>, inner: XmlElement[]): XmlElement => ({
    name: 'g',
    attributes,
    children: inner,
    parent: root,
    line: root.line,
  });
  const style = OF_GROUPS.flatMap((name) => (properties[name] ? `${name}:${properties[name]}` : [])).join(';');
  const toPixels = multiply(invert([MM_PER_PX, 0, 0, -MM_PER_PX, 0, height])!, toBoard);
  if (!hasEffects(properties) || toPixels.every((value, i) => Math.abs(value - identity[i]!) < 1e-9))
    return group({ style }, children);
  const words = (matrix: Matrix) => `matrix(${matrix.join(' ')})`;
  return group({ style, transform: words(invert(toPixels)!) }, [group({ transform: words(toPixels) }, children)]);
}

/** From user units to the board, with what a root's own transform adds: it acts on the sheet, about its middle (SVG 2, 8.5). */
function movedWhole({ attributes }: XmlElement, { width, height, toBoard }: Viewport, { tally }: DocumentReading): Matrix {
  const stated = attributes['transform'];
  if (!stated?.trim()) return toBoard;
  if (breaksOff(stated)) {
    tally.add('transform that breaks off');
    return toBoard;
  }
  const toSheet: Matrix = [MM_PER_PX, 0, 0, -MM_PER_PX, width / 2, height / 2];
  return multiply(toSheet, multiply(parseTransform(stated), multiply(invert(toSheet)!, toBoard)));
}

/** Whether a view within a sheet shows the very same. */
function isWholeView({ attributes }: XmlElement, { userWidth, userHeight }: Viewport): boolean {
  const length = (name: string, whole: number, otherwise: number) => parseLength(attributes[name], whole) ?? otherwise;
  const box = viewBoxOf(attributes['viewBox']) ?? [0, 0, userWidth, userHeight];
  return (
    length('x', userWidth, 0) === 0 &&
    length('y', userHeight, 0) === 0 &&
    length('width', userWidth, userWidth) === userWidth &&
    length('height', userHeight, userHeight) === userHeight &&
    box.join(' ') === `0 0 ${userWidth} ${userHeight}`
  );
}

/**
 * Groups at the top become layers: all of them where there is nothing else, the named ones where loose shapes stand
 * beside them. What is left is on a layer of its own.
 */
function emitLayers(drawing: readonly XmlElement[], properties: Properties, reading: DocumentReading): void {
  const byName = reading.layers;
  const layerFor = (name: string, visible: boolean): number => {
    const key = `${visible} ${name}`;
    let layer = byName.get(key);
    if (layer === undefined) {
      layer = reading.sink.layer({ name, colour: '#14213a', visible, locked: false, process: 'print' });
      byName.set(key, layer);
    }
    return layer;
  };
  const onlyGroups = drawing.every(({ name }) => name === 'g');
  const around = (layer: number) => ({ properties, matrix: identity, layer, depth: 0 });
  for (const element of drawing) {
    const own = reading.sheet.propertiesOf(element, properties);
    const name = titleOf(element);
    const opacity = shareOf(own['opacity']);
    const taken = element.name === 'g' && (opacity < 1 || hasEffects(own));
    if (taken && holdsLayers(element)) {
      const layers = childrenOf(element).filter((child) => !isSilent(child));
      const layer = layerFor(titleOf(layers[0]!) ?? namelessLayer(), true);
      const effects = { ...NO_EFFECTS, ...effectsOf(element, own, around(layer), reading), opacity };
      reading.sink.group(layer, undefined, effects, () => emitLayers(layers, own, reading));
      continue;
    }
    if (element.name !== 'g' || taken || (!onlyGroups && name === undefined)) {
      reading.guarded(element, around(layerFor(namelessLayer(), true)));
      continue;
    }
    const layer = layerFor(name ?? namelessLayer(byName.size + 1), own['display'] !== 'none');
    reading.guarded(element, around(layer), (group, holder) => inside(group, holder, reading, true));
  }
  if (!drawing.length) layerFor(namelessLayer(), true);
}

/** Whether a group holds nothing but groups with titles: what several layers show, taken as one. */
function holdsLayers(element: XmlElement): boolean {
  const inner = childrenOf(element).filter((child) => !isSilent(child));
  const titled = ({ name, children, attributes }: XmlElement) =>
    name === 'g' && !attributes['transform'] && children.some((child) => typeof child !== 'string' && child.name === 'title');
  return (
    inner.length > 0 &&
    !element.attributes['transform'] &&
    inner.every((child) => titled(child) || (child.name === 'g' && holdsLayers(child)))
  );
}

/** Attributes of a ground besides its colour. */
const OF_GROUND = new Set(['id', 'class', 'x', 'y', 'width', 'height', 'fill', 'style']);
/** Whether an element is the ground of a sheet: all of it, in one colour, and nothing else. */
function isBackground(element: XmlElement, properties: Properties): boolean {
  const { name, attributes } = element;
  const zero = (text = '0') => Number.parseFloat(text) === 0;
  return (
    name === 'rect' &&
    attributes['width'] === '100%' &&
    attributes['height'] === '100%' &&
    zero(attributes['x']) &&
    zero(attributes['y']) &&
    Object.keys(attributes).every((one) => OF_GROUND.has(one)) &&
    childrenOf(element).every(isSilent) &&
    !hasEffects(properties) &&
    withGeometry(element, properties) === element &&
    !unknownIn(element, properties).length &&
    properties['display'] !== 'none' &&
    (properties['visibility'] ?? 'visible') === 'visible' &&
    (properties['stroke'] ?? 'none') === 'none' &&
    shareOf(properties['opacity']) * shareOf(properties['fill-opacity']) * alphaOf(properties['fill']) === 1
  );
}

/** What is done to a drawing as a whole, which a board has no place for. */
function noteWhole(root: XmlElement, properties: Properties, reading: DocumentReading): void {
  reading.noteUnknown(root, properties);
  const whole: readonly (readonly [words: string, is: boolean])[] = [
    ['see-through', shareOf(properties['opacity']) < 1],
    ['hidden', properties['display'] === 'none'],
    ['moved', /\S/.test(root.attributes['transform'] ?? '')],
    ['clipped, masked or mixed', hasEffects(properties)],
  ];
  for (const [words, is] of whole) if (is) reading.tally.add(`the whole drawing ${words}`);
}
