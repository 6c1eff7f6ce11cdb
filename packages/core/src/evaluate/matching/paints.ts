import { colouring } from '../gradients/gradient';
import { apply } from '../../base/geometry/matrix';
import type { Box } from '../../base/geometry/measure';
import type { Point } from '../../base/geometry/point';
import { sizeInWord } from '../../contracts/pictures';
import {
  type PlacedGradient,
  type PlacedPaint,
  type PlacedPattern,
  type PlacedPicture,
  isGradient,
  isPattern,
  isPicture,
} from '../../document/paint';

/** Places across a box, and up, at which two gradients are held against each other. */
const PLACES = 12;
/** Parts of red, green and blue (0 to 255) that nobody tells apart. */
const PARTS = 2.5;
/** Share of places that may be off: where a colour changes at once, a hair of place is the whole step. */
const STRAY = 0.014;

const rough = ({ stops }: PlacedGradient): string =>
  stops.length > 4
    ? `${stops[0]!.colour} to ${stops.at(-1)!.colour} by ${stops.length} stops`
    : stops.map(({ colour }) => colour).join(' to ');

/** What counts as the same. */
export interface Sameness {
  /** mm */
  readonly tolerance: number;
  /** Whether the cells of two patterns say the same, by the words for them. */
  readonly sameCell: (one: string, other: string) => boolean;
}

/** A paint in words: "#2b4180", "linear from #2b4180 to #ffffff". */
export const paintInWords = (paint: PlacedPaint | null): string =>
  isPicture(paint)
    ? `a picture of ${sizeInWord(paint.picture)} pixels`
    : isPattern(paint)
      ? `a pattern ${paint.width.toFixed(2)} × ${paint.height.toFixed(2)} mm`
      : isGradient(paint)
        ? `${paint.kind} gradient ${rough(paint)}`
        : (paint ?? 'none');

/** Two paints that differ in words; where they only lie elsewhere or change otherwise in between, that is said. */
export function paintsInWords(what: string, a: PlacedPaint | null, b: PlacedPaint | null): [master: string, copy: string] {
  const [one, other] = [paintInWords(a), paintInWords(b)];
  if (one !== other) return [`${what} ${one}`, `${what} ${other}`];
  const drift = isPattern(a) && isPattern(b) ? 'repeated elsewhere' : 'lying or shading otherwise';
  return [`${what} ${one}`, `${what} ${other}, ${drift}`];
}

/** Whether two paints show the same within a box, gradients as far as the eye tells and the tolerance of place allows. */
export function samePaint(
  a: PlacedPaint | null,
  b: PlacedPaint | null,
  box: () => Box,
  { tolerance, sameCell }: Sameness,
): boolean {
  if (a === b) return true;
  if (isPicture(a) || isPicture(b))
    return isPicture(a) && isPicture(b) && a.picture === b.picture && pictureDrift(a, b) <= 2 * tolerance;
  if (isPattern(a) || isPattern(b))
    return isPattern(a) && isPattern(b) && samePattern(a, b, box(), tolerance) && sameCell(a.cell, b.cell);
  if (!isGradient(a) && !isGradient(b)) return false;
  if (a === null || b === null) return false;
  const [one, other] = [colouringOf(a), colouringOf(b)];
  const { minX, minY, maxX, maxY } = box();
  let off = 0;
  for (let i = 0; i < PLACES; i++)
    for (let j = 0; j < PLACES; j++) {
      // Off the middle of the raster, so that bands of a regular pattern do not hide between the places.
      const point: Point = [
        minX + ((maxX - minX) * (i + 0.5 + 0.21 * Math.sin(i + 3 * j))) / PLACES,
        minY + ((maxY - minY) * (j + 0.5 + 0.21 * Math.cos(2 * i + j))) / PLACES,
      ];
      if (!near(one(point), point, other, tolerance)) off++;
    }
  return off <= STRAY * PLACES * PLACES;
}

/** How far the corners of two pictures lie apart at most, mm. */
export function pictureDrift(a: PlacedPicture, b: PlacedPicture): number {
  const corners: readonly Point[] = [
    [0, 0],
    [1, 0],
    [0, 1],
    [1, 1],
  ];
  return Math.max(
    ...corners.map((corner) => {
      const [p, q] = [apply(a.at, corner), apply(b.at, corner)];
      return Math.hypot(p[0] - q[0], p[1] - q[1]);
    }),
  );
}

/** Whether the cells of two patterns lie in the same places, as far as the box goes. */
function samePattern(a: PlacedPattern, b: PlacedPattern, { minX, minY, maxX, maxY }: Box, tolerance: number): boolean {
  const reach = Math.hypot(maxX - minX, maxY - minY) / Math.min(a.width, a.height) + 1;
  const corner = ({ at, width, height }: PlacedPattern, [x, y]: Point) => apply(at, [x * width, y * height]);
  const [from, to] = [corner(a, [0, 0]), corner(b, [0, 0])];
  return (
    [
      [0, 0],
      [1, 0],
      [0, 1],
    ] as const
  ).every((place) => {
    const [p, q] = [corner(a, place), corner(b, place)];
    const drift = Math.hypot(p[0] - from[0] - (q[0] - to[0]), p[1] - from[1] - (q[1] - to[1]));
    return Math.hypot(p[0] - q[0], p[1] - q[1]) <= 2 * tolerance && drift * reach <= 4 * tolerance;
  });
}

type Colouring = ReturnType<typeof colouring>;

const colouringOf = (paint: string | PlacedGradient): Colouring =>
  isGradient(paint)
    ? colouring(paint)
    : colouring({ kind: 'linear', at: [1, 0, 0, 1, 0, 0], stops: [{ offset: 0, colour: paint }] });

/** Whether the other side has a colour at a point, or within the tolerance of it. */
function near(colour: ReturnType<Colouring>, [x, y]: Point, other: Colouring, tolerance: number): boolean {
  const same = (point: Point) => {
    const there = other(point);
    const alpha = Math.max(colour[3], there[3]);
    return (
      Math.abs(colour[3] - there[3]) * 255 <= PARTS && [0, 1, 2].every((i) => Math.abs(colour[i]! - there[i]!) * alpha <= PARTS)
    );
  };
  if (same([x, y])) return true;
  return [
    [x + tolerance, y],
    [x - tolerance, y],
    [x, y + tolerance],
    [x, y - tolerance],
  ].some(([px, py]) => same([px!, py!]));
}
