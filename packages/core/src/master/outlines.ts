import { circleOutline, ellipseOutline } from '../geometry/arcs';
import { type Outline, type Segment, fromPoints } from '../geometry/outline';
import type { DrawnItem, TextItem } from './schema';

const outlinesOfRectangle = (x: number, y: number, width: number, height: number, radius: number): Outline => {
  const r = Math.min(radius, width / 2, height / 2);
  const [right, top] = [x + width, y + height];
  if (r <= 0)
    return fromPoints(
      [
        [x, y],
        [right, y],
        [right, top],
        [x, top],
      ],
      true,
    );
  const line = (px: number, py: number): Segment => ({ kind: 'line', to: [px, py] });
  const corner = (px: number, py: number, cx: number, cy: number): Segment => ({
    kind: 'arc',
    to: [px, py],
    centre: [cx, cy],
    clockwise: false,
  });
  const segments = [
    line(right - r, y),
    corner(right, y + r, right - r, y + r),
    line(right, top - r),
    corner(right - r, top, right - r, top - r),
    line(x + r, top),
    corner(x, top - r, x + r, top - r),
    line(x, y + r),
    corner(x + r, y, x + r, y + r),
  ];
  return { start: [x + r, y], segments, closed: true };
};

/** The outlines of a shape in its own axes, mm. Text has none before it is outlined. */
export function outlinesOf(item: Exclude<DrawnItem, TextItem>): readonly Outline[] {
  switch (item.kind) {
    case 'path':
      return item.outlines;
    case 'rectangle':
      return [outlinesOfRectangle(item.x, item.y, item.width, item.height, item.radius)];
    case 'ellipse':
      return item.rx === item.ry
        ? [circleOutline([item.cx, item.cy], item.rx)]
        : [ellipseOutline([item.rx, 0, 0, item.ry, item.cx, item.cy])];
    case 'polyline':
      return [fromPoints(item.points, item.closed)];
  }
}
