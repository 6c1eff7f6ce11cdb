import Flatbush from 'flatbush';
import type { MachineProcess, MachineTool } from '../../base/machines';
import { lengthOfSegment } from './walk';
import { type Outline, type Segment, withClosingLine } from '../../base/geometry/outline';
import { type Point, distance } from '../../base/geometry/point';

/** Lines so near to each other are one, and shorter stretches than this are nothing, mm. */
const [NEAR, SHORT] = [0.02, 0.2];

/** A job, as far as it matters here. */
interface Lined {
  readonly process: MachineProcess;
  readonly side: string;
  readonly tool: MachineTool | undefined;
  readonly outlines: readonly Outline[];
}

/** A stretch of a piece of an outline, as shares of it. */
type Stretch = readonly [from: number, to: number];

/** A piece of the outline of a job. */
interface Piece {
  readonly job: number;
  readonly number: number;
  readonly from: Point;
  readonly segment: Segment;
}

/** What of a job lies on lines that are worked before it: of each piece of its outline the stretches, in their order. */
interface Overlap {
  readonly stretches: ReadonlyMap<number, readonly Stretch[]>;
  /** mm */
  readonly length: number;
}

/** Whether a job works the very line of its outline: another tool cuts beside it, and what only shares an edge has its own. */
const isOnItsLine = ({ process, side, tool, outlines }: Lined): boolean =>
  process !== 'pocket' &&
  process !== 'drill' &&
  process !== 'stitch' &&
  outlines.length === 1 &&
  (side === 'on the line' || !(tool?.diameter ?? 0));

/** How far along a line a point lies as a share of it, and how far beside it, mm. */
function onLine([px, py]: Point, [ax, ay]: Point, [bx, by]: Point): readonly [along: number, beside: number] {
  const [dx, dy] = [bx - ax, by - ay];
  const square = dx * dx + dy * dy;
  const along = ((px - ax) * dx + (py - ay) * dy) / square;
  return [along, Math.abs((px - ax) * dy - (py - ay) * dx) / Math.sqrt(square)];
}

/** Which stretch of a piece lies on another one; null for none. */
function sharedBy(piece: Piece, other: Piece): Stretch | null {
  const [a, b] = [piece.segment, other.segment];
  if (a.kind === 'line' && b.kind === 'line') {
    const ends = [other.from, b.to].map((point) => onLine(point, piece.from, a.to));
    const size = distance(piece.from, a.to);
    if (ends.some(([, beside]) => beside > NEAR)) return null;
    const [low, high] = [Math.min(ends[0]![0], ends[1]![0]), Math.max(ends[0]![0], ends[1]![0])];
    const [from, to] = [Math.max(0, low), Math.min(1, high)];
    return (to - from) * size > SHORT ? [from, to] : null;
  }
  if (a.kind !== 'arc' || b.kind !== 'arc') return null;
  // Arcs only as a whole: the same circle between the same ends.
  const sameWay = a.clockwise === b.clockwise;
  const [start, end] = sameWay ? [other.from, b.to] : [b.to, other.from];
  const isSame = distance(a.centre, b.centre) <= NEAR && distance(piece.from, start) <= NEAR && distance(a.to, end) <= NEAR;
  return isSame ? [0, 1] : null;
}

/** Stretches joined where they meet. */
function joined(all: readonly Stretch[]): Stretch[] {
  const made: [number, number][] = [];
  for (const [from, to] of [...all].sort(([a], [b]) => a - b)) {
    const last = made.at(-1);
    if (last && from <= last[1] + 1e-9) last[1] = Math.max(last[1], to);
    else made.push([from, to]);
  }
  return made;
}

const boxOf = ({ from, segment }: Piece): readonly [number, number, number, number] => {
  if (segment.kind !== 'arc') {
    const [[ax, ay], [bx, by]] = [from, segment.to];
    return [Math.min(ax, bx) - NEAR, Math.min(ay, by) - NEAR, Math.max(ax, bx) + NEAR, Math.max(ay, by) + NEAR];
  }
  const radius = distance(from, segment.centre) + NEAR;
  const [x, y] = segment.centre;
  return [x - radius, y - radius, x + radius, y + radius];
};

/** Of each job that lies in part on lines of jobs before it, by the same process and tool, how much; by its number. */
export function overlapsOf(jobs: readonly Lined[]): Map<number, Overlap> {
  const pieces = jobs.flatMap((job, i): Piece[] => {
    if (!isOnItsLine(job)) return [];
    const { start, segments } = withClosingLine(job.outlines[0]!);
    return segments.map((segment, number) => ({ job: i, number, from: number ? segments[number - 1]!.to : start, segment }));
  });
  const found = new Map<number, Overlap>();
  if (!pieces.length) return found;
  const index = new Flatbush(pieces.length);
  for (const piece of pieces) index.add(...boxOf(piece));
  index.finish();
  for (const piece of pieces) {
    const job = jobs[piece.job]!;
    const shared = index.search(...boxOf(piece)).flatMap((k) => {
      const other = pieces[k]!;
      const before = other.job < piece.job || (other.job === piece.job && other.number < piece.number);
      const alike = before && jobs[other.job]!.process === job.process && jobs[other.job]!.tool === job.tool;
      const stretch = alike ? sharedBy(piece, other) : null;
      return stretch ? [stretch] : [];
    });
    if (!shared.length) continue;
    const stretches = joined(shared);
    const before = found.get(piece.job) ?? { stretches: new Map<number, readonly Stretch[]>(), length: 0 };
    const length = stretches.reduce((sum, [from, to]) => sum + to - from, 0) * lengthOfSegment(piece.from, piece.segment);
    found.set(piece.job, {
      stretches: new Map([...before.stretches, [piece.number, stretches]]),
      length: before.length + length,
    });
  }
  return found;
}

/** An outline without what lies on others: open ways, none where nothing of it is left. */
export function withoutOverlap(outline: Outline, { stretches }: Overlap): Outline[] {
  const whole = withClosingLine(outline);
  const ways: { start: Point; segments: Segment[]; closed: false }[] = [];
  let isOn = false;
  const add = (from: Point, segment: Segment): void => {
    if (isOn) ways.at(-1)!.segments.push(segment);
    else ways.push({ start: from, segments: [segment], closed: false });
    isOn = true;
  };
  whole.segments.forEach((segment, number) => {
    const from = number ? whole.segments[number - 1]!.to : whole.start;
    const place = (share: number): Point => [
      from[0] + share * (segment.to[0] - from[0]),
      from[1] + share * (segment.to[1] - from[1]),
    ];
    let at = 0;
    for (const [low, high] of [...(stretches.get(number) ?? []), [1, 1] as Stretch]) {
      // Arcs are there or not, as a whole.
      if ((low - at) * lengthOfSegment(from, segment) > SHORT / 10)
        add(place(at), low >= 1 && at <= 0 ? segment : { kind: 'line', to: place(low) });
      if (high > low) isOn = false;
      at = high;
    }
  });
  // A closed outline may begin in the middle of what is left.
  const [first, last] = [ways[0], ways.at(-1)];
  if (first && last && first !== last && outline.closed && isOn && distance(first.start, last.segments.at(-1)!.to) < 1e-9) {
    ways[0] = { start: last.start, segments: [...last.segments, ...first.segments], closed: false };
    ways.pop();
  }
  return ways;
}
