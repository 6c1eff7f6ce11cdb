import { PathStore } from '../../base/geometry/paths';
import { AROUND, NO_EFFECTS } from '../../content/drawing/sink';
import { Failure } from '../../base/failure/failure';
import { type Matrix, apply, multiply, scaling, translation } from '../../base/geometry/matrix';
import { type DocumentReading, isMoving } from './context';
import { type Around, axesOf, childrenOf, titleOf } from './reading';
import { withGeometry } from './known';
import { cutOf, effectsOf } from './grouping';
import { readImage, windowOf } from './images';
import type { CarriedFont } from '../../contracts/carried-font';
import type { FontName } from '../../document/faces';
import { transformOutline } from '../../base/geometry/outline';
import { LONGEST_TEXT, MOST_RUNS, type RunLook, type TextRun } from '../../document/items';
import type { Style } from '../../document/schema';
import { parseLength } from './lengths';
import { emitMarkers } from './markers';
import { SHAPES } from './shapes';
import { shareOf } from './style';
import type { Properties } from './properties';
import { type TextPart, fontName, fontSize, letterSpacing, shippedFont, textChunks } from './text';
import { fitViewBox, viewBoxOf } from './viewport';
import { isOffered } from './conditions';
import type { XmlElement } from './xml-element';

type Handler = (element: XmlElement, around: Around, reading: DocumentReading) => void;

const USE_DEPTH = 24;

/** Draws nothing by itself and carries nothing that a master would lose. */
const silent: Handler = () => undefined;

function nestedViewport(element: XmlElement, { viewport }: DocumentReading, width?: string, height?: string): Matrix {
  const { userWidth, userHeight } = viewport;
  const x = parseLength(element.attributes['x'], userWidth) ?? 0;
  const y = parseLength(element.attributes['y'], userHeight) ?? 0;
  const box = viewBoxOf(element.attributes['viewBox']);
  if (!box) return translation(x, y);
  const w = parseLength(width ?? element.attributes['width'], userWidth) ?? userWidth;
  const h = parseLength(height ?? element.attributes['height'], userHeight) ?? userHeight;
  return multiply(translation(x, y), fitViewBox(box, w, h, element.attributes['preserveAspectRatio']));
}

/**
 * What stands in a group, without the group itself.
 * @param asLayer the group became a layer, which may be hidden and is kept all the same
 */
export function inside(element: XmlElement, around: Around, reading: DocumentReading, asLayer = false): void {
  const properties = reading.sheet.propertiesOf(element, around.properties);
  if (!asLayer && reading.isHidden(properties, true)) return;
  reading.noteUnknown(element, properties);
  let matrix = axesOf(element, around);
  if (element.name === 'svg') matrix = multiply(matrix, nestedViewport(element, reading));
  const drawn = element.name === 'switch' ? childrenOf(element).filter(isOffered).slice(0, 1) : childrenOf(element);
  for (const child of drawn) reading.guarded(child, { ...around, properties, matrix });
}

const group: Handler = (element, around, reading) => {
  const properties = reading.sheet.propertiesOf(element, around.properties);
  if (reading.isHidden(properties, true)) return;
  const effects = effectsOf(element, properties, around, reading) ?? NO_EFFECTS;
  const opacity = shareOf(properties['opacity']);
  const cropped = element.name === 'svg' ? onlyImage(element) : undefined;
  if (cropped && effects === NO_EFFECTS && opacity === 1) return croppedImage(cropped, element, properties, around, reading);
  const cut = cutOf(element, properties, around, reading);
  const told = () => inside(element, { ...around, layer: AROUND }, reading);
  reading.sink.group(around.layer, titleOf(element), { ...effects, opacity }, () =>
    cut ? reading.sink.group(AROUND, undefined, { ...NO_EFFECTS, clip: [cut] }, told) : told(),
  );
};

/** Draws something by itself, in a group of its own where it is clipped, masked or mixed. */
function withEffects(
  element: XmlElement,
  properties: Properties,
  around: Around,
  reading: DocumentReading,
  draw: (around: Around) => void,
): void {
  const effects = effectsOf(element, properties, around, reading);
  if (!effects) return draw(around);
  reading.sink.group(around.layer, titleOf(element), effects, () => draw({ ...around, layer: AROUND }));
}

