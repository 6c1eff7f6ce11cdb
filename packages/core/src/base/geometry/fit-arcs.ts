import { sweepOf } from './arcs';
import { pointOnCubic } from './flatten';
import type { Arc, Cubic, Segment } from './outline';
import { type Point, distance, distanceToSegment, midpoint } from './point';

/** The circle through three points as an arc from the first to the last, or undefined where they are in line. */
export function arcThrough(from: Point, mid: Point, to: Point): Arc | undefined {
  const [ax, ay] = [mid[0] - from[0], mid[1] - from[1]];
  const [bx, by] = [to[0] - from[0], to[1] - from[1]];
  const cross = 2 * (ax * by - ay * bx);
  const size = Math.hypot(bx, by) + Math.hypot(ax, ay);
  if (Math.abs(cross) < 1e-9 * size * size) return undefined;
  const [a, b] = [ax * ax + ay * ay, bx * bx + by * by];
  const centre: Point = [from[0] + (by * a - ay * b) / cross, from[1] + (ax * b - bx * a) / cross];
  return { kind: 'arc', to, centre, clockwise: cross < 0 };
}

/** The two halves of a cubic (de Casteljau). */
export function splitCubic(from: Point, { c1, c2, to }: Cubic): [Cubic, Cubic] {
  const [a, b, c] = [midpoint(from, c1), midpoint(c1, c2), midpoint(c2, to)];
  const [d, e] = [midpoint(a, b), midpoint(b, c)];
  const middle = midpoint(d, e);
  return [
    { kind: 'cubic', c1: a, c2: d, to: middle },
    { kind: 'cubic', c1: e, c2: c, to },
  ];
}

/** Points at which a candidate is tried, and at which one that did well is measured: a curve may turn back between a few. */
const [FEW, MANY] = [12, 64];
/** How much longer than the chords of the curve an arc may be that stands for it. */
const LONGER = 1.05;

/**
 * How far a curve is from what is to stand for it. Every free curve is measured so, many times: nothing here makes objects.
 * @param enough above it the result is only a lower bound, mm
 */
function deviationFrom(piece: Segment, from: Point, { c1, c2, to }: Cubic, samples: number, enough = Infinity): number {
  const isArc = piece.kind === 'arc';
  const [ax, ay, tx, ty] = [from[0], from[1], piece.to[0], piece.to[1]];
  const [cx, cy] = isArc ? [piece.centre[0], piece.centre[1]] : [0, 0];
  const radius = isArc ? distance(from, piece.centre) : 0;
  const sweep = isArc ? sweepOf(from, piece) : 0;
  // What is beside the arc's ends is farther round from its middle than they are.
  const [cos, sin, least] = [Math.cos(sweep / 2), Math.sin(sweep / 2), Math.cos(Math.min(Math.abs(sweep) / 2 + 1e-9, Math.PI))];
  const mx = (cos * (ax - cx) - sin * (ay - cy)) / radius;
  const my = (sin * (ax - cx) + cos * (ay - cy)) / radius;
  let worst = 0;
  let length = 0;
  let [bx, by] = [ax, ay];
  for (let i = 1; i <= samples; i++) {
    const t = i / samples;
    const s = 1 - t;
    const a = s * s * s;
    const b = 3 * s * s * t;
    const c = 3 * s * t * t;
    const d = t * t * t;
    const x = a * ax + b * c1[0] + c * c2[0] + d * to[0];
    const y = a * ay + b * c1[1] + c * c2[1] + d * to[1];
    length += Math.sqrt((x - bx) * (x - bx) + (y - by) * (y - by));
    bx = x;
    by = y;
    if (i === samples) break;
    if (isArc) {
      const away = Math.sqrt((x - cx) * (x - cx) + (y - cy) * (y - cy));
      worst = Math.max(worst, Math.abs(away - radius));
      // A point beside the arc's ends is not on it, however well it lies on the circle.
      if ((x - cx) * mx + (y - cy) * my < away * least)
        worst = Math.max(worst, Math.sqrt((x - tx) * (x - tx) + (y - ty) * (y - ty)), 1);
    } else worst = Math.max(worst, distanceToSegment(x, y, ax, ay, tx, ty));
    if (worst > enough) return worst;
  }
  // Where a curve turns back, the circle through its points lies near all of them and then goes round the far side.
  const way = Math.abs(sweep) * radius;
  return way > LONGER * length + 1e-9 ? Math.max(worst, way) : worst;
}

/**
 * A cubic as circular arcs (and lines where it is straight), halved until every piece is near enough.
 * @param tolerance largest distance between curve and pieces, mm
 * @returns the pieces and the largest deviation measured, mm
 */
export function arcsOfCubic(from: Point, cubic: Cubic, tolerance: number): { pieces: Segment[]; deviation: number } {
  const pieces: Segment[] = [];
  let deviation = 0;
  const fit = (start: Point, part: Cubic, depth: number): void => {
    const line: Segment = { kind: 'line', to: part.to };
    const candidates = [line, arcThrough(start, pointOnCubic(start, part, 0.5), part.to)];
    for (const candidate of candidates) {
      if (!candidate) continue;
      // Sampling misses a little between samples: keep a fifth in hand.
      const enough = tolerance * 0.8;
      if (depth < 16 && deviationFrom(candidate, start, part, FEW, enough) > enough) continue;
      const off = deviationFrom(candidate, start, part, MANY, depth < 16 ? enough : Infinity);
      if (off <= enough || depth >= 16) {
        pieces.push(candidate);
        deviation = Math.max(deviation, off);
        return;
      }
    }
    const [first, second] = splitCubic(start, part);
    fit(start, first, depth + 1);
    fit(first.to, second, depth + 1);
  };
  fit(from, cubic, 0);
  return { pieces, deviation };
}
