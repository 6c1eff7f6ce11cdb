import { AROUND } from '../../content/drawing/sink';
import { type Matrix, identity, invert, meanScale, multiply, translation } from '../../base/geometry/matrix';
import type { Box } from '../../base/geometry/measure';
import { flattens } from '../../base/geometry/pen';
import { type Paint, boxMatrix } from '../../document/paint';
import { childrenOf, type SvgReading } from './reading';
import { chainOf, inherited } from './inherit';
import { parseLength } from './lengths';
import { parseTransform } from './transform';
import { fitViewBox, viewBoxOf } from './viewport';
import type { XmlElement } from './xml-element';

/** A pattern element as it is used (SVG 1.1, 13.3). */
export interface SvgPattern {
  readonly kind: 'pattern';
  readonly element: XmlElement;
}

export const isPatternElement = ({ name }: XmlElement): boolean => name === 'pattern';

/** Cells smaller than this, in units of what they paint, are a grey that nobody wants to compute. */
const SMALLEST = 1e-4;

/**
 * A pattern laid on something.
 * @param matrix from the user units of what is painted to what is around it in the sink
 * @param box of what is painted, in user units
 * @returns null where it paints nothing
 */
export function layPattern(element: XmlElement, matrix: Matrix, box: () => Box, reading: SvgReading): Paint | null {
  const chain = chainOf(element, ['pattern'], reading);
  const attribute = (name: string) => inherited(chain, name);
  const holder = chain.find((one) => childrenOf(one).length);
  if (!holder) return null;
  const byBox = attribute('patternUnits') !== 'userSpaceOnUse';
  const { userWidth, userHeight } = reading.viewport;
  const measure = (name: string, whole: number) => parseLength(attribute(name), byBox ? 1 : whole) ?? 0;
  let [x, y, w, h] = [
    measure('x', userWidth),
    measure('y', userHeight),
    measure('width', userWidth),
    measure('height', userHeight),
  ];
  if (byBox) {
    const [sx, , , sy, left, top] = boxMatrix(box());
    [x, y, w, h] = [left + x * sx, top + y * sy, w * sx, h * sy];
  }
  const turned = multiply(matrix, parseTransform(attribute('patternTransform') ?? ''));
  if (!(w > SMALLEST && h > SMALLEST) || flattens(turned)) return null;
  const scale = meanScale(turned);
  const toUser: Matrix = [1 / scale, 0, 0, -1 / scale, x, y + h];
  const view = viewBoxOf(attribute('viewBox'));
  const content = view
    ? multiply(translation(x, y), fitViewBox(view, w, h, attribute('preserveAspectRatio')))
    : attribute('patternContentUnits') === 'objectBoundingBox'
      ? boxMatrix(box())
      : identity;
  const whole = multiply(invert(toUser)!, content);
  const key = `${element.attributes['id']} ${whole.join(' ')}`;
  const symbol = reading.defining(element, () =>
    reading.sink.define('cell', key, element.attributes['id'] ?? 'Pattern', () => {
      const around = {
        properties: reading.sheet.propertiesOf(holder, {}),
        matrix: multiply(reading.fromBoard, whole),
        layer: AROUND,
        depth: 1,
      };
      for (const child of childrenOf(holder)) reading.guarded(child, around);
    }),
  );
  return { kind: 'pattern', symbol, width: w * scale, height: h * scale, at: multiply(turned, toUser) };
}
