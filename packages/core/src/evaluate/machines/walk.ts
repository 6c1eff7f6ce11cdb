import { sweepOf } from '../../base/geometry/arcs';
import { partSegment, reversed } from '../../base/geometry/nodes';
import { type Outline, type Segment, withClosingLine } from '../../base/geometry/outline';
import { type Point, distance } from '../../base/geometry/point';

/** A way that is walked by length: lines and arcs, with what each adds to it. */
export interface Way {
  readonly points: readonly Point[];
  readonly segments: readonly Segment[];
  /** Length up to each of `points`, mm. */
  readonly upTo: readonly number[];
  readonly length: number;
  readonly closed: boolean;
}

export function wayOf(outline: Outline): Way {
  const whole = outline.closed ? withClosingLine(outline) : outline;
  const points: Point[] = [whole.start];
  const segments: Segment[] = [];
  const upTo = [0];
  for (const segment of whole.segments) {
    const from = points.at(-1)!;
    const length = lengthOfSegment(from, segment);
    if (length < 1e-9) continue;
    segments.push(segment);
    points.push(segment.to);
    upTo.push(upTo.at(-1)! + length);
  }
  return { points, segments, upTo, length: upTo.at(-1)!, closed: outline.closed };
}

/** How long a line or an arc is, mm. */
export const lengthOfSegment = (from: Point, segment: Segment): number =>
  segment.kind === 'arc' ? Math.abs(sweepOf(from, segment)) * distance(from, segment.centre) : distance(from, segment.to);

/** The same way the other way round. */
export const backwards = (outline: Outline): Outline => reversed(outline.closed ? withClosingLine(outline) : outline);

/** A closed outline that begins with another of its points. */
export function beginningAt(outline: Outline, node: number): Outline {
  const { start, segments, closed } = withClosingLine(outline);
  if (!node) return outline;
  return {
    start: node ? segments[node - 1]!.to : start,
    segments: [...segments.slice(node), ...segments.slice(0, node)],
    closed,
  };
}

/** A piece of a way, and how far along it ends. */
interface Step {
  readonly from: Point;
  readonly segment: Segment;
  readonly to: number;
}

/**
 * The way from one length to another, piece by piece. On a closed way lengths go on round and round.
 * @param cuts lengths at which a piece ends, whatever comes there
 */
export function* walk(way: Way, from: number, to: number, cuts: readonly number[] = []): Generator<Step> {
  const { points, segments, upTo, length } = way;
  if (!(length > 0)) return;
  let at = from;
  const stops = [...cuts.filter((cut) => cut > from + 1e-9 && cut < to - 1e-9), to].sort((a, b) => a - b);
  for (const stop of stops) {
    while (at < stop - 1e-9) {
      const round = Math.floor((at + 1e-9) / length) * length;
      const inside = Math.max(0, at - round);
      let i = firstAfter(upTo, inside + 1e-9) - 1;
      i = Math.min(i, segments.length - 1);
      const end = Math.min(stop, round + upTo[i + 1]!);
      const [first, last] = [
        (inside - upTo[i]!) / (upTo[i + 1]! - upTo[i]!),
        (end - round - upTo[i]!) / (upTo[i + 1]! - upTo[i]!),
      ];
      const { start, segment } = between(points[i]!, segments[i]!, first, last);
      yield { from: start, segment, to: end };
      at = end;
    }
    at = stop;
  }
}

/** The part of a segment between two shares of it. */
function between(from: Point, segment: Segment, first: number, last: number): { start: Point; segment: Segment } {
  const ahead = last >= 1 - 1e-9 ? segment : partSegment(from, segment, last)[0];
  if (first <= 1e-9) return { start: from, segment: ahead };
  const [before, rest] = partSegment(from, ahead, last >= 1 - 1e-9 ? first : first / last);
  return { start: before.to, segment: rest };
}

/** The number of the first value above a limit. */
function firstAfter(values: readonly number[], limit: number): number {
  let [low, high] = [0, values.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (values[middle]! <= limit) low = middle + 1;
    else high = middle;
  }
  return low;
}
