import { sweepOf } from '../../base/geometry/arcs';
import { type Outline, type Segment, withClosingLine } from '../../base/geometry/outline';
import { type Point, distance } from '../../base/geometry/point';

/** Shorter is nothing, mm; turns below this go straight on, radians: what is found in curves is as smooth as that. */
const [NOTHING, STRAIGHT] = [1e-7, 1e-3];

/** A convex outline grown or shrunk, and whether it has corners that no round tool reaches. */
interface Beside {
  readonly outline: Outline;
  readonly sharp: boolean;
}

/** A piece of a convex outline, with its headings at both ends as unit vectors. */
interface Piece {
  readonly from: Point;
  readonly segment: Segment;
  readonly out: Point;
  readonly in: Point;
  /** How far it turns, radians. */
  readonly turns: number;
}

const cross = ([a, b]: Point, [c, d]: Point): number => a * d - b * c;
const dot = ([a, b]: Point, [c, d]: Point): number => a * c + b * d;

/** The pieces of an outline of lines and arcs that always turns the same way, once around; null for every other. */
function piecesOf(outline: Outline): { pieces: Piece[]; way: 1 | -1 } | null {
  const pieces: Piece[] = [];
  let from = outline.start;
  for (const segment of withClosingLine({ ...outline, closed: true }).segments) {
    const { to } = segment;
    if (segment.kind === 'cubic') return null;
    if (segment.kind === 'line') {
      const size = distance(from, to);
      if (size > NOTHING) {
        const heading: Point = [(to[0] - from[0]) / size, (to[1] - from[1]) / size];
        pieces.push({ from, segment, out: heading, in: heading, turns: 0 });
      }
    } else {
      const radius = distance(from, segment.centre);
      const turn = segment.clockwise ? -1 : 1;
      const heading = ([x, y]: Point): Point => [
        (-turn * (y - segment.centre[1])) / radius,
        (turn * (x - segment.centre[0])) / radius,
      ];
      const turns = sweepOf(from, segment);
      if (Math.abs(turns) * radius > NOTHING) pieces.push({ from, segment, out: heading(from), in: heading(to), turns });
    }
    from = to;
  }
  if (pieces.length < 2) return null;
  let sum = 0;
  let way = 0;
  for (let i = 0; i < pieces.length; i++) {
    const [a, b] = [pieces[i]!, pieces[(i + 1) % pieces.length]!];
    const corner = Math.atan2(cross(a.in, b.out), dot(a.in, b.out));
    for (const turn of [a.turns, corner]) {
      if (Math.abs(turn) < STRAIGHT) continue;
      way ||= Math.sign(turn);
      if (Math.sign(turn) !== way) return null;
      sum += turn;
    }
  }
  return Math.abs(Math.abs(sum) - 2 * Math.PI) < 1e-4 ? { pieces, way: way as 1 | -1 } : null;
}

/**
 * A convex outline of lines and arcs grown all round by so much, or shrunk where it is below 0: each piece stays what it is, to the
 * last digit.
 * @returns null for outlines that are not convex, and where pieces vanish: those are for clipper2
 */
export function besideConvex(outline: Outline, by: number): Beside | null {
  const found = piecesOf(outline);
  if (!found) return null;
  const { pieces, way } = found;
  const shifted = ([x, y]: Point, [hx, hy]: Point): Point => [x + way * by * hy, y - way * by * hx];
  let sharp = false;
  // Where each piece begins and ends, moved; corners are mended below.
  const ends = pieces.map(({ from, segment, out, in: last }) => ({ from: shifted(from, out), to: shifted(segment.to, last) }));
  const corners: (Segment | null)[] = [];
  for (let i = 0; i < pieces.length; i++) {
    const next = (i + 1) % pieces.length;
    const [a, b] = [pieces[i]!, pieces[next]!];
    const turn = Math.atan2(cross(a.in, b.out), dot(a.in, b.out));
    corners.push(null);
    if (Math.abs(turn) < STRAIGHT) {
      const [p, q] = [ends[i]!.to, ends[next]!.from];
      ends[i]!.to = ends[next]!.from = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
    } else if (by > 0) corners[i] = { kind: 'arc', to: ends[next]!.from, centre: a.segment.to, clockwise: way < 0 };
    else {
      if (a.segment.kind !== 'line' || b.segment.kind !== 'line') return null;
      sharp = true;
      const [p, q] = [ends[i]!.to, ends[next]!.from];
      const along = cross([q[0] - p[0], q[1] - p[1]], b.out) / cross(a.in, b.out);
      ends[i]!.to = ends[next]!.from = [p[0] + along * a.in[0], p[1] + along * a.in[1]];
    }
  }
  const segments: Segment[] = [];
  for (let i = 0; i < pieces.length; i++) {
    const { segment, out, from } = pieces[i]!;
    const end = ends[i]!;
    if (segment.kind === 'arc') {
      if (distance(from, segment.centre) + by <= NOTHING) return null;
      segments.push({ ...segment, to: end.to });
    } else {
      if (dot([end.to[0] - end.from[0], end.to[1] - end.from[1]], out) <= NOTHING) return null;
      segments.push({ kind: 'line', to: end.to });
    }
    if (corners[i]) segments.push(corners[i]!);
  }
  return { outline: { start: ends[0]!.from, segments, closed: true }, sharp };
}
