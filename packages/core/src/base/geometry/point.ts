/** A point or vector in millimetres, y upwards. */
export type Point = readonly [x: number, y: number];

// Plain roots: `Math.hypot` guards against lengths that no sheet has, and takes ten times as long.
const length = (dx: number, dy: number): number => Math.sqrt(dx * dx + dy * dy);

export const distance = (a: Point, b: Point): number => length(a[0] - b[0], a[1] - b[1]);
export const midpoint = (a: Point, b: Point): Point => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
export const near = (a: Point, b: Point, within: number): boolean =>
  Math.abs(a[0] - b[0]) <= within && Math.abs(a[1] - b[1]) <= within;

/** Distance from a point to a line segment, in the unit of its arguments. */
export function distanceToSegment(px: number, py: number, ax: number, ay: number, bx: number, by: number): number {
  const dx = bx - ax;
  const dy = by - ay;
  const square = dx * dx + dy * dy;
  const t = square === 0 ? 0 : Math.min(1, Math.max(0, ((px - ax) * dx + (py - ay) * dy) / square));
  return length(px - ax - t * dx, py - ay - t * dy);
}