const use: Handler = (stated, around, reading) => {
  const properties = visible(stated, around, reading);
  if (!properties) return;
  const element = withGeometry(stated, properties);
  const reference = element.attributes['href'] ?? element.attributes['xlink:href'] ?? '';
  const target = reference.startsWith('#') ? reading.ids.get(reference.slice(1)) : undefined;
  // What is not there is not drawn; what is in another file may be.
  if (!target && reference.startsWith('#')) return reading.tally.addUnseen('use of something missing');
  if (!target) return reading.tally.add('use of another file');
  for (let up: XmlElement | null = element; up; up = up.parent)
    if (up === target) throw new Failure('svg-use-cycle', `The element “${reference}” uses itself.`, { line: element.line });
  if (around.depth > USE_DEPTH)
    throw new Failure('svg-use-cycle', `Uses are nested more than ${USE_DEPTH} deep.`, { line: element.line });
  const { width, height } = element.attributes;
  const sized = target.name === 'symbol' && (width || height) ? `${width} ${height}` : '';
  const inherited = Object.entries(properties)
    .filter(([key]) => key !== 'opacity')
    .sort()
    .join(';');
  const holder = { properties, matrix: IDENTITY, layer: AROUND, depth: around.depth + 1 };
  const told = () => {
    if (target.name !== 'symbol' && target.name !== 'svg') return reading.guarded(target, holder);
    const own = { ...holder, matrix: nestedViewport(target, reading, width, height) };
    own.properties = reading.sheet.propertiesOf(target, properties);
    for (const child of childrenOf(target)) reading.guarded(child, own);
  };
  const { viewport, fromBoard, sink } = reading;
  const x = parseLength(element.attributes['x'], viewport.userWidth) ?? 0;
  const y = parseLength(element.attributes['y'], viewport.userHeight) ?? 0;
  // The symbol's shapes are in board millimetres already: the use's map is carried over to those axes.
  const at = multiply(multiply(viewport.toBoard, multiply(axesOf(element, around), translation(x, y))), fromBoard);
  const symbol = { name: titleOf(target) ?? 'Symbol', anchor: [0, 0] as const };
  const key = `${reference} ${sized} ${inherited}`;
  const draw = (layer: number) => sink.use(layer, titleOf(element), key, symbol, at, told);
  const opacity = shareOf(properties['opacity']);
  const effects = effectsOf(element, properties, around, reading) ?? NO_EFFECTS;
  if (opacity < 1 || effects !== NO_EFFECTS)
    sink.group(around.layer, undefined, { ...effects, opacity }, () => draw(around.layer));
  else draw(around.layer);
};
const IDENTITY: Matrix = [1, 0, 0, 1, 0, 0];

/** The properties of an element that is drawn; undefined where it is hidden. */
function visible(element: XmlElement, around: Around, reading: DocumentReading): Properties | undefined {
  const properties = reading.sheet.propertiesOf(element, around.properties);
  if (reading.isHidden(properties)) return undefined;
  reading.noteUnknown(element, properties);
  return properties;
}

const shape: Handler = (element, around, reading) => {
  const properties = visible(element, around, reading);
  if (!properties) return;
  // What is in a shape describes it, or changes it.
  for (const child of childrenOf(element))
    if (!isSilent(child) && !reading.isForeign(child)) reading.read(child, around, reading);
  const { viewport, looks } = reading;
  withEffects(element, properties, around, reading, ({ layer }) => {
    let { paths } = reading;
    paths.clear();
    const broken = SHAPES[element.name]!(withGeometry(element, properties), viewport, paths);
    if (broken) reading.breaksOff(broken, element.line);
    if (!paths.count) return;
    reading.budget.pieces(paths.firstVerb[paths.count]!);
    const whole = multiply(viewport.toBoard, axesOf(element, around));
    // What it is painted with may draw shapes of its own, in the same store.
    if (looks.drawsToo(properties)) {
      const own = new PathStore();
      for (let o = 0; o < paths.count; o++) own.append(paths, o);
      paths = own;
    }
    const style = looks.of(properties, { matrix: whole, paths });
    reading.sink.path(paths, whole, layer, style, element.name, titleOf(element));
    emitMarkers(element, properties, paths, axesOf(element, around), { ...around, layer }, reading);
  });
};

