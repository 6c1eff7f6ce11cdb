import { farthestVertex } from './deviation';

/** The place where a copy is farthest from what it was made of. */
export interface Deviation {
  /** mm */
  readonly amount: number;
  /** On the part, mm: x and y, and of a solid z. */
  readonly at: readonly number[];
}

/** How exactly curves are followed where a copy is held against them, mm. */
export const FINE = 0.001;

/** Up to so many vertices are all looked at; of more, some of every line, and all of the lines that came out farthest. */
const ALL = 50_000;
const [FEW, FARTHEST] = [12, 200];

/**
 * The point of some exact lines that is farthest from a copy's.
 * @param exact polylines, x, y, x, y … mm, fine enough to stand for the curves that they are of
 * @param copy the copy's own polylines
 * @returns null where either is empty
 */
export function farthestOff(exact: readonly (readonly number[])[], copy: readonly (readonly number[])[]): Deviation | null {
  if (!copy.length || !exact.length) return null;
  const farthest = farthestVertex(copy);
  const total = exact.reduce((sum, { length }) => sum + length / 2, 0);
  const lines = total <= ALL ? exact : farthestLines(exact, (points) => farthest(someOf(points)).distance);
  let worst: Deviation | null = null;
  for (const points of lines) {
    const { distance, at } = farthest(points);
    if (distance > (worst?.amount ?? -1)) worst = { amount: distance, at };
  }
  return worst;
}

const farthestLines = (lines: readonly (readonly number[])[], far: (points: readonly number[]) => number) =>
  lines
    .map((points) => ({ points, far: far(points) }))
    .sort((a, b) => b.far - a.far)
    .slice(0, FARTHEST)
    .map(({ points }) => points);

/** A few vertices of a line, spread over it. */
function someOf(points: readonly number[]): readonly number[] {
  const vertices = points.length / 2;
  if (vertices <= FEW) return points;
  const some: number[] = [];
  for (let k = 0; k < FEW; k++) {
    const at = 2 * Math.floor((k * vertices) / FEW);
    some.push(points[at]!, points[at + 1]!);
  }
  return some;
}
