import type { Outline, Segment } from '../../base/geometry/outline';
import type { Point } from '../../base/geometry/point';

/** A step of a glyph's outline: to a point, by a curve where there are handles. */
export interface GlyphStep {
  readonly type: 'M' | 'L' | 'C' | 'Q' | 'Z';
  readonly points: readonly Point[];
}

/** A glyph's steps as outlines, all closed; a quadratic is a cubic with handles two thirds along. */
export function glyphOutlines(steps: Iterable<GlyphStep>): Outline[] {
  const outlines: Outline[] = [];
  let start: Point = [0, 0];
  let at: Point = start;
  let segments: Segment[] = [];
  const close = () => {
    if (segments.length) outlines.push({ start, segments, closed: true });
    segments = [];
  };
  for (const { type, points } of steps) {
    if (type === 'Z') {
      close();
      continue;
    }
    const to = points.at(-1)!;
    if (type === 'M') {
      close();
      start = to;
    } else if (type === 'L') {
      // Some fonts draw lines to where they are.
      if (to[0] !== at[0] || to[1] !== at[1]) segments.push({ kind: 'line', to });
    } else if (type === 'C') segments.push({ kind: 'cubic', c1: points[0]!, c2: points[1]!, to });
    else {
      const handle = points[0]!;
      const towards = (from: Point): Point => [
        from[0] + (2 / 3) * (handle[0] - from[0]),
        from[1] + (2 / 3) * (handle[1] - from[1]),
      ];
      segments.push({ kind: 'cubic', c1: towards(at), c2: towards(to), to });
    }
    at = to;
  }
  close();
  return outlines;
}
