import { type Matrix, apply, determinant, isSimilarity } from './matrix';
import { type Point, near } from './point';
import { arcToCubics } from './arcs';
import type { Cubic, Outline, Segment } from './segments';

export type { Arc, Cubic, Line, Outline, Segment } from './segments';

export const endOf = (outline: Outline): Point => outline.segments.at(-1)?.to ?? outline.start;

/** An outline with its closing line written out, so that its last point is its first. */
export function withClosingLine(outline: Outline): Outline {
  if (!outline.closed || near(endOf(outline), outline.start, 1e-9)) return outline;
  return { ...outline, segments: [...outline.segments, { kind: 'line', to: outline.start }] };
}

/** An outline through points. */
export const fromPoints = (points: readonly Point[], closed: boolean): Outline => ({
  start: points[0] ?? [0, 0],
  segments: points.slice(1).map((to) => ({ kind: 'line', to })),
  closed,
});

/** The image of an outline. Arcs stay arcs under turns, uniform scales and mirrors, and become cubics otherwise. */
export function transformOutline(outline: Outline, matrix: Matrix): Outline {
  const similar = isSimilarity(matrix);
  const mirrors = determinant(matrix) < 0;
  const segments: Segment[] = [];
  let from = outline.start;
  for (const segment of outline.segments) {
    if (segment.kind === 'line') segments.push({ kind: 'line', to: apply(matrix, segment.to) });
    else if (segment.kind === 'cubic') segments.push(mapCubic(segment, matrix));
    else if (similar)
      segments.push({
        kind: 'arc',
        to: apply(matrix, segment.to),
        centre: apply(matrix, segment.centre),
        clockwise: segment.clockwise !== mirrors,
      });
    else for (const cubic of arcToCubics(from, segment)) segments.push(mapCubic(cubic, matrix));
    from = segment.to;
  }
  return { start: apply(matrix, outline.start), segments, closed: outline.closed };
}

const mapCubic = (cubic: Cubic, matrix: Matrix): Cubic => ({
  kind: 'cubic',
  to: apply(matrix, cubic.to),
  c1: apply(matrix, cubic.c1),
  c2: apply(matrix, cubic.c2),
});
