export type Spot = readonly [number, number];
export type Line = readonly Spot[];

function toSegment([x, y]: Spot, [ax, ay]: Spot, [bx, by]: Spot): number {
  const [dx, dy] = [bx - ax, by - ay];
  const square = dx * dx + dy * dy;
  const t = square ? Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / square)) : 0;
  return Math.hypot(x - ax - t * dx, y - ay - t * dy);
}

function toLine(spot: Spot, line: Line): number {
  let best = line.length === 1 ? Math.hypot(spot[0] - line[0]![0], spot[1] - line[0]![1]) : Infinity;
  for (let i = 1; i < line.length; i++) best = Math.min(best, toSegment(spot, line[i - 1]!, line[i]!));
  return best;
}

/** How far two lines are apart at least, by brute force over corners: a lower bound of the Hausdorff distance. */
export const apart = (a: Line, b: Line): number =>
  Math.max(...a.map((spot) => toLine(spot, b)), ...b.map((spot) => toLine(spot, a)));

/** Whether a spot lies inside a closed line, by rays. */
export function inside([x, y]: Spot, line: Line): boolean {
  let odd = false;
  for (let i = 0, j = line.length - 1; i < line.length; j = i++) {
    const [[ax, ay], [bx, by]] = [line[i]!, line[j]!];
    if (ay > y !== by > y && x < ax + ((y - ay) / (by - ay)) * (bx - ax)) odd = !odd;
  }
  return odd;
}

/** Twice the area, anticlockwise positive. */
export const winding = (line: Line): number =>
  line.reduce((sum, [x, y], i) => {
    const [nx, ny] = line[(i + 1) % line.length]!;
    return sum + x * ny - nx * y;
  }, 0);

export function boxOf(spots: Line): { minX: number; minY: number; maxX: number; maxY: number } {
  const [xs, ys] = [spots.map(([x]) => x), spots.map(([, y]) => y)];
  return { minX: Math.min(...xs), minY: Math.min(...ys), maxX: Math.max(...xs), maxY: Math.max(...ys) };
}
