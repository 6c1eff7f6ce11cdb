import { type Machining, MachiningBuilder } from '../../contracts/machining';
import { toolFor } from '../../base/machines';
import { boxOfOutlines, joinBoxes, widened } from '../../base/geometry/measure';
import { type Outline, endOf, fromPoints } from '../../base/geometry/outline';
import type { Point } from '../../base/geometry/point';
import { type Job, boxOfJob, isContour } from './jobs';
import type { PlanSettings } from './settings';
import { shortTour } from './travel';
import { backwards, beginningAt } from './walk';
import { waysOfJob } from './way-of-job';
import { Worker, nearestNode } from './work-of-job';

/** What is done before a part is cut loose, in this order. */
const BEFORE = ['engrave', 'score', 'drill', 'pocket', 'stitch'];

/** Jobs that may be done in any order, with one tool. */
interface Batch {
  readonly jobs: readonly Job[];
}

/**
 * Batches in the order of work: what leaves a part in its sheet first, then holes before what they are in; among equals so that
 * a tool that is in the spindle goes on, and one that is needed next comes last.
 */
function batchesOf(jobs: readonly Job[], sequence: PlanSettings['sequence']): Batch[] {
  if (sequence === 'as drawn') return inTheirOrder(jobs).map((job) => ({ jobs: [job] }));

  const deepest = jobs.reduce((most, { holders }) => Math.max(most, holders.length), 0);
  const stages = new Map<number, Map<number, Job[]>>();
  for (const job of jobs) {
    const stage = isContour(job.process) ? BEFORE.length + deepest - job.holders.length : BEFORE.indexOf(job.process);
    const tools = stages.get(stage) ?? new Map<number, Job[]>();
    stages.set(stage, tools);
    const number = job.tool!.number;
    const list = tools.get(number);
    if (list) list.push(job);
    else tools.set(number, [job]);
  }
  const all = [...stages].sort(([a], [b]) => a - b).map(([, tools]) => tools);
  let current = 0;
  return all.flatMap((tools, i) => {
    const next = all[i + 1];
    const numbers = [...tools.keys()].sort((a, b) => a - b);
    const last = numbers.find((number) => number !== current && next?.has(number)) ?? 0;
    const rank = (number: number): number => (number === current ? -1 : number === last ? 1 : 0);
    numbers.sort((a, b) => rank(a) - rank(b) || a - b);
    current = numbers.at(-1)!;
    return numbers.map((number) => ({ jobs: tools.get(number)! }));
  });
}

/** Jobs as the master has them, except that what leaves a part in its sheet comes first, and holes before what they are in. */
function inTheirOrder(jobs: readonly Job[]): Job[] {
  const inside = new Map<number, number[]>();
  jobs.forEach(({ holders }, i) => {
    for (const holder of holders) inside.set(holder, [...(inside.get(holder) ?? []), i]);
  });
  const [done, order] = [new Set<number>(), jobs.filter(({ process }) => !isContour(process))];
  const add = (i: number): void => {
    if (done.has(i)) return;
    done.add(i);
    for (const one of inside.get(i) ?? []) add(one);
    order.push(jobs[i]!);
  };
  jobs.forEach(({ process }, i) => isContour(process) && add(i));
  return order;
}

/** A frame around all that is cut, as one more cut of the same knife; none where nobody asks for it. */
function frameOf(jobs: readonly Job[], { frame, machine }: PlanSettings): Job[] {
  const cut = jobs.filter(({ process }) => isContour(process));
  if (!(frame > 0) || !cut.length) return [];
  const { minX, minY, maxX, maxY } = widened(joinBoxes(cut.map(boxOfJob)), frame);
  const outline = fromPoints(
    [
      [minX, minY],
      [maxX, minY],
      [maxX, maxY],
      [minX, maxY],
    ],
    true,
  );
  const [first] = cut as [Job];
  const tool = toolFor(machine, first.process) ?? first.tool;
  return [{ ...first, source: '', tool, side: 'on the line', tabs: 0, outlines: [outline], rings: [], holders: [] }];
}

/** Something to be done at one place: a way, or all of a pocket. */
interface Piece {
  readonly job: Job;
  readonly ways: readonly Outline[];
  readonly last: readonly Outline[];
}

const piecesOf = (job: Job, settings: PlanSettings): Piece[] => {
  const finish = isContour(job.process) && job.side !== 'on the line' ? settings.finish : 0;
  const ways = waysOfJob(job, settings, finish);
  const last = finish > 0 ? waysOfJob(job, settings) : [];
  if (job.process === 'pocket' || job.fill) return ways.length ? [{ job, ways, last: [] }] : [];
  // Where there is no room to leave anything standing, the last round is the only one.
  if (!finish || !ways.length) return (finish ? last : ways).map((way) => ({ job, ways: [way], last: [] }));
  return [{ job, ways, last }];
};

const middleOf = (outline: Outline): Point => {
  const { minX, minY, maxX, maxY } = boxOfOutlines([outline]);
  return [(minX + maxX) / 2, (minY + maxY) / 2];
};

/**
 * What a machine is told to do for these jobs, move by move: through the air as little as can be found, holes before what they
 * are in. All jobs have their tool. Pure.
 * @param snap puts a coordinate onto the grid of the file
 */
export function planMachining(
  jobs: readonly Job[],
  settings: PlanSettings,
  snap: (value: number) => number,
  nameOf: (source: string) => string,
): Machining {
  const { machine } = settings;
  const out = new MachiningBuilder(snap);
  const flat = machine.area.depth === 0;
  let at: Point = [0, 0];
  let tool = 0;
  for (const { jobs: batch } of [
    ...batchesOf(jobs, settings.sequence),
    ...frameOf(jobs, settings).map((job) => ({ jobs: [job] })),
  ]) {
    const pieces = batch.flatMap((job) => piecesOf(job, settings));
    if (!pieces.length) continue;
    const stops = pieces.map(({ ways }) => {
      const [way] = ways as [Outline];
      if (way.closed) return { a: middleOf(way), b: middleOf(way) };
      return { a: way.start, b: endOf(way) };
    });
    const next = batch[0]!.tool!;
    if (next.number !== tool) {
      out.source = undefined;
      out.spindle = 0;
      out.use(next.number, next.name);
      if (!flat) out.go('rapid', { z: machine.safeHeight });
      out.spindle = flat ? 0 : next.speed;
      tool = next.number;
    }
    for (const { stop, flipped } of shortTour(stops, at)) {
      const { job, ways, last } = pieces[stop]!;
      const worker = new Worker(out, job, settings);
      out.source = job.source || undefined;
      const placed = (way: Outline): Outline => {
        if (way.closed) return beginningAt(way, nearestNode(way, at));
        return flipped ? backwards(way) : way;
      };
      if (job.process === 'pocket' && settings.clearing === 'rings') worker.rings(ways);
      else for (const way of ways) worker.do(placed(way));
      for (const way of last) worker.do(placed(way), true);
      at = [out.at[0], out.at[1]];
    }
  }
  return out.finish(nameOf);
}
