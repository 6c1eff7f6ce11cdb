import { Failure } from '../../failure/failure';
import { circleOutline, ellipseOutline, endpointArc } from '../../geometry/arcs';
import { type Outline, type Segment, fromPoints } from '../../geometry/outline';
import type { Point } from '../../geometry/point';
import { parseLength, parseNumbers } from './lengths';
import { parsePathData } from './path-data';
import type { Viewport } from './viewport';
import type { XmlElement } from './xml';

type Shape = (element: XmlElement, viewport: Viewport) => Outline[];

const across = (element: XmlElement, name: string, { userWidth }: Viewport) => parseLength(element.attributes[name], userWidth);
const down = (element: XmlElement, name: string, { userHeight }: Viewport) => parseLength(element.attributes[name], userHeight);

function points(element: XmlElement, closed: boolean): Outline[] {
  const numbers = parseNumbers(element.attributes['points'] ?? '');
  if (!numbers) throw new Failure('svg-points', 'A list of points holds something that is not a number.');
  const list: Point[] = [];
  for (let i = 0; i + 1 < numbers.length; i += 2) list.push([numbers[i]!, numbers[i + 1]!]);
  return list.length > 1 ? [fromPoints(list, closed)] : [];
}

/** The outlines of each basic shape (SVG 1.1, chapters 8 and 9), in user units. */
export const SHAPES: Readonly<Record<string, Shape>> = {
  path: (element) => parsePathData(element.attributes['d'] ?? ''),
  polygon: (element) => points(element, true),
  polyline: (element) => points(element, false),
  line: (element, view) => [
    fromPoints(
      [
        [across(element, 'x1', view) ?? 0, down(element, 'y1', view) ?? 0],
        [across(element, 'x2', view) ?? 0, down(element, 'y2', view) ?? 0],
      ],
      false,
    ),
  ],
  circle: (element, view) => {
    const r = parseLength(element.attributes['r'], Math.hypot(view.userWidth, view.userHeight) / Math.SQRT2) ?? 0;
    return r > 0 ? [circleOutline([across(element, 'cx', view) ?? 0, down(element, 'cy', view) ?? 0], r)] : [];
  },
  ellipse: (element, view) => {
    const [rx, ry] = [across(element, 'rx', view) ?? 0, down(element, 'ry', view) ?? 0];
    const [cx, cy] = [across(element, 'cx', view) ?? 0, down(element, 'cy', view) ?? 0];
    return rx > 0 && ry > 0 ? [ellipseOutline([rx, 0, 0, ry, cx, cy])] : [];
  },
  rect: (element, view) => {
    const [x, y] = [across(element, 'x', view) ?? 0, down(element, 'y', view) ?? 0];
    const [w, h] = [across(element, 'width', view) ?? 0, down(element, 'height', view) ?? 0];
    if (w <= 0 || h <= 0) return [];
    const [ownX, ownY] = [across(element, 'rx', view), down(element, 'ry', view)];
    const rx = Math.min(ownX ?? ownY ?? 0, w / 2);
    const ry = Math.min(ownY ?? ownX ?? 0, h / 2);
    if (rx <= 0 || ry <= 0)
      return [
        fromPoints(
          [
            [x, y],
            [x + w, y],
            [x + w, y + h],
            [x, y + h],
          ],
          true,
        ),
      ];
    const segments: Segment[] = [];
    let at: Point = [x + rx, y];
    const go = (side: Point, corner: Point) => {
      segments.push({ kind: 'line', to: side }, ...endpointArc(side, [rx, ry], 0, false, true, corner));
      at = corner;
    };
    const start = at;
    go([x + w - rx, y], [x + w, y + ry]);
    go([x + w, y + h - ry], [x + w - rx, y + h]);
    go([x + rx, y + h], [x, y + h - ry]);
    go([x, y + ry], start);
    return [{ start, segments, closed: true }];
  },
};
