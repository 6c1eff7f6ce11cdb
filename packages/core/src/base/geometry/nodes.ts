import { pointOnArc, sweepOf } from './arcs';
import { chordsOfCubic, pointOnCubic } from './flatten';
import { type Cubic, type Outline, type Segment, endOf } from './outline';
import { type Point, distance, near } from './point';

/** A place of an outline that can be taken hold of: one of its points, or a handle of a curve. */
export interface Grip {
  readonly outline: number;
  /** The point after so many pieces; 0 is the start. */
  readonly node: number;
  /** The point itself, or the handle of the piece that leads to it (1, at its start; 2, at its end). */
  readonly part: 'point' | 'handle 1' | 'handle 2';
  readonly at: Point;
}

/** Everything of outlines that can be taken hold of. A closed outline that ends where it starts has one point there. */
export function gripsOf(outlines: readonly Outline[]): Grip[] {
  return outlines.flatMap((outline, o) => {
    const joined = isJoined(outline);
    const grips: Grip[] = joined ? [] : [{ outline: o, node: 0, part: 'point', at: outline.start }];
    outline.segments.forEach((segment, i) => {
      if (segment.kind === 'cubic') {
        grips.push({ outline: o, node: i + 1, part: 'handle 1', at: segment.c1 });
        grips.push({ outline: o, node: i + 1, part: 'handle 2', at: segment.c2 });
      }
      grips.push({ outline: o, node: i + 1, part: 'point', at: segment.to });
    });
    return grips;
  });
}

const isJoined = (outline: Outline): boolean =>
  outline.closed && outline.segments.length > 0 && near(endOf(outline), outline.start, 1e-9);
const startOf = (outline: Outline, i: number): Point => (i ? outline.segments[i - 1]!.to : outline.start);
const plus = ([x, y]: Point, [dx, dy]: Point): Point => [x + dx, y + dy];
const replaced = (outlines: readonly Outline[], at: number, outline: Outline): Outline[] =>
  outlines.map((one, i) => (i === at ? outline : one));

/** An arc between moved ends that bulges as it did before. */
function bulged(from: Point, to: Point, oldFrom: Point, arc: Segment & { kind: 'arc' }): Segment {
  const sweep = sweepOf(oldFrom, arc);
  const chord = distance(from, to);
  if (chord < 1e-9 || Math.abs(Math.abs(sweep) - 2 * Math.PI) < 1e-9) return { kind: 'line', to };
  const radius = chord / 2 / Math.sin(Math.abs(sweep) / 2);
  const height = radius * Math.cos(Math.abs(sweep) / 2) * Math.sign(sweep);
  const [dx, dy] = [(to[0] - from[0]) / chord, (to[1] - from[1]) / chord];
  return {
    kind: 'arc',
    to,
    centre: [(from[0] + to[0]) / 2 - dy * height, (from[1] + to[1]) / 2 + dx * height],
    clockwise: arc.clockwise,
  };
}

/** Moves a point, and the handles at it; or one handle. */
export function moveGrip(outlines: readonly Outline[], { outline: o, node, part }: Grip, by: Point): Outline[] {
  const outline = outlines[o]!;
  const segments = [...outline.segments];
  if (part !== 'point') {
    const cubic = segments[node - 1] as Cubic;
    segments[node - 1] = part === 'handle 1' ? { ...cubic, c1: plus(cubic.c1, by) } : { ...cubic, c2: plus(cubic.c2, by) };
    return replaced(outlines, o, { ...outline, segments });
  }
  const last = segments.length;
  const nodes = new Set([node, ...(isJoined(outline) && node === last ? [0] : [])]);
  const moved = (i: number): Point => (nodes.has(i) ? plus(startOf(outline, i), by) : startOf(outline, i));
  outline.segments.forEach((segment, i) => {
    const [first, end] = [nodes.has(i), nodes.has(i + 1)];
    if (!first && !end) return;
    const to = moved(i + 1);
    if (segment.kind === 'line') segments[i] = { ...segment, to };
    else if (segment.kind === 'cubic')
      segments[i] = {
        kind: 'cubic',
        to,
        c1: first ? plus(segment.c1, by) : segment.c1,
        c2: end ? plus(segment.c2, by) : segment.c2,
      };
    else if (first && end) segments[i] = { ...segment, to, centre: plus(segment.centre, by) };
    else segments[i] = bulged(moved(i), to, startOf(outline, i), segment);
  });
  return replaced(outlines, o, { ...outline, start: moved(0), segments });
}

