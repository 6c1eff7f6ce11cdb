import { AROUND, NO_EFFECTS, type StatedEffects } from '../../content/drawing/sink';
import { boxOfOutlinesIn } from '../../content/drawing/pieces';
import { PackingSink } from '../../content/drawing/sink';
import { outlineAt } from '../../base/geometry/paths';
import { type Matrix, apply, invert, multiply } from '../../base/geometry/matrix';
import { type Box, joinBoxes } from '../../base/geometry/measure';
import { fromPoints, transformOutline } from '../../base/geometry/outline';
import { BLENDS, type ClipShape, MASK_KINDS } from '../../document/effects';
import { boxMatrix } from '../../document/paint';
import type { DocumentReading } from './context';
import { type Around, axesOf, childrenOf } from './reading';
import { parseLength } from './lengths';
import { SHAPES } from './shapes';
import type { Properties } from './properties';
import { parseTransform } from './transform';
import type { XmlElement } from './xml-element';

/** Masks as large as this have no edge that shows. */
const ENDLESS = 50_000;

const referenceIn = (text: string | undefined): string | undefined =>
  /^url\(\s*['"]?#([^'")]+)(?:['"]\s*)?\)/.exec(text ?? '')?.[1]?.trim();

/** The box of what an element draws, in its own user units: told to a sink that only measures. */
function boxOfElement(element: XmlElement, around: Around, reading: DocumentReading): Box {
  const sink = new PackingSink();
  sink.page('', 1, 1, null);
  const layer = sink.layer({ name: '', colour: '#000000', visible: true, locked: false, process: 'print' });
  const properties = reading.sheet.propertiesOf(element, around.properties);
  const held: Around = { ...around, properties, matrix: reading.fromBoard, layer };
  const shape = SHAPES[element.name];
  reading.measure(sink, () => {
    if (shape) reading.guarded({ ...element, attributes: untransformed(element) }, { ...held, properties: around.properties });
    else for (const child of childrenOf(element)) reading.guarded(child, held);
  });
  const [{ drawing }] = sink.drawings() as [ReturnType<PackingSink['drawings']>[number]];
  return joinBoxes([
    boxOfOutlinesIn(drawing, 0.01),
    ...drawing.texts.map(({ frame: [, , , , x, y], size, text }) => ({
      minX: x,
      minY: y - size,
      maxX: x + size * text.length * 0.6,
      maxY: y,
    })),
  ]);
}

const untransformed = ({ attributes }: XmlElement): Readonly<Record<string, string>> =>
  Object.fromEntries(Object.entries(attributes).filter(([name]) => name !== 'transform'));

/** The areas of a clipPath element, on the board (SVG 1.1, 14.3.5). @param axes from the user units of what is clipped to the board */
function clipShapes(clip: XmlElement, axes: Matrix, box: () => Box, reading: DocumentReading): ClipShape[] {
  const own = multiply(axes, parseTransform(clip.attributes['transform'] ?? ''));
  const whole = clip.attributes['clipPathUnits'] === 'objectBoundingBox' ? multiply(own, boxMatrix(box())) : own;
  const shapes: ClipShape[] = [];
  const around = reading.sheet.propertiesOf(clip, {});
  const visit = (element: XmlElement, matrix: Matrix, inherit: Properties, depth: number) => {
    const properties = reading.sheet.propertiesOf(element, inherit);
    if (reading.isHidden(properties)) return;
    const at = multiply(matrix, parseTransform(element.attributes['transform'] ?? ''));
    if (properties['clip-path'] && properties['clip-path'] !== 'none') reading.tally.add('clip inside a clip');
    const target =
      element.name === 'use'
        ? reading.ids.get((element.attributes['href'] ?? element.attributes['xlink:href'] ?? '').slice(1))
        : undefined;
    if (target && depth < 2) {
      const x = parseLength(element.attributes['x'], reading.viewport.userWidth) ?? 0;
      const y = parseLength(element.attributes['y'], reading.viewport.userHeight) ?? 0;
      return visit(target, multiply(at, [1, 0, 0, 1, x, y]), properties, depth + 1);
    }
    const shape = SHAPES[element.name];
    if (!shape) {
      if (!['title', 'desc', 'metadata'].includes(element.name)) reading.tally.add(`${element.name} as a clip`);
      return;
    }
    const { paths } = reading;
    paths.clear();
    const broken = shape(element, reading.viewport, paths);
    if (broken) reading.breaksOff(broken, element.line);
    const outlines = Array.from({ length: paths.count }, (_, o) => transformOutline(outlineAt(paths, o), at));
    reading.budget.pieces(outlines.reduce((sum, { segments }) => sum + segments.length, 0));
    const rule = properties['clip-rule'] === 'evenodd' ? 'evenodd' : 'nonzero';
    shapes.push({ outlines: outlines as ClipShape['outlines'], rule });
  };
  for (const child of childrenOf(clip)) visit(child, whole, around, 0);
  return shapes;
}

const rectangle = (x: number, y: number, w: number, h: number, at: Matrix): ClipShape => ({
  rule: 'nonzero',
  outlines: [
    transformOutline(
      fromPoints(
        [
          [x, y],
          [x + w, y],
          [x + w, y + h],
          [x, y + h],
        ],
        true,
      ),
      at,
    ),
  ] as ClipShape['outlines'],
});

