import type { Box } from '../../base/geometry/measure';
import type { Point } from '../../base/geometry/point';
import { multiply, rotation, translation } from '../../base/geometry/matrix';
import { type Anchor, type Dimension, SPOTS } from '../../document/items/kinds/dimension';
import { PER_UNIT } from '../../document/parameters/scope';
import type { Item, Style } from '../../document/schema';

/** Where an end of a dimension is; null where what it stands at is gone. */
export function anchorPoint(anchor: Anchor, boxOf: (id: string) => Box | null): Point | null {
  if ('at' in anchor) return anchor.at;
  const box = boxOf(anchor.of);
  if (!box) return null;
  const [u, v] = SPOTS[anchor.spot];
  return [box.minX + u * (box.maxX - box.minX), box.minY + v * (box.maxY - box.minY)];
}

/** The distance that a dimension says, mm. */
function measured([ax, ay]: Point, [bx, by]: Point, along: Dimension['along']): number {
  if (along === 'across') return Math.abs(bx - ax);
  return along === 'up' ? Math.abs(by - ay) : Math.hypot(bx - ax, by - ay);
}

/** What a dimension says: the number in its unit, and what stands around it. */
function dimensionWords({ unit, digits, before = '', after = '' }: Dimension, distance: number): string {
  return `${before}${(distance / PER_UNIT[unit]).toFixed(digits)}${after}`;
}

/**
 * The lines and words of a dimension between two places, as technical drawings have them (ISO 129-1: a line parallel to what is
 * measured, arrows at its ends, lines leading to it from what is measured, the number above it and readable from below or from
 * the right). All have the dimension's id.
 */
export function dimensionItems(item: Dimension, first: Point, second: Point): Item[] {
  const { id, along, away, size, style } = item;
  const axis = along === 'across' ? 0 : 1;
  const backwards = along !== 'straight' && second[axis] < first[axis];
  const [from, to] = backwards ? [second, first] : [first, second];
  // The way that is measured, and the side that the line stands off to: above what is across, to the left of what is upright.
  const way: Point = along === 'across' ? [1, 0] : along === 'up' ? [0, 1] : unit(from, to);
  const side: Point = [-way[1], way[0]];
  const dot = ([x, y]: Point, [u, v]: Point) => x * u + y * v;
  // The line stands off from the end that lies farther out on its side, so that it crosses neither.
  const level = (away >= 0 ? Math.max(dot(from, side), dot(to, side)) : Math.min(dot(from, side), dot(to, side))) + away;
  const on = (end: Point): Point => {
    const by = level - dot(end, side);
    return [end[0] + by * side[0], end[1] + by * side[1]];
  };
  const [a, b] = [on(from), on(to)];
  const distance = measured(from, to, along);
  const lined: Style = { ...style, fill: null };
  const filled: Style = { fill: style.stroke, stroke: null, strokeWidth: 0 };
  const line = (points: readonly Point[]): Item => ({
    kind: 'polyline',
    id,
    layer: null,
    style: lined,
    points: [...points],
    closed: false,
  });
  const [arrow, gap, beyond] = [0.9 * size, 0.3 * size, 0.35 * size];
  // Arrows that have no room between the ends point at them from outside.
  const inside = distance >= 2.6 * arrow;
  const head = (tip: Point, sign: number): Item => {
    const [dx, dy] = [sign * way[0] * arrow, sign * way[1] * arrow];
    const wing = 0.17;
    return {
      kind: 'polyline',
      id,
      layer: null,
      style: filled,
      points: [tip, [tip[0] - dx - wing * dy, tip[1] - dy + wing * dx], [tip[0] - dx + wing * dy, tip[1] - dy - wing * dx]],
      closed: true,
    };
  };
  const leader = (end: Point, at: Point): Item[] => {
    const [dx, dy] = [at[0] - end[0], at[1] - end[1]];
    const length = Math.hypot(dx, dy);
    if (length < gap) return [];
    const [ux, uy] = [dx / length, dy / length];
    return [
      line([
        [end[0] + gap * ux, end[1] + gap * uy],
        [at[0] + beyond * ux, at[1] + beyond * uy],
      ]),
    ];
  };
  const out = inside ? 0 : 1.8 * arrow;
  const start: Point = [a[0] - out * way[0], a[1] - out * way[1]];
  const stop: Point = [b[0] + out * way[0], b[1] + out * way[1]];
  // Read from below, or from the right where the line is upright.
  let angle = Math.atan2(way[1], way[0]);
  if (angle > Math.PI / 2 + 1e-9 || angle <= -Math.PI / 2 + 1e-9) angle += angle > 0 ? -Math.PI : Math.PI;
  const middle: Point = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  const transform = multiply(translation(...middle), rotation(angle));
  return [
    ...leader(from, a),
    ...leader(to, b),
    line([start, stop]),
    head(a, inside ? -1 : 1),
    head(b, inside ? 1 : -1),
    {
      kind: 'text',
      id,
      layer: null,
      transform,
      style: filled,
      text: dimensionWords(item, distance),
      x: 0,
      y: 0.3 * size,
      size,
      font: 'Commissioner',
      align: 'middle',
    },
  ];
}

const unit = ([ax, ay]: Point, [bx, by]: Point): Point => {
  const length = Math.hypot(bx - ax, by - ay);
  return length ? [(bx - ax) / length, (by - ay) / length] : [1, 0];
};