/** Takes a point out: its neighbours are joined by one piece. An outline of too few points goes altogether. */
export function removeNode(outlines: readonly Outline[], { outline: o, node }: Grip): Outline[] {
  const outline = outlines[o]!;
  const { segments } = outline;
  if (segments.length <= (outline.closed ? 2 : 1)) return outlines.filter((_, i) => i !== o);
  const joined = isJoined(outline);
  if (node === 0 || (joined && node === segments.length)) {
    // The start goes: the first piece with it, and what closed there closes at the next point.
    const start = segments[0]!.to;
    const rest = segments.slice(1);
    if (joined) rest[rest.length - 1] = { kind: 'line', to: start };
    return replaced(outlines, o, { ...outline, start, segments: rest });
  }
  if (node === segments.length) return replaced(outlines, o, { ...outline, segments: segments.slice(0, -1) });
  const [before, after] = [segments[node - 1]!, segments[node]!];
  const one: Segment =
    before.kind === 'cubic' || after.kind === 'cubic'
      ? {
          kind: 'cubic',
          c1: before.kind === 'cubic' ? before.c1 : startOf(outline, node - 1),
          c2: after.kind === 'cubic' ? after.c2 : after.to,
          to: after.to,
        }
      : { kind: 'line', to: after.to };
  return replaced(outlines, o, { ...outline, segments: [...segments.slice(0, node - 1), one, ...segments.slice(node + 1)] });
}

/** The place of an outline that is nearest to a point: which piece, and how far along it. */
export function nearestPlace(
  outlines: readonly Outline[],
  point: Point,
): { outline: number; segment: number; t: number; distance: number } | null {
  let best: ReturnType<typeof nearestPlace> = null;
  const offer = (outline: number, segment: number, from: Point, at: (t: number) => Point, count: number) => {
    let before = from;
    for (let k = 1; k <= count; k++) {
      const next = at(k / count);
      const [dx, dy] = [next[0] - before[0], next[1] - before[1]];
      const square = dx * dx + dy * dy;
      const s = square ? Math.min(1, Math.max(0, ((point[0] - before[0]) * dx + (point[1] - before[1]) * dy) / square)) : 0;
      const off = Math.hypot(point[0] - before[0] - s * dx, point[1] - before[1] - s * dy);
      if (!best || off < best.distance) best = { outline, segment, t: (k - 1 + s) / count, distance: off };
      before = next;
    }
  };
  outlines.forEach((outline, o) => {
    outline.segments.forEach((segment, i) => {
      const from = startOf(outline, i);
      if (segment.kind === 'line')
        offer(o, i, from, (t) => [from[0] + t * (segment.to[0] - from[0]), from[1] + t * (segment.to[1] - from[1])], 1);
      else if (segment.kind === 'arc') offer(o, i, from, (t) => pointOnArc(from, segment, t), 96);
      else offer(o, i, from, (t) => pointOnCubic(from, segment, t), Math.max(24, chordsOfCubic(from, segment, 0.01)));
    });
    if (outline.closed && !isJoined(outline)) {
      const [from, to] = [endOf(outline), outline.start];
      offer(o, outline.segments.length, from, (t) => [from[0] + t * (to[0] - from[0]), from[1] + t * (to[1] - from[1])], 1);
    }
  });
  return best;
}

/** A piece parted at a share of it; the shape stays as it is. */
export function partSegment(from: Point, segment: Segment, t: number): [Segment, Segment] {
  if (segment.kind === 'line') {
    const to: Point = [from[0] + t * (segment.to[0] - from[0]), from[1] + t * (segment.to[1] - from[1])];
    return [{ kind: 'line', to }, segment];
  }
  if (segment.kind === 'arc') return [{ ...segment, to: pointOnArc(from, segment, t) }, segment];
  const mix = (p: Point, q: Point): Point => [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t];
  const [p, q, r] = [mix(from, segment.c1), mix(segment.c1, segment.c2), mix(segment.c2, segment.to)];
  const [s, u] = [mix(p, q), mix(q, r)];
  const middle = mix(s, u);
  return [
    { kind: 'cubic', c1: p, c2: s, to: middle },
    { kind: 'cubic', c1: u, c2: r, to: segment.to },
  ];
}