/** Defines a mask. @returns the word for it */
function defineMask(mask: XmlElement, around: Around, axes: Matrix, box: () => Box, reading: DocumentReading): string {
  const { attributes } = mask;
  const byBox = attributes['maskUnits'] !== 'userSpaceOnUse';
  const { userWidth, userHeight } = reading.viewport;
  const measure = (name: string, whole: number) => parseLength(attributes[name], byBox ? 1 : whole);
  const [x, y] = [measure('x', userWidth), measure('y', userHeight)];
  const [w, h] = [measure('width', userWidth), measure('height', userHeight)];
  const stated = [x, y, w, h].every((value) => value !== undefined) && w! < ENDLESS && h! < ENDLESS;
  const region = stated ? rectangle(x!, y!, w!, h!, byBox ? multiply(axes, boxMatrix(box())) : axes) : null;
  const content =
    attributes['maskContentUnits'] === 'objectBoundingBox' ? multiply(around.matrix, boxMatrix(box())) : around.matrix;
  return reading.defining(mask, () =>
    reading.sink.define('mask', null, attributes['id'] ?? 'Mask', () => {
      const held: Around = {
        properties: reading.sheet.propertiesOf(mask, {}),
        matrix: content,
        layer: AROUND,
        depth: around.depth + 1,
      };
      const told = () => {
        for (const child of childrenOf(mask)) reading.guarded(child, held);
      };
      if (region) reading.sink.group(AROUND, undefined, { ...NO_EFFECTS, clip: [region] }, told);
      else told();
    }),
  );
}

/** What a view within a drawing cuts off (SVG 1.1, 14.3.3); null where that is nothing of the sheet. */
export function cutOf(element: XmlElement, properties: Properties, around: Around, reading: DocumentReading): ClipShape | null {
  if (element.name !== 'svg' || reading.measuring || /^(visible|auto)$/.test(properties['overflow'] ?? '')) return null;
  const { userWidth, userHeight, toBoard, width, height } = reading.viewport;
  const { attributes } = element;
  const x = parseLength(attributes['x'], userWidth) ?? 0;
  const y = parseLength(attributes['y'], userHeight) ?? 0;
  const w = parseLength(attributes['width'], userWidth) ?? userWidth;
  const h = parseLength(attributes['height'], userHeight) ?? userHeight;
  const whole = multiply(toBoard, axesOf(element, around));
  const back = invert(whole);
  const corners = [placeOf(back, 0, 0), placeOf(back, width, 0), placeOf(back, width, height), placeOf(back, 0, height)];
  const near = 1e-6 * Math.max(userWidth, userHeight);
  const covers = corners.every(
    (at) => at && at[0] >= x - near && at[0] <= x + w + near && at[1] >= y - near && at[1] <= y + h + near,
  );
  return covers ? null : rectangle(x, y, w, h, whole);
}
const placeOf = (matrix: Matrix | undefined, x: number, y: number) => matrix && apply(matrix, [x, y]);

/** Whether an element may do something to what is in it besides its opacity. */
export const hasEffects = (properties: Properties): boolean =>
  ['clip-path', 'mask', 'mix-blend-mode'].some(
    (name) => properties[name] !== undefined && !/^(none|normal)$/.test(properties[name]),
  );

/**
 * What an element does to what is in it besides its opacity; null where it does nothing.
 * @param around what holds the element
 */
export function effectsOf(
  element: XmlElement,
  properties: Properties,
  around: Around,
  reading: DocumentReading,
): StatedEffects | null {
  if (reading.measuring || !hasEffects(properties)) return null;
  const [clipText, maskText, blendText] = [properties['clip-path'], properties['mask'], properties['mix-blend-mode']];
  const matrix = axesOf(element, around);
  const axes = multiply(reading.viewport.toBoard, matrix);
  let measured: Box | undefined;
  const box = () => (measured ??= boxOfElement(element, around, reading));
  const found = (text: string | undefined, name: string): XmlElement | undefined => {
    if (!text || text === 'none') return undefined;
    const id = referenceIn(text);
    const target = id === undefined ? undefined : reading.ids.get(id);
    if (target?.name === name) return target;
    const what = name === 'clipPath' ? 'clip-path' : name;
    reading.tally.add(id === undefined ? `${what} in words` : `${what} of something missing`);
    return undefined;
  };
  const clip = found(clipText, 'clipPath');
  const mask = found(maskText, 'mask');
  const blend = BLENDS.find((one) => one === blendText);
  if (blendText && !blend) reading.tally.add('blending');
  if (clip && clip.attributes['clip-path']) reading.tally.add('clip of a clip');
  if (!clip && !mask && (!blend || blend === 'normal')) return null;
  const type = mask && (reading.sheet.propertiesOf(mask, {})['mask-type'] ?? 'luminance');
  return {
    ...NO_EFFECTS,
    ...(blend ? { blend } : {}),
    ...(clip ? { clip: clipShapes(clip, axes, box, reading) } : {}),
    ...(mask
      ? {
          mask: {
            kind: MASK_KINDS.find((one) => one === type) ?? 'luminance',
            symbol: defineMask(mask, { ...around, matrix }, axes, box, reading),
          },
        }
      : {}),
  };
}
