import type { Point } from './point';

/** A straight line to a point. */
export interface Line {
  readonly kind: 'line';
  readonly to: Point;
}
/** A circular arc about a centre. */
export interface Arc {
  readonly kind: 'arc';
  readonly to: Point;
  readonly centre: Point;
  readonly clockwise: boolean;
}
/** A cubic Bézier curve with two handles. */
export interface Cubic {
  readonly kind: 'cubic';
  readonly to: Point;
  readonly c1: Point;
  readonly c2: Point;
}
export type Segment = Line | Arc | Cubic;

/** One connected outline. `closed` adds a straight closing line where the last point is not the first. */
export interface Outline {
  readonly start: Point;
  readonly segments: readonly Segment[];
  readonly closed: boolean;
}