/** Adds a point where a place is. */
export function addNode(
  outlines: readonly Outline[],
  { outline: o, segment: i, t }: { outline: number; segment: number; t: number },
): Outline[] {
  const outline = outlines[o]!;
  const segments = [...outline.segments];
  const piece = segments[i] ?? { kind: 'line' as const, to: outline.start };
  const [a, b] = partSegment(startOf(outline, i), piece, t);
  // A closing line that was not written is written out up to the new point.
  if (i === segments.length) segments.push(a);
  else segments.splice(i, 1, a, b);
  return replaced(outlines, o, { ...outline, segments });
}

/** Breaks an outline at one of its points: a closed one is open there, an open one is two. */
export function breakAt(outlines: readonly Outline[], { outline: o, node }: Grip): Outline[] {
  const outline = outlines[o]!;
  const segments =
    outline.closed && !isJoined(outline) ? [...outline.segments, { kind: 'line' as const, to: outline.start }] : outline.segments;
  if (outline.closed) {
    const at = node % segments.length;
    const start = at ? segments[at - 1]!.to : outline.start;
    return replaced(outlines, o, { start, segments: [...segments.slice(at), ...segments.slice(0, at)], closed: false });
  }
  if (node === 0 || node >= segments.length) return [...outlines];
  return outlines.flatMap((one, i) =>
    i === o
      ? [
          { start: one.start, segments: segments.slice(0, node), closed: false },
          { start: segments[node - 1]!.to, segments: segments.slice(node), closed: false },
        ]
      : [one],
  );
}

/** An outline run through the other way. */
export function reversed(outline: Outline): Outline {
  const segments: Segment[] = [];
  for (let i = outline.segments.length - 1; i >= 0; i--) {
    const segment = outline.segments[i]!;
    const to = startOf(outline, i);
    segments.push(
      segment.kind === 'line'
        ? { kind: 'line', to }
        : segment.kind === 'arc'
          ? { kind: 'arc', to, centre: segment.centre, clockwise: !segment.clockwise }
          : { kind: 'cubic', to, c1: segment.c2, c2: segment.c1 },
    );
  }
  return { start: endOf(outline), segments, closed: outline.closed };
}

/**
 * Joins open outlines at their ends, the nearest ends first: where two ends lie apart a straight piece bridges them. What is left
 * with its own ends together is closed.
 * @param within ends nearer than this, mm, are taken as one point
 */
export function joinOutlines(outlines: readonly Outline[], within = 0.01): Outline[] {
  const closed = outlines.filter((one) => one.closed);
  const open = outlines.filter((one) => !one.closed && one.segments.length);
  if (!open.length) return [...outlines];
  if (open.length === 1) return [...closed, { ...open[0]!, closed: true }];
  let [chain, ...rest] = open as [Outline, ...Outline[]];
  while (rest.length) {
    const choices = rest.flatMap((one, i) => [
      { i, flip: false, front: false, gap: distance(endOf(chain), one.start) },
      { i, flip: true, front: false, gap: distance(endOf(chain), endOf(one)) },
      { i, flip: true, front: true, gap: distance(chain.start, one.start) },
      { i, flip: false, front: true, gap: distance(chain.start, endOf(one)) },
    ]);
    const best = choices.reduce((a, b) => (b.gap < a.gap ? b : a));
    const other = best.flip ? reversed(rest[best.i]!) : rest[best.i]!;
    const [first, second] = best.front ? [other, chain] : [chain, other];
    const bridge: Segment[] = best.gap > within ? [{ kind: 'line', to: second.start }] : [];
    chain = { start: first.start, segments: [...first.segments, ...bridge, ...second.segments], closed: false };
    rest = rest.filter((_, i) => i !== best.i);
  }
  return [...closed, near(chain.start, endOf(chain), within) ? { ...chain, closed: true } : chain];
}
