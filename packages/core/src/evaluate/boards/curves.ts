import type { LineNote } from '../../contracts/report';
import { CUBICS_OFF, arcToCubics, sweepOf } from '../../base/geometry/arcs';
import { arcsOfCubic } from '../../base/geometry/fit-arcs';
import { chordsOfArc, chordsOfCubic, flatten } from '../../base/geometry/flatten';
import type { Arc, Cubic, Outline, Segment } from '../../base/geometry/outline';
import { type Point, distance, distanceToSegment, near } from '../../base/geometry/point';

/** What becomes of arcs and free curves, and onto which grid coordinates go. */
export interface CurveRules {
  readonly arcs: 'kept' | 'curves' | 'chords';
  readonly cubics: 'kept' | 'arcs' | 'chords';
  /** Largest distance between a curve and what stands for it, mm. */
  readonly within: number;
  /** Coordinates are rounded to this, mm; 0 where they are not worth a word. */
  readonly step: number;
}

/** Where the rewrites of an outline are written down, each with how far it is off, mm. */
export interface CurveNotes {
  readonly arcs: LineNote;
  readonly curves: LineNote;
  readonly kept: LineNote;
  readonly grid: LineNote;
}

/** An outline as a target can hold it; one whose pieces all vanish on the target's grid has no segments left. */
export function adaptOutline(outline: Outline, rules: CurveRules, notes: CurveNotes, source: string): Outline {
  let [hasArcs, hasCubics] = [false, false];
  for (const { kind } of outline.segments) {
    if (kind === 'arc') hasArcs = true;
    else if (kind === 'cubic') hasCubics = true;
  }
  if (hasCubics && rules.cubics === 'kept') notes.kept(source);
  const rewrites = (hasArcs && rules.arcs !== 'kept') || (hasCubics && rules.cubics !== 'kept');
  const rewritten = rewrites ? rewrite(outline, rules, notes, source) : outline;
  return rules.step ? rounded(rewritten, rules.step, notes, source) : rewritten;
}

function rewrite(outline: Outline, rules: CurveRules, notes: CurveNotes, source: string): Outline {
  const segments: Segment[] = [];
  let from = outline.start;
  for (const segment of outline.segments) {
    if (segment.kind === 'cubic' && rules.cubics === 'arcs') {
      const { pieces, deviation } = arcsOfCubic(from, segment, rules.within);
      notes.curves(source, source, deviation);
      segments.push(...pieces);
    } else if (segment.kind === 'arc' && rules.arcs === 'curves') {
      notes.arcs(source, source, CUBICS_OFF * distance(from, segment.centre));
      segments.push(...arcToCubics(from, segment));
    } else if (segment.kind === 'line' || rules[segment.kind === 'arc' ? 'arcs' : 'cubics'] === 'kept') segments.push(segment);
    else {
      const points = flatten({ start: from, segments: [segment], closed: false }, rules.within);
      if (segment.kind === 'arc') notes.arcs(source, source, sagittaOfArc(from, segment, rules.within));
      else notes.curves(source, source, sagittaOfCubic(from, segment, rules.within));
      for (let i = 2; i < points.length; i += 2) segments.push({ kind: 'line', to: [points[i]!, points[i + 1]!] });
    }
    from = segment.to;
  }
  return { ...outline, segments };
}

/** How far an arc stands off the chords that `flatten` makes of it, mm. */
function sagittaOfArc(from: Point, arc: Arc, within: number): number {
  const [radius, sweep] = [distance(from, arc.centre), sweepOf(from, arc)];
  return radius * (1 - Math.cos(sweep / chordsOfArc(radius, sweep, within) / 2));
}

/** Points of a cubic between two that are measured against its chord. */
const BETWEEN = 8;

/**
 * How far a cubic stands off the chords that `flatten` makes of it, mm, measured between their ends. Every curve that becomes
 * chords is measured so: nothing here makes objects.
 */
function sagittaOfCubic([ax, ay]: Point, cubic: Cubic, within: number): number {
  const count = chordsOfCubic([ax, ay], cubic, within);
  const [bx, by, cx, cy, dx, dy] = [cubic.c1[0], cubic.c1[1], cubic.c2[0], cubic.c2[1], cubic.to[0], cubic.to[1]];
  const along = (from: number, one: number, two: number, to: number, t: number): number => {
    const s = 1 - t;
    return s * s * s * from + 3 * s * s * t * one + 3 * s * t * t * two + t * t * t * to;
  };
  let worst = 0;
  let [px, py] = [ax, ay];
  for (let i = 1; i <= count; i++) {
    const qx = along(ax, bx, cx, dx, i / count);
    const qy = along(ay, by, cy, dy, i / count);
    for (let k = 1; k < BETWEEN; k++) {
      const t = (i - 1 + k / BETWEEN) / count;
      worst = Math.max(worst, distanceToSegment(along(ax, bx, cx, dx, t), along(ay, by, cy, dy, t), px, py, qx, qy));
    }
    px = qx;
    py = qy;
  }
  return worst;
}

/**
 * Coordinates on the target's grid, and how far they moved. What stays an arc keeps its sweep: its centre is found again from
 * the rounded ends, so that a circle stays one.
 */
function rounded(outline: Outline, step: number, notes: CurveNotes, source: string): Outline {
  let worst = 0;
  const snap = (p: Point): Point => {
    const q: Point = [Math.round(p[0] / step) * step, Math.round(p[1] / step) * step];
    worst = Math.max(worst, Math.hypot(p[0] - q[0], p[1] - q[1]));
    return q;
  };
  const start = snap(outline.start);
  const segments: Segment[] = [];
  let [before, at] = [outline.start, start];
  for (const segment of outline.segments) {
    const to = snap(segment.to);
    if (segment.kind === 'cubic') segments.push({ ...segment, c1: snap(segment.c1), c2: snap(segment.c2), to });
    else if (segment.kind === 'arc') segments.push(arcBetween(at, to, before, segment));
    else if (!near(at, to, 1e-9)) segments.push({ kind: 'line', to });
    [before, at] = [segment.to, to];
  }
  // The closing line is left to `closed`.
  if (outline.closed && segments.at(-1)?.kind === 'line' && near(at, start, 1e-9)) segments.pop();
  if (worst > 1e-9) notes.grid(source, source, worst);
  return { start, segments, closed: outline.closed };
}

/** The arc of the same sweep between two other ends; where it is a full turn, moved along with its ends. */
function arcBetween(from: Point, to: Point, before: Point, arc: Arc): Segment {
  const chord = distance(from, to);
  const sweep = sweepOf(before, arc);
  if (chord < 1e-9) {
    // Ends that fell together are a full turn, or nothing worth a piece.
    if (Math.abs(sweep) < Math.PI) return { kind: 'line', to };
    return { ...arc, to, centre: [arc.centre[0] + from[0] - before[0], arc.centre[1] + from[1] - before[1]] };
  }
  // From the middle of the chord to the centre: chord / 2 / tan(sweep / 2), to the left of the way for an anticlockwise arc.
  const height = chord / 2 / Math.tan(sweep / 2);
  const [ux, uy] = [(to[0] - from[0]) / chord, (to[1] - from[1]) / chord];
  const centre: Point = [(from[0] + to[0]) / 2 - uy * height, (from[1] + to[1]) / 2 + ux * height];
  return { ...arc, to, centre };
}
