import type { Shown } from '../../content/shown';

type Point = readonly [number, number];

/** Two points of a copy that are measured between, mm; the second is where the pointer is until it is set. */
export interface Ruler {
  readonly from: Point;
  readonly to: Point;
  readonly set: boolean;
}

/**
 * The corner or end of something shown that lies nearest to a point, or the point itself.
 * @param reach how far it may be, mm
 */
export function cornerNear(shown: Shown, [x, y]: Point, reach: number): Point {
  let best: Point = [x, y];
  let least = reach;
  const ask = (at: Point): void => {
    const far = Math.hypot(at[0] - x, at[1] - y);
    if (far < least) [best, least] = [at, far];
  };
  for (let entry = 0; entry < shown.count; entry++) {
    const { minX, minY, maxX, maxY } = shown.boxOf(entry);
    if (x < minX - reach || x > maxX + reach || y < minY - reach || y > maxY + reach) continue;
    for (const corner of shown.corners?.(entry) ?? []) ask(corner);
  }
  const { sheet } = shown;
  if (sheet) for (const cx of [0, sheet.width]) for (const cy of [0, sheet.height]) ask([cx, cy]);
  return best;
}

const mm = (value: number): string => `${value.toFixed(2)} mm`;

/** What a measure is, in words. */
export function measureInWords({ from, to }: Ruler): string {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const angle = ((Math.atan2(dy, dx) * 180) / Math.PI + 360) % 360;
  return `${mm(Math.hypot(dx, dy))}, across ${mm(Math.abs(dx))}, ${dy < 0 ? 'down' : 'up'} ${mm(Math.abs(dy))}, at ${angle.toFixed(1)}°`;
}

/** Draws a measure: its line, its two ends, and how long it is. */
export function paintRuler(
  context: CanvasRenderingContext2D,
  { from, to }: Ruler,
  place: (point: Point) => Point,
  { ink, ground }: { readonly ink: string; readonly ground: string },
): void {
  const [[x1, y1], [x2, y2]] = [place(from), place(to)];
  const length = Math.hypot(x2 - x1, y2 - y1);
  const [nx, ny] = length ? [-(y2 - y1) / length, (x2 - x1) / length] : [0, 1];
  const trace = (): void => {
    context.beginPath();
    context.moveTo(x1, y1);
    context.lineTo(x2, y2);
    for (const [x, y] of [
      [x1, y1],
      [x2, y2],
    ] as const) {
      context.moveTo(x - 6 * nx, y - 6 * ny);
      context.lineTo(x + 6 * nx, y + 6 * ny);
    }
    context.stroke();
  };
  // Seen on whatever is below.
  context.strokeStyle = ground;
  context.lineWidth = 4;
  trace();
  context.strokeStyle = ink;
  context.lineWidth = 1.4;
  trace();
}
