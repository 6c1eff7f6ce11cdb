import { type Outline, sweepOf } from '@inkwell-twin/core/web';

function addOutline(path: Path2D, { start, segments, closed }: Outline): void {
  path.moveTo(start[0], start[1]);
  let from = start;
  for (const segment of segments) {
    const { to } = segment;
    if (segment.kind === 'line') path.lineTo(to[0], to[1]);
    else if (segment.kind === 'cubic') path.bezierCurveTo(...segment.c1, ...segment.c2, ...to);
    else {
      const [cx, cy] = segment.centre;
      const angle = Math.atan2(from[1] - cy, from[0] - cx);
      const sweep = sweepOf(from, segment);
      path.arc(cx, cy, Math.hypot(from[0] - cx, from[1] - cy), angle, angle + sweep, sweep < 0);
    }
    from = to;
  }
  if (closed) path.closePath();
}

/** Outlines as a path, in their own axes. */
export function pathOfOutlines(outlines: readonly Outline[]): Path2D {
  const path = new Path2D();
  for (const outline of outlines) addOutline(path, outline);
  return path;
}