const image: Handler = (element, around, reading) => {
  const properties = visible(element, around, reading);
  const shown = properties && withGeometry(element, properties);
  if (shown) withEffects(shown, properties, around, reading, (held) => readImage(shown, properties, held, reading));
};

/** The picture that a viewport holds, where it holds nothing else: then it is there to cut it off. */
function onlyImage(element: XmlElement): XmlElement | undefined {
  const drawn = childrenOf(element).filter((child) => !isSilent(child) && !child.name.includes(':'));
  return drawn.length === 1 && drawn[0]!.name === 'image' && !drawn[0]!.attributes['transform'] ? drawn[0] : undefined;
}

function croppedImage(child: XmlElement, element: XmlElement, around: Properties, outer: Around, reading: DocumentReading): void {
  const viewport = nestedViewport(element, reading);
  const held = { ...outer, properties: around, matrix: multiply(axesOf(element, outer), viewport) };
  const properties = visible(child, held, reading);
  const window = windowOf(element, viewport, reading);
  if (properties) withEffects(child, properties, held, reading, (inner) => readImage(child, properties, inner, reading, window));
}

const text: Handler = (element, around, reading) => {
  const properties = visible(element, around, reading);
  if (properties) withEffects(element, properties, around, reading, (held) => words(element, properties, held, reading));
};

function words(element: XmlElement, properties: Properties, around: Around, reading: DocumentReading): void {
  const { viewport, tally, looks, sink } = reading;
  // Letters stand upright in both worlds, so the turning-over of y is taken out of the text's own axes.
  const whole = multiply(multiply(viewport.toBoard, axesOf(element, around)), scaling(1, -1));
  const plain =
    Math.abs(whole[1]) + Math.abs(whole[2]) < 1e-12 && Math.abs(whole[0] - whole[3]) < 1e-9 * Math.abs(whole[0]) && whole[0] > 0;
  // Where the text keeps its map, that scales the line too.
  const matrix = plain ? multiply(whole, scaling(1, -1)) : scaling(1, -1);
  const scale = plain ? whole[0] : 1;
  const lookOf = (own: Properties) => {
    const { font, exact } = shippedFont(own);
    if (!exact) tally.add(`font ${fontName(own)}, shown in ${font}`);
    const size = fontSize(own, viewport);
    const spacing = size > 0 ? letterSpacing(own, size) / size : 0;
    return { font, size: size * scale, spacing, style: looks.of(own, { matrix, paths: null }) };
  };
  const note = (kind: string) => tally.add(kind);
  for (const { x, y, parts } of textChunks(element, properties, {
    sheet: reading.sheet,
    viewport,
    measure: reading.width,
    note,
    look: (part, own) => reading.noteUnknown(part, own),
  })) {
    if (parts.some((part) => carriedFor(part, reading))) {
      asOutlines(x, y, parts, element, around, reading);
      continue;
    }
    const first = lookOf(parts[0]!.properties);
    const text = parts.map((part) => part.text).join('');
    if (!text.trim() || !(first.size > 0)) continue;
    const anchor = parts[0]!.properties['text-anchor'];
    const at = plain ? apply(whole, [x, -y]) : [x, -y];
    const runs: TextRun[] = [];
    let from = parts[0]!.text.length;
    for (const part of parts.slice(1)) {
      const to = from + part.text.length;
      const look = runOf(lookOf(part.properties), first, note);
      if (Object.keys(look).length) runs.push({ from, to, ...look });
      from = to;
    }
    if (text.length > LONGEST_TEXT) note(`text of more than ${LONGEST_TEXT.toLocaleString('en')} letters`);
    if (runs.length > MOST_RUNS) note(`text with more than ${MOST_RUNS} looks`);
    const words = {
      text: text.slice(0, LONGEST_TEXT),
      x: at[0]!,
      y: at[1]!,
      size: first.size,
      font: first.font,
      align: anchor === 'middle' ? ('middle' as const) : anchor === 'end' ? ('end' as const) : ('start' as const),
      ...(first.spacing ? { spacing: first.spacing } : {}),
      ...(runs.length ? { runs: runs.slice(0, MOST_RUNS) } : {}),
      transform: plain ? null : whole,
    };
    sink.text(words, around.layer, first.style, undefined);
  }
}

