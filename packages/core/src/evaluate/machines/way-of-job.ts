import { asCircle, circleOutline } from '../../base/geometry/arcs';
import { type Outline, type Segment, withClosingLine } from '../../base/geometry/outline';
import { type Point, distance } from '../../base/geometry/point';
import { isOpenable, restOf } from './rest';
import { besideConvex } from './convex';
import { hatched } from './hatch';
import { type Job, isContour } from './jobs';
import { areaOfRing, grown, outlineOfRing, type Ring } from './offset';
import type { PlanSettings } from './settings';
import { backwards } from './walk';

/** How much of the ground one round of a pocket takes beside the last, as a share of the tool. */
const STEP_OVER = 0.45;
/** Lines are never closer than this, mm: a tool without a width would fill no area. */
const FINEST = 0.05;

const turned = (ring: Ring, anticlockwise: boolean): Ring =>
  areaOfRing(ring) > 0 === anticlockwise ? ring : [...ring].reverse();

/**
 * The ways of the middle of a tool for a job, those that lie next to each other in their order.
 * @param spare what is left standing, mm
 */
export function waysOfJob(job: Job, settings: PlanSettings, spare = 0): Outline[] {
  const { side, rings, outlines, tool } = job;
  const radius = (tool?.diameter ?? 0) / 2;
  if (job.fill) return filledWays(job, radius, settings);
  if (job.process === 'pocket' && side === 'inside' && settings.clearing === 'lines')
    return clearedByLines(job, radius, settings);
  if (job.process === 'pocket' && side === 'inside') return pocketWays(job, radius, settings);
  const isPlain = side === 'on the line' || radius <= 0 || !rings.length;
  if (isPlain) return isContour(job.process) && rings.length ? [round(outlines[0]!, job, settings)] : [outlines[0]!];
  const by = (side === 'outside' ? 1 : -1) * (radius + spare);
  const circle = asCircle(outlines[0]!);
  if (circle) return circle.radius + by > 0 ? [round(circleOutline(circle.centre, circle.radius + by), job, settings)] : [];
  const exact = besideConvex(outlines[0]!, by);
  const ways = exact ? [exact.outline] : clipped(job, by);
  const opened = settings.corners === 'opened' && !spare ? ways.map((way) => openedCorners(way, job, radius)) : ways;
  return opened.map((way) => round(way, job, settings));
}

/** The ways beside an outline of any form. */
const clipped = ({ rings, side }: Job, by: number): Outline[] =>
  grown([turned(rings[0]!, true)], by)
    // Around a part there is one way; a hole in it would be inside of the part itself.
    .filter((ring) => side === 'inside' || areaOfRing(ring) > 0)
    .map(outlineOfRing);

/** A closed outline in the direction that the tool is to take: with the turning edge along the feed, or against it. */
function round(outline: Outline, { side }: Job, { direction }: PlanSettings): Outline {
  // A spindle turns clockwise: cutting along the feed has the part on its right hand side.
  const anticlockwise = (side === 'inside') === (direction === 'climb');
  const ring = outline.segments.reduce((sum, { to }, i) => {
    const from = i ? outline.segments[i - 1]!.to : outline.start;
    return sum + from[0] * to[1] - to[0] * from[1];
  }, 0);
  const signed = ring || turnOfArcs(outline);
  return signed > 0 === anticlockwise ? outline : backwards(outline);
}

/** Which way an outline of arcs alone runs, whose ends make no area. */
const turnOfArcs = ({ segments }: Outline): number => {
  const arc = segments.find((one): one is Extract<Segment, { kind: 'arc' }> => one.kind === 'arc');
  return arc ? (arc.clockwise ? -1 : 1) : 1;
};

function pocketWays(job: Job, radius: number, settings: PlanSettings): Outline[] {
  const ways: Ring[][] = [];
  for (let in_ = radius; ; in_ += 2 * radius * STEP_OVER) {
    const rings = grown(job.rings, -in_);
    if (!rings.length || radius <= 0) break;
    ways.unshift(rings);
  }
  return ways.flatMap((rings) => rings.map((ring) => round(outlineOfRing(ring), job, settings)));
}

/** Lines that fill an area as far as its tool reaches, and where they are asked for the outlines around them. */
function filledWays(
  { rings, outlines, tool }: Job,
  radius: number,
  { engraving, hatchStep, hatchAngle }: PlanSettings,
): Outline[] {
  const area = radius > 0 ? grown(rings, -radius) : rings;
  const step = hatchStep || tool?.diameter || FINEST;
  return [...hatched(area, Math.max(step, FINEST), hatchAngle), ...(engraving === 'filled' ? [] : outlines)];
}

/** Lines over the ground of a pocket, and a last round along its sides that takes what they leave there. */
function clearedByLines(job: Job, radius: number, settings: PlanSettings): Outline[] {
  const area = radius > 0 ? grown(job.rings, -radius) : [];
  if (!area.length) return [];
  const lines = hatched(area, 2 * radius * STEP_OVER, settings.hatchAngle);
  return [...lines, ...area.map((ring) => round(outlineOfRing(ring), job, settings))];
}

/** Goes into corners that the tool leaves round, until its edge touches the corner. */
function openedCorners(way: Outline, job: Job, radius: number): Outline {
  let all = withClosingLine(way);
  for (const ring of restOf(job).filter((one) => isOpenable(one, radius))) {
    const middle: Point = [mean(ring.map(([x]) => x)), mean(ring.map(([, y]) => y))];
    const nodes = all.segments.map(({ to }) => to);
    const at = nodes.reduce((best, node, i) => (distance(node, middle) < distance(nodes[best]!, middle) ? i : best), 0);
    const node = nodes[at]!;
    const corner = ring.reduce((best, point) => (distance(point, node) > distance(best, node) ? point : best), ring[0]!);
    const deep = distance(corner, node) - radius;
    if (deep <= 0.01 || deep > radius) continue;
    const share = deep / distance(corner, node);
    const end: Point = [node[0] + (corner[0] - node[0]) * share, node[1] + (corner[1] - node[1]) * share];
    const spur: Segment[] = [
      { kind: 'line', to: end },
      { kind: 'line', to: node },
    ];
    all = { ...all, segments: [...all.segments.slice(0, at + 1), ...spur, ...all.segments.slice(at + 1)] };
  }
  return all;
}

const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;
