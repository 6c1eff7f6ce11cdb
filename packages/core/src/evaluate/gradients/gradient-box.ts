import type { Box } from '../../base/geometry/measure';
import type { Point } from '../../base/geometry/point';
import type { PlacedGradient } from '../../document/paint';
import { colouring, endsOfLinear, hex } from './gradient';

/** Two colours that run across a box: along a line at an angle, or out from its middle. */
export interface BoxGradient {
  readonly kind: PlacedGradient['kind'];
  /** Of a linear one, radians from the x axis. */
  readonly angle: number;
  /** At its start, and at its end. */
  readonly colours: readonly [string, string];
}

const corners = ({ minX, minY, maxX, maxY }: Box): Point[] => [
  [minX, minY],
  [maxX, minY],
  [minX, maxY],
  [maxX, maxY],
];
const middle = ({ minX, minY, maxX, maxY }: Box): Point => [(minX + maxX) / 2, (minY + maxY) / 2];

/** How far from its middle a box reaches along a direction, mm. */
const reach = ({ minX, minY, maxX, maxY }: Box, angle: number): number =>
  ((maxX - minX) * Math.abs(Math.cos(angle)) + (maxY - minY) * Math.abs(Math.sin(angle))) / 2;

/** A gradient of two colours as it lies on a box: a radial one reaches from the middle to the corners. */
export function onBox({ kind, angle, colours }: BoxGradient, box: Box): PlacedGradient {
  const [x, y] = middle(box);
  const far = kind === 'linear' ? reach(box, angle) : Math.hypot(box.maxX - x, box.maxY - y);
  const [dx, dy] = [far * Math.cos(angle), far * Math.sin(angle)];
  return {
    kind,
    at: kind === 'linear' ? [2 * dx, 2 * dy, -2 * dy, 2 * dx, x - dx, y - dy] : [far, 0, 0, far, x, y],
    stops: colours.map((colour, offset) => ({ offset, colour })),
  };
}

/** The gradient of two colours across a box that is nearest to any one: its colours at the ends, and at the middle and the corners. */
export function acrossBox(gradient: PlacedGradient, box: Box): BoxGradient {
  const at = colouring(gradient);
  const colour = (points: readonly Point[]) => {
    const found = points.map(at);
    return `#${[0, 1, 2].map((part) => hex(found.reduce((sum, one) => sum + one[part]!, 0) / found.length)).join('')}`;
  };
  const [x, y] = middle(box);
  if (gradient.kind === 'radial') return { kind: 'radial', angle: 0, colours: [colour([[x, y]]), colour(corners(box))] };
  const { from, to } = endsOfLinear(gradient);
  const angle = Math.atan2(to[1] - from[1], to[0] - from[0]);
  const far = reach(box, angle);
  // A hair inside: a step just at an end is on this side of it.
  const end = (way: number): Point[] => [[x + 0.9999 * way * far * Math.cos(angle), y + 0.9999 * way * far * Math.sin(angle)]];
  return { kind: 'linear', angle, colours: [colour(end(-1)), colour(end(1))] };
}

/** A gradient that lies on a box as `onBox` lays it, as what it says. */
export const offBox = ({ kind, at, stops }: PlacedGradient): BoxGradient => ({
  kind,
  angle: kind === 'linear' ? Math.atan2(at[1], at[0]) : 0,
  colours: [stops[0]!.colour, stops.at(-1)!.colour],
});
