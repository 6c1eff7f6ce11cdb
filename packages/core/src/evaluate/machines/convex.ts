import { sweepOf } from '../../base/geometry/arcs';
import { type Outline, type Segment, withClosingLine } from '../../base/geometry/outline';
import { type Point, distance } from '../../base/geometry/point';

/** Shorter is nothing, mm; ends that lie so near are one, mm. */
const [NOTHING, ONE] = [1e-7, 0.003];
/** So far a joint may turn the other way, radians: arcs that are found in a curve are no smoother. */
const KINK = 0.02;
/** A corner is one that no round tool reaches where it leaves more of the tool’s square of radius than this. */
const LEFT = 0.015;

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
    const corner = cornerOf(a, b);
    for (const turn of [a.turns, corner]) {
      sum += turn;
      if (turn === 0 || (turn === corner && Math.abs(turn) <= KINK)) continue;
      way ||= Math.sign(turn);
      if (Math.sign(turn) !== way) return null;
    }
  }
  way ||= Math.sign(sum);
  return Math.abs(Math.abs(sum) - 2 * Math.PI) < 1e-4 ? { pieces, way: way as 1 | -1 } : null;
}

/** Whether an outline is convex, so that it surely does not cross itself. */
export const isConvex = (outline: Outline): boolean => piecesOf(outline) !== null;

const cornerOf = (a: Piece, b: Piece): number => Math.atan2(cross(a.in, b.out), dot(a.in, b.out));

/** Where a piece lies once it is moved: on a line, or on a circle. */
interface Support {
  readonly point: Point;
  readonly heading: Point;
  readonly circle: { readonly centre: Point; readonly radius: number } | null;
}

/** Where two moved pieces meet, nearest to a place; null where they don't. */
function meeting(a: Support, b: Support, near: Point): Point | null {
  if (!a.circle && !b.circle) {
    const turn = cross(a.heading, b.heading);
    if (Math.abs(turn) < 1e-9) return null;
    const along = cross([b.point[0] - a.point[0], b.point[1] - a.point[1]], b.heading) / turn;
    return [a.point[0] + along * a.heading[0], a.point[1] + along * a.heading[1]];
  }
  // A line and a circle, or the line through where two circles meet and one of them.
  const [round, other] = a.circle ? [a.circle, b] : [b.circle!, a];
  let [foot, heading]: [Point, Point] = [other.point, other.heading];
  if (other.circle) {
    const [dx, dy] = [other.circle.centre[0] - round.centre[0], other.circle.centre[1] - round.centre[1]];
    const far = Math.hypot(dx, dy);
    if (far < NOTHING) return null;
    const along = (far * far + round.radius ** 2 - other.circle.radius ** 2) / (2 * far);
    foot = [round.centre[0] + (along * dx) / far, round.centre[1] + (along * dy) / far];
    heading = [-dy / far, dx / far];
  }
  const from: Point = [foot[0] - round.centre[0], foot[1] - round.centre[1]];
  const half = dot(from, heading);
  const root = half * half - dot(from, from) + round.radius ** 2;
  if (root < 0) return null;
  const [p, q] = [-half - Math.sqrt(root), -half + Math.sqrt(root)].map((t): Point => [
    foot[0] + t * heading[0],
    foot[1] + t * heading[1],
  ]) as [Point, Point];
  return distance(p, near) < distance(q, near) ? p : q;
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
  const support = (i: number): Support => {
    const { from, segment, out } = pieces[i]!;
    const circle = segment.kind === 'arc' ? { centre: segment.centre, radius: distance(from, segment.centre) + by } : null;
    return { point: ends[i]!.from, heading: out, circle };
  };
  for (let i = 0; i < pieces.length; i++) {
    const next = (i + 1) % pieces.length;
    const [a, b] = [pieces[i]!, pieces[next]!];
    const turn = cornerOf(a, b) * way;
    corners.push(null);
    const [p, q] = [ends[i]!.to, ends[next]!.from];
    const middle: Point = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
    if (distance(p, q) <= ONE) ends[i]!.to = ends[next]!.from = middle;
    else if (turn * by > 0) corners[i] = { kind: 'arc', to: q, centre: a.segment.to, clockwise: way * by < 0 };
    else {
      if (turn > 0 && Math.tan(turn / 2) - turn / 2 > LEFT) sharp = true;
      const met = meeting(support(i), support(next), middle);
      // Farther than a mitre of lines would be: the pieces have nothing to do with each other any more.
      if (!met || distance(met, a.segment.to) > 1.5 * Math.abs(by / Math.cos(turn / 2))) return null;
      ends[i]!.to = ends[next]!.from = met;
    }
  }
  const segments: Segment[] = [];
  for (let i = 0; i < pieces.length; i++) {
    const { segment, out, from } = pieces[i]!;
    const end = ends[i]!;
    if (segment.kind === 'arc') {
      // An arc must still run the way it ran, and not nearly all around instead of hardly at all.
      if (distance(from, segment.centre) + by <= NOTHING) return null;
      const turns = Math.abs(sweepOf(end.from, { ...segment, to: end.to }));
      if (Math.abs(turns - Math.abs(pieces[i]!.turns)) > Math.PI / 2) return null;
      segments.push({ ...segment, to: end.to });
    } else {
      if (dot([end.to[0] - end.from[0], end.to[1] - end.from[1]], out) <= NOTHING) return null;
      segments.push({ kind: 'line', to: end.to });
    }
    if (corners[i]) segments.push(corners[i]!);
  }
  return { outline: { start: ends[0]!.from, segments, closed: true }, sharp };
}
