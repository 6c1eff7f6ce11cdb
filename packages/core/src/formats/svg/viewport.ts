import { Failure } from '../../base/failure/failure';
import type { Matrix } from '../../base/geometry/matrix';
import { MM_PER_PX, parseLength, parseNumbers } from './lengths';
import type { XmlElement } from './xml-element';

/** The sheet of a drawing: its size in mm, its size in user units, and the map from user units to board millimetres. */
export interface Viewport {
  readonly width: number;
  readonly height: number;
  readonly userWidth: number;
  readonly userHeight: number;
  readonly toBoard: Matrix;
}

function viewBoxOf(text: string | undefined): [number, number, number, number] | undefined {
  if (text === undefined) return undefined;
  const numbers = parseNumbers(text);
  if (numbers?.length !== 4 || numbers[2]! <= 0 || numbers[3]! <= 0)
    throw new Failure('svg-viewbox', `The viewBox “${text.slice(0, 60)}” is not four numbers with a size above zero.`);
  return numbers as [number, number, number, number];
}

/** Sides of a sheet in units, beyond which numbers run out when one is laid into another. */
const [LEAST, MOST] = [1e-6, 1e9];

/** How a box of user units is laid into a viewport (SVG 1.1, 7.8), as scale and offset. */
export function fitViewBox(
  [x, y, w, h]: readonly [number, number, number, number],
  width: number,
  height: number,
  preserve = 'xMidYMid meet',
): Matrix {
  let [sx, sy] = [width / w, height / h];
  const none = /^\s*none/.test(preserve);
  if (!none) sx = sy = /slice/.test(preserve) ? Math.max(sx, sy) : Math.min(sx, sy);
  const share = (axis: 'x' | 'Y') => (preserve.includes(`${axis}Min`) ? 0 : preserve.includes(`${axis}Max`) ? 1 : 0.5);
  const [left, top] = none ? [0, 0] : [(width - w * sx) * share('x'), (height - h * sy) * share('Y')];
  return [sx, 0, 0, sy, left - x * sx, top - y * sy];
}

/**
 * The viewport of an element that is a sheet.
 * @param mm millimetres per user unit of what is around it
 */
export function viewportOf(svg: XmlElement, mm = MM_PER_PX): Viewport {
  const box = viewBoxOf(svg.attributes['viewBox']);
  const size = (name: 'width' | 'height', fallback: number) => {
    const text = svg.attributes[name];
    // A share of the window means nothing on a board: then the viewBox says the size.
    return text === undefined || /%\s*$/.test(text) ? fallback : (parseLength(text, fallback) ?? fallback);
  };
  const [width, height] = [size('width', box?.[2] ?? 300), size('height', box?.[3] ?? 150)];
  if (!(width > 0 && height > 0))
    throw new Failure('svg-size', 'The drawing has no size: width and height must be above zero.', { line: svg.line });
  const sides = [width, height, box?.[2] ?? width, box?.[3] ?? height];
  const [x, y] = box ?? [0, 0];
  if (!sides.every((side) => side >= LEAST && side <= MOST) || Math.abs(x) > MOST || Math.abs(y) > MOST)
    throw new Failure(
      'svg-size',
      `The drawing is too large, too small or too far off to be drawn: its sides are between ${LEAST} and ${MOST} units.`,
      {
        line: svg.line,
      },
    );
  const [sx, , , sy, left, top] = fitViewBox(box ?? [0, 0, width, height], width, height, svg.attributes['preserveAspectRatio']);
  return {
    width: width * mm,
    height: height * mm,
    userWidth: box?.[2] ?? width,
    userHeight: box?.[3] ?? height,
    toBoard: [sx * mm, 0, 0, -sy * mm, left * mm, (height - top) * mm],
  };
}

export { viewBoxOf };
