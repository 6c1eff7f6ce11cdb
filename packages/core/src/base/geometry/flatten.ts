import { sweepOf } from './arcs';
import type { Arc, Cubic, Outline } from './outline';
import type { Point } from './point';

/** How many chords keep a cubic within `tolerance` (Wang's bound on the second difference). */
export function chordsOfCubic(from: Point, { c1, c2, to }: Cubic, tolerance: number): number {
  const first = Math.hypot(from[0] - 2 * c1[0] + c2[0], from[1] - 2 * c1[1] + c2[1]);
  const second = Math.hypot(c1[0] - 2 * c2[0] + to[0], c1[1] - 2 * c2[1] + to[1]);
  return Math.max(1, Math.min(4096, Math.ceil(Math.sqrt((0.75 * Math.max(first, second)) / tolerance))));
}

/** How many chords keep an arc within `tolerance` (sagitta of each chord). */
export function chordsOfArc(radius: number, sweep: number, tolerance: number): number {
  const step = radius <= tolerance ? Math.PI / 2 : 2 * Math.acos(1 - tolerance / radius);
  return Math.max(1, Math.min(8192, Math.ceil(Math.abs(sweep) / step - 1e-9)));
}

/** A point of a cubic at parameter t. */
export function pointOnCubic(from: Point, { c1, c2, to }: Cubic, t: number): Point {
  const s = 1 - t;
  const [a, b, c, d] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
  return [a * from[0] + b * c1[0] + c * c2[0] + d * to[0], a * from[1] + b * c1[1] + c * c2[1] + d * to[1]];
}

// A check flattens every curve of a drawing on both sides, so the two below make no objects on the way.

/** Adds the points between the ends of a cubic. */
function cubicPoints(points: number[], [ax, ay]: Point, cubic: Cubic, tolerance: number): void {
  const count = chordsOfCubic([ax, ay], cubic, tolerance);
  const [bx, by] = cubic.c1;
  const [cx, cy] = cubic.c2;
  const [dx, dy] = cubic.to;
  for (let i = 1; i < count; i++) {
    const t = i / count;
    const s = 1 - t;
    const [a, b, c, d] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
    points.push(a * ax + b * bx + c * cx + d * dx, a * ay + b * by + c * cy + d * dy);
  }
}

/** Adds the points between the ends of an arc, each turned on from the one before by the same step. */
function arcPoints(points: number[], from: Point, arc: Arc, tolerance: number): void {
  const [cx, cy] = arc.centre;
  let dx = from[0] - cx;
  let dy = from[1] - cy;
  const sweep = sweepOf(from, arc);
  const count = chordsOfArc(Math.hypot(dx, dy), sweep, tolerance);
  const cos = Math.cos(sweep / count);
  const sin = Math.sin(sweep / count);
  for (let i = 1; i < count; i++) {
    const x = dx * cos - dy * sin;
    dy = dx * sin + dy * cos;
    dx = x;
    points.push(cx + dx, cy + dy);
  }
}

/**
 * The outline as a polyline, closing line included.
 * @param tolerance largest distance between curve and chord, mm
 * @returns x, y, x, y … in mm
 */
export function flatten(outline: Outline, tolerance: number): number[] {
  const points: number[] = [outline.start[0], outline.start[1]];
  let from = outline.start;
  for (const segment of outline.segments) {
    if (segment.kind === 'cubic') cubicPoints(points, from, segment, tolerance);
    else if (segment.kind === 'arc') arcPoints(points, from, segment, tolerance);
    points.push(segment.to[0], segment.to[1]);
    from = segment.to;
  }
  if (outline.closed) {
    const n = points.length;
    if (Math.abs(points[n - 2]! - points[0]!) > 1e-9 || Math.abs(points[n - 1]! - points[1]!) > 1e-9)
      points.push(points[0]!, points[1]!);
  }
  return points;
}
