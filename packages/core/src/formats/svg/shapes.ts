import type { PathStore } from '../../base/geometry/paths';
import { circleOutline, ellipseOutline, endpointArc } from '../../base/geometry/arcs';
import { fromPoints } from '../../base/geometry/outline';
import type { Point } from '../../base/geometry/point';
import { numbersUpTo, parseLength } from './lengths';
import { parsePathData } from './path-data';
import type { Viewport } from './viewport';
import type { XmlElement } from './xml-element';

/** @returns what of it breaks off, in words */
type Shape = (element: XmlElement, viewport: Viewport, into: PathStore) => string | void;

const across = (element: XmlElement, name: string, { userWidth }: Viewport) => parseLength(element.attributes[name], userWidth);
const down = (element: XmlElement, name: string, { userHeight }: Viewport) => parseLength(element.attributes[name], userHeight);

/** What stands before an error is drawn (SVG 1.1, F.2). */
function points(element: XmlElement, closed: boolean, into: PathStore): string | void {
  const { numbers, whole } = numbersUpTo(element.attributes['points'] ?? '');
  const list: Point[] = [];
  for (let i = 0; i + 1 < numbers.length; i += 2) list.push([numbers[i]!, numbers[i + 1]!]);
  if (list.length > 1) into.add(fromPoints(list, closed));
  return whole && numbers.length % 2 === 0 ? undefined : 'list of points that breaks off';
}

/** The outlines of each basic shape (SVG 1.1, chapters 8 and 9), in user units. */
export const SHAPES: Readonly<Record<string, Shape>> = {
  path: (element, _view, into) =>
    parsePathData(element.attributes['d'] ?? '', into) === null ? undefined : 'path data that breaks off',
  polygon: (element, _view, into) => points(element, true, into),
  polyline: (element, _view, into) => points(element, false, into),
  line: (element, view, into) => {
    const from: Point = [across(element, 'x1', view) ?? 0, down(element, 'y1', view) ?? 0];
    into.add(fromPoints([from, [across(element, 'x2', view) ?? 0, down(element, 'y2', view) ?? 0]], false));
  },
  circle: (element, view, into) => {
    const r = parseLength(element.attributes['r'], Math.hypot(view.userWidth, view.userHeight) / Math.SQRT2) ?? 0;
    if (r > 0) into.add(circleOutline([across(element, 'cx', view) ?? 0, down(element, 'cy', view) ?? 0], r));
  },
  ellipse: (element, view, into) => {
    const [rx, ry] = [across(element, 'rx', view) ?? 0, down(element, 'ry', view) ?? 0];
    const [cx, cy] = [across(element, 'cx', view) ?? 0, down(element, 'cy', view) ?? 0];
    if (rx > 0 && ry > 0) into.add(ellipseOutline([rx, 0, 0, ry, cx, cy]));
  },
  rect: (element, view, into) => {
    const [x, y] = [across(element, 'x', view) ?? 0, down(element, 'y', view) ?? 0];
    const [w, h] = [across(element, 'width', view) ?? 0, down(element, 'height', view) ?? 0];
    if (w <= 0 || h <= 0) return;
    const [ownX, ownY] = [across(element, 'rx', view), down(element, 'ry', view)];
    const rx = Math.min(ownX ?? ownY ?? 0, w / 2);
    const ry = Math.min(ownY ?? ownX ?? 0, h / 2);
    const [right, bottom] = [x + w, y + h];
    const corners = rx > 0 && ry > 0;
    const start: Point = corners ? [x + rx, y] : [x, y];

    into.move(...start);
    const go = (side: Point, corner: Point) => {
      into.line(...side);
      for (const segment of endpointArc(side, [rx, ry], 0, false, true, corner)) into.segment(segment);
    };
    if (corners) {
      go([right - rx, y], [right, y + ry]);
      go([right, bottom - ry], [right - rx, bottom]);
      go([x + rx, bottom], [x, bottom - ry]);
      go([x, y + ry], start);
    } else
      for (const [px, py] of [
        [right, y],
        [right, bottom],
        [x, bottom],
      ] as const)
        into.line(px, py);
    into.end(true);
  },
};
