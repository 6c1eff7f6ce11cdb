import { type Matrix, apply, invert, multiply, scaling, translation } from '../../base/geometry/matrix';
import type { Box } from '../../base/geometry/measure';
import type { Point } from '../../base/geometry/point';
import type { PlacedGradient } from '../../document/paint';

type Rgba = readonly [red: number, green: number, blue: number, alpha: number];

const parse = (colour: string, alpha: number): Rgba => [
  parseInt(colour.slice(1, 3), 16),
  parseInt(colour.slice(3, 5), 16),
  parseInt(colour.slice(5, 7), 16),
  alpha,
];

/** Where in its stops a gradient is at a point of its own plane: 0 at its start, 1 at its end (SVG 1.1, 13.2). */
function reach({ kind, focus }: PlacedGradient, [x, y]: Point): number {
  if (kind === 'linear') return x;
  const [fx, fy] = focus ?? [0, 0];
  // From the focus through the point to the circle: |f + (p − f)/t| = 1 solved for t.
  const [dx, dy] = [x - fx, y - fy];
  const a = 1 - fx * fx - fy * fy;
  const b = fx * dx + fy * dy;
  const c = dx * dx + dy * dy;
  if (a <= 0) return b > 0 ? c / (2 * b) : 1;
  return (b + Math.sqrt(Math.max(0, b * b + a * c))) / a;
}

function within(at: number, spread: PlacedGradient['spread']): number {
  if (spread === 'repeat') return at - Math.floor(at);
  if (spread === 'reflect') {
    const turn = Math.abs(at) % 2;
    return turn > 1 ? 2 - turn : turn;
  }
  return Math.min(1, Math.max(0, at));
}

/** The colour of a gradient at a place in its stops; red, green and blue 0 to 255, alpha 0 to 1, mixed without premultiplying. */
function colourOfStops({ stops }: PlacedGradient, at: number): Rgba {
  const next = stops.findIndex(({ offset }) => offset > at);
  const [before, after] = next < 0 ? [stops.at(-1)!, stops.at(-1)!] : [stops[Math.max(0, next - 1)]!, stops[next]!];
  const [x, y] = [parse(before.colour, before.opacity ?? 1), parse(after.colour, after.opacity ?? 1)];
  const way = after.offset > before.offset ? Math.max(0, (at - before.offset) / (after.offset - before.offset)) : 0;
  return [0, 1, 2, 3].map((i) => x[i]! + (y[i]! - x[i]!) * way) as unknown as Rgba;
}

/** Tells the colour of a gradient at a point of the board. */
export function colouring(gradient: PlacedGradient): (point: Point) => Rgba {
  const inverse: Matrix | undefined = invert(gradient.at);
  // One that has no extent shows its last colour (SVG 1.1, 13.2.2).
  return (point) => colourOfStops(gradient, inverse ? within(reach(gradient, apply(inverse, point)), gradient.spread) : Infinity);
}

/** A part of a colour, 0 to 255, as two digits. */
export const hex = (value: number): string => Math.round(value).toString(16).padStart(2, '0');

/** One colour for a gradient: the mean over its length, each part weighed by how much it covers. */
export function meanColour(gradient: Pick<PlacedGradient, 'stops'>): string {
  let [r, g, b, weight] = [0, 0, 0, 0];
  for (let i = 0; i < 64; i++) {
    const [red, green, blue, alpha] = colourOfStops(gradient as PlacedGradient, (i + 0.5) / 64);
    [r, g, b, weight] = [r + red * alpha, g + green * alpha, b + blue * alpha, weight + alpha];
  }
  return weight ? `#${hex(r / weight)}${hex(g / weight)}${hex(b / weight)}` : gradient.stops[0]!.colour;
}

/**
 * A linear gradient by two points between which it runs straight: however its plane is slanted, it is the same as one whose
 * bands stand upright on the line from start to end.
 */
export function endsOfLinear({ at }: Pick<PlacedGradient, 'at'>): { from: Point; to: Point } {
  const from: Point = [at[4], at[5]];
  const inverse = invert(at);
  if (!inverse) return { from, to: from };
  // The place is n·(p − from), with n the first row of the inverse: one unit further lies n / |n|².
  const [nx, ny] = [inverse[0], inverse[2]];
  const square = nx * nx + ny * ny;
  return { from, to: [from[0] + nx / square, from[1] + ny / square] };
}

/** Lengths that a repeated gradient is unrolled over at most; more of them are a grey to the eye. */
const MOST_LENGTHS = 24;

/**
 * A gradient that repeats as one that does not: its colours written out as often as a box needs.
 * @param box what it paints, on the board
 */
export function unrolled(gradient: PlacedGradient, { minX, minY, maxX, maxY }: Box): PlacedGradient {
  const { kind, at, stops, spread, focus, ...rest } = gradient;
  const inverse = invert(at);
  if (!inverse || spread === undefined || spread === 'pad') return gradient;
  const corners: Point[] = [
    [minX, minY],
    [maxX, minY],
    [minX, maxY],
    [maxX, maxY],
  ];
  const reached = corners.map((corner) => reach(gradient, apply(inverse, corner)));
  const low = kind === 'radial' ? 0 : Math.floor(Math.min(...reached));
  const high = Math.min(Math.max(Math.ceil(Math.max(...reached)), low + 1), low + MOST_LENGTHS);
  const length = high - low;
  // Before its first stop and behind its last a length has their colours: it does not run on into the next.
  const [start, last] = [stops[0]!, stops.at(-1)!];
  const full = [
    ...(start.offset > 0 ? [{ ...start, offset: 0 }] : []),
    ...stops,
    ...(last.offset < 1 ? [{ ...last, offset: 1 }] : []),
  ];
  const all = Array.from({ length }, (_, k) => {
    const turned = spread === 'reflect' && (low + k) % 2 !== 0;
    const once = turned ? [...full].reverse().map((stop) => ({ ...stop, offset: 1 - stop.offset })) : full;
    return once.map((stop) => ({ ...stop, offset: (k + stop.offset) / length }));
  });
  const [fx, fy] = focus ?? [0, 0];
  // Circles of a radial one grow from its focus: the one of `length` times the radius lies as much further off it.
  const centre = kind === 'radial' ? translation(fx * (1 - length), fy * (1 - length)) : translation(low, 0);
  return {
    ...rest,
    kind,
    at: multiply(multiply(at, centre), scaling(length, kind === 'radial' ? length : 1)),
    ...(focus ? { focus } : {}),
    stops: all.flat(),
  };
}
