// eslint-disable-next-line @typescript-eslint/triple-slash-reference -- types of a file of a package that has none of its own
/// <reference path="./maxrects-packer.d.ts" />
import { MaxRectsPacker } from 'maxrects-packer/dist/maxrects-packer.mjs';
import { type Box, joinBoxes, widened } from '../../base/geometry/measure';
import { type Matrix, apply, multiply, scaling, translation } from '../../base/geometry/matrix';
import { transformOutline } from '../../base/geometry/outline';
import type { Point } from '../../base/geometry/point';
import { type Job, boxOfJob, isContour } from './jobs';
import { type PlanSettings, marginOfMarks } from './settings';

/** A part as often as it is wanted. */
export interface LaidOut {
  readonly jobs: readonly Job[];
  /** How many of those that are wanted have room on the bed. */
  readonly count: number;
}

/** How far a tool leaves the outline that it works, mm. */
export const reachOf = ({ side, tool, process }: Job, { blade, frame }: Pick<PlanSettings, 'blade' | 'frame'>): number =>
  (side === 'outside' ? (tool?.diameter ?? 0) / 2 : 0) + (tool?.kind === 'knife' ? blade : 0) + (isContour(process) ? frame : 0);

/** How far beyond its outlines a job cuts material away, mm: a pen takes nothing away. */
export const cutBeside = ({ side, tool }: Job, { blade }: Pick<PlanSettings, 'blade'>): number => {
  const width = tool && tool.kind !== 'pen' ? tool.diameter : 0;
  const beside = { outside: width, 'on the line': width / 2, inside: 0 }[side];
  return beside + (tool?.kind === 'knife' ? blade : 0);
};

/** The bed in the machine's own numbers, mm. */
export function bedOf({ area: { width, height }, origin }: PlanSettings['machine']): Box {
  const [minX, minY] = origin === 'middle' ? [-width / 2, -height / 2] : [0, 0];
  return { minX, minY, maxX: minX + width, maxY: minY + height };
}

/** A turn by 90°, exact. */
const QUARTER: Matrix = [0, 1, -1, 0, 0, 0];
/** What rounding leaves, mm. */
const NOTHING = 1e-9;

/** How many rows are tried at most. */
const ROWS = 60;

/** What is left of a bed once its edge is kept free for tools and marks. */
const within = (box: Box, by: number): Box => widened(box, -by);

const moved = (job: Job, by: Matrix, first: number): Job => ({
  ...job,
  outlines: job.outlines.map((outline) => transformOutline(outline, by)),
  rings: job.rings.map((ring) => ring.map((point) => apply(by, point))),
  holders: job.holders.map((holder) => holder + first),
});

/**
 * Several of a part beside each other on the bed, by their boxes (maximal rectangles, `maxrects-packer`), from its corner on.
 * One alone stays where it is.
 */
export function layOut(jobs: readonly Job[], settings: PlanSettings): LaidOut {
  const { count, spacing, turns, machine } = settings;
  if (count <= 1 || !jobs.length) return { jobs, count };
  const part = joinBoxes(jobs.map(boxOfJob));
  const [width, height] = [part.maxX - part.minX + spacing, part.maxY - part.minY + spacing];
  const edge = jobs.reduce((most, job) => Math.max(most, reachOf(job, settings)), 0) + marginOfMarks(settings);
  const bed = within(bedOf(machine), edge);
  // Beside the last part nothing has to be kept free.
  const [room, high] = [bed.maxX - bed.minX + spacing, bed.maxY - bed.minY + spacing];
  const all = (across: boolean, turning: boolean, depth: number): Place[] =>
    packed(count, across ? [height, width] : [width, height], [room, depth], turning).map(({ x, y, wide }) => ({
      x,
      y,
      turned: Math.abs(wide - width) > NOTHING,
    }));
  const best = (depth: number): Place[] => {
    const ways = [all(false, false, depth)];
    if (turns === 'quarter turns') ways.push(all(true, false, depth), all(false, true, depth));
    return ways.reduce((most, one) => (one.length > most.length ? one : most));
  };
  // As little of the sheet's depth as they need, so that what is left over is one piece.
  const depths = depthsOf(height, turns === 'quarter turns' ? width : null, high);
  let [low, top] = [0, depths.length - 1];
  while (low < top) {
    const middle = (low + top) >> 1;
    if (best(depths[middle]!).length >= count) top = middle;
    else low = middle + 1;
  }
  const places = best(depths[low] ?? high);
  const ways = places.map(({ x, y, turned }): Matrix => {
    const to = translation(bed.minX + x, bed.minY + y);
    return turned
      ? multiply(to, multiply(translation(part.maxY - part.minY, 0), multiply(QUARTER, translation(-part.minX, -part.minY))))
      : multiply(to, translation(-part.minX, -part.minY));
  });
  const laid = settings.mirrored ? asFromTheBack(ways, part) : ways;
  return { jobs: laid.flatMap((by, i) => jobs.map((job) => moved(job, by, i * jobs.length))), count: places.length };
}

/** The same about the middle of a box, the other way round. */
const flip = ({ minX, maxX }: Box): Matrix => multiply(translation(minX + maxX, 0), scaling(-1, 1));

/**
 * Ways onto the bed for the back of parts: all of them together are the mirror image of what the front is.
 * @param part the box of one that is mirrored already: that of the front, too
 */
function asFromTheBack(ways: readonly Matrix[], part: Box): Matrix[] {
  const corners = ([x, y]: Point, [across, up]: Point): Box => ({
    minX: Math.min(x, across),
    minY: Math.min(y, up),
    maxX: Math.max(x, across),
    maxY: Math.max(y, up),
  });
  const all = joinBoxes(ways.map((by) => corners(apply(by, [part.minX, part.minY]), apply(by, [part.maxX, part.maxY]))));
  return ways.map((by) => multiply(flip(all), multiply(by, flip(part))));
}

/** How deep rows of parts can be together, shallowest first: so many of one side, and of the other. */
function depthsOf(height: number, width: number | null, high: number): number[] {
  const depths = new Set([high]);
  // Of tiny parts not every row is tried.
  const [row, other] = [Math.max(height, high / ROWS), width === null ? Infinity : Math.max(width, high / ROWS)];
  for (let first = 0; first <= high; first += row) for (let all = first; all <= high; all += other) if (all > 0) depths.add(all);
  return [...depths].sort((x, y) => x - y);
}

interface Place {
  readonly x: number;
  readonly y: number;
  readonly turned: boolean;
}

/** As many rectangles of one size as one bed takes, and how wide each lies there. */
function packed(
  count: number,
  [width, height]: readonly [number, number],
  [room, high]: readonly [number, number],
  turning: boolean,
): { x: number; y: number; wide: number }[] {
  if (width > room + NOTHING && (!turning || height > room + NOTHING)) return [];
  const packer = new MaxRectsPacker(room + NOTHING, high + NOTHING, 0, {
    smart: false,
    pot: false,
    square: false,
    allowRotation: turning,
  });
  for (let i = 0; i < count; i++) {
    packer.add(width, height, i);
    // What has no room opens a bed of its own: there is only one.
    if (packer.bins.length > 1) break;
  }
  return (packer.bins[0]?.rects ?? []).filter(({ oversized }) => !oversized).map(({ x, y, width: wide }) => ({ x, y, wide }));
}