/** The font that a part is set in and the file carries; null where a shipped one is meant. */
const carriedFor = ({ text, properties }: TextPart, { carried }: DocumentReading): CarriedFont | null =>
  carried && !shippedFont(properties).exact ? carried.find(properties, text) : null;

/** A line with letters of fonts that the file carries: those become outlines, what is beside them stays text. */
function asOutlines(
  x: number,
  y: number,
  parts: readonly TextPart[],
  element: XmlElement,
  around: Around,
  reading: DocumentReading,
): void {
  const { viewport, looks, sink, width } = reading;
  const whole = multiply(viewport.toBoard, axesOf(element, around));
  const pieces = parts.map((part) => {
    const size = fontSize(part.properties, viewport);
    const spacing = size > 0 ? letterSpacing(part.properties, size) / size : 0;
    const { font, exact } = shippedFont(part.properties);
    const set = carriedFor(part, reading)?.set(part.text, spacing) ?? null;
    if (!set && !exact) reading.tally.add(`font ${fontName(part.properties)}, shown in ${font}`);
    const far = size * (set ? set.advance : width(font, part.text) + spacing * [...part.text].length);
    return { ...part, size, spacing, font, set, far };
  });
  const anchor = parts[0]!.properties['text-anchor'];
  const all = pieces.reduce((sum, { far }) => sum + far, 0);
  let at = x - (anchor === 'middle' ? all / 2 : anchor === 'end' ? all : 0);
  for (const { text, properties, size, spacing, font, set, far } of pieces) {
    if (set && size > 0) {
      const paths = new PathStore();
      for (const outline of set.outlines) paths.add(transformOutline(outline, [size, 0, 0, -size, at, y]));
      reading.carried!.count.text([...text].length);
      reading.budget.pieces(paths.firstVerb[paths.count]!);
      if (paths.count) sink.path(paths, whole, around.layer, looks.of(properties, { matrix: whole, paths }), 'text', text.trim());
    } else if (text.trim() && size > 0) {
      const words = { text, x: at, y: -y, size, font, align: 'start' as const, ...(spacing ? { spacing } : {}) };
      const style = looks.of(properties, { matrix: scaling(1, -1), paths: null });
      sink.text({ ...words, transform: multiply(whole, scaling(1, -1)) }, around.layer, style, undefined);
    }
    at += far;
  }
}

type PartLook = { readonly font: FontName; readonly size: number; readonly spacing: number; readonly style: Style };

/** How a part of a text looks otherwise than its beginning. */
function runOf(own: PartLook, first: PartLook, note: (kind: string) => void): RunLook {
  const { fill, ...rest } = own.style;
  const { fill: before, ...others } = first.style;
  const sameFill = JSON.stringify(fill) === JSON.stringify(before);
  if (JSON.stringify(rest) !== JSON.stringify(others)) note('part of a text with another line or opacity');
  else if (!sameFill && typeof fill !== 'string') note('part of a text filled otherwise than with a colour');
  return {
    ...(own.font === first.font ? {} : { font: own.font }),
    ...(own.size === first.size || !(own.size > 0) ? {} : { size: own.size }),
    ...(own.spacing === first.spacing ? {} : { spacing: own.spacing }),
    ...(sameFill || typeof fill !== 'string' ? {} : { colour: fill }),
  };
}

/** How each element is read. */
const ELEMENTS: Readonly<Record<string, Handler>> = {
  g: group,
  a: group,
  switch: group,
  svg: group,
  use,
  text,
  image,
  ...Object.fromEntries(Object.keys(SHAPES).map((name) => [name, shape])),
  ...Object.fromEntries(
    [
      'defs',
      'title',
      'desc',
      'metadata',
      'style',
      'symbol',
      'linearGradient',
      'radialGradient',
      'clipPath',
      'mask',
      'pattern',
      'filter',
      'marker',
      'solidColor',
      'view',
    ].map((name) => [name, silent]),
  ),
};

export const isSilent = (element: XmlElement): boolean => ELEMENTS[element.name] === silent || isMoving(element);

/** Reads any element; one that is not in the table is counted as not understood. */
export const readElement: Handler = (element, around, reading) => {
  if (isMoving(element)) return;
  const handler = Object.hasOwn(ELEMENTS, element.name) ? ELEMENTS[element.name] : undefined;
  if (handler) handler(element, around, reading);
  else if (!reading.isForeign(element)) reading.tally.add(`element ${element.name}`);
};
