import { type MachineProcess, type MachineTool, type Side, toolFor } from '../../base/machines';
import { asCircle } from '../../base/geometry/arcs';
import { type Box, boxOfOutlines, boxOfPolyline, joinBoxes } from '../../base/geometry/measure';
import { type Matrix, multiply, scaling, translation, identity } from '../../base/geometry/matrix';
import { joinOutlines } from '../../base/geometry/nodes';
import { type Outline, endOf, transformOutline } from '../../base/geometry/outline';
import { distance, near } from '../../base/geometry/point';
import { flatten } from '../../base/geometry/flatten';
import type { Layer, Work } from '../../document/schema';
import { holdersOf } from './nesting';
import { type Ring, outlineOfRing, ringOf, united } from './offset';
import { overlapsOf, withoutOverlap } from './overlaps';
import { type PlanSettings, marginOfMarks } from './settings';

/** An outline of the master that a machine works: arcs and lines, in its own place on the board. */
export interface WorkedOutlines {
  readonly source: string;
  readonly layer: Layer;
  readonly work: Work | undefined;
  readonly outlines: readonly Outline[];
}

/** Something that one tool does in one go: a way along an outline, a pocket, a hole. */
export interface Job {
  readonly source: string;
  readonly layer: Layer;
  readonly process: MachineProcess;
  /** None where the one that is asked for is not there. */
  readonly tool: MachineTool | undefined;
  readonly side: Exclude<Side, 'by nesting'>;
  /** How deep from the face of the stock, mm; 0 for tools that stay on it. */
  readonly depth: number;
  readonly tabs: number;
  /** Filled by lines, with or without its outlines. */
  readonly fill?: true;
  /** On the machine, mm from its origin, z apart. One; of a pocket, all that bound it. */
  readonly outlines: readonly Outline[];
  /** The same as rings, where they are closed. */
  readonly rings: readonly Ring[];
  /** What is left of a closed outline where the rest of it lies on lines that are worked already. */
  readonly isRest?: true;
  /** The jobs, by number, that it lies inside of and is done before. */
  readonly holders: readonly number[];
}

/** What of a board a machine is to work, and what of that its settings left out. */
export interface Prepared {
  /** Of one part; what is made of them is laid out and marked. */
  readonly jobs: readonly Job[];
  /** From the board to the machine. */
  readonly at: Matrix;
  readonly leftOut: {
    readonly byName: readonly string[];
    readonly specks: readonly string[];
    readonly doubles: readonly string[];
    /** In part on lines of others. */
    readonly shared: readonly string[];
  };
}

/** Processes that go around what they cut out. */
const CONTOURS = new Set<MachineProcess>(['cut', 'route']);
export const isContour = (process: MachineProcess): boolean => CONTOURS.has(process);

/** The process that an object is worked by: its own, or that of its layer. */
export const processOf = (layer: Layer, work: Work | undefined): MachineProcess | null => {
  const process = work?.process ?? layer.process;
  return layer.process === 'print' || layer.process === 'note' || process === 'print' || process === 'note' ? null : process;
};

/** What outlines become on a machine, before any tool path: placed, joined, sorted into jobs. Pure. */
export function prepareJobs(worked: readonly WorkedOutlines[], settings: PlanSettings): Prepared {
  const named = new Set(settings.leftOut);
  const leftOut = { byName: new Set<string>(), specks: new Set<string>(), doubles: new Set<string>(), shared: new Set<string>() };
  const taken = worked.filter(({ source }) => !named.has(source) || !leftOut.byName.add(source));
  const at = placing(taken, settings);
  const seen = new Set<string>();
  const jobs: Omit<Job, 'holders'>[] = [];
  for (const one of taken) {
    const process = processOf(one.layer, one.work)!;
    const all = one.outlines.filter(({ segments }) => segments.length).map((outline) => transformOutline(outline, at));
    const clear = joined(all, settings.joins).filter((outline) => {
      if (settings.specks > 0 && sizeOf(outline) < settings.specks) return !leftOut.specks.add(one.source);
      if (settings.doubles !== 'once') return true;
      const key = `${process} ${keyOf(outline)}`;
      if (seen.has(key)) return !leftOut.doubles.add(one.source);
      seen.add(key);
      return true;
    });
    jobs.push(...jobsOf(one, process, clear, settings));
  }
  const sorted = withHolders(jobs);
  return {
    jobs: settings.doubles === 'once' ? workedOnce(sorted, leftOut.shared) : sorted,
    at,
    leftOut: {
      byName: [...leftOut.byName],
      specks: [...leftOut.specks],
      doubles: [...leftOut.doubles],
      shared: [...leftOut.shared],
    },
  };
}

/** Where the board's corner comes to lie: `as drawn` keeps its place, counted from the machine's origin. */
export function placing(
  worked: readonly WorkedOutlines[],
  {
    machine,
    place,
    mirrored,
    blade = 0,
    frame = 0,
    marks = 'none',
    markAt = 0,
  }: Pick<PlanSettings, 'machine' | 'place' | 'mirrored'> & Partial<Pick<PlanSettings, 'blade' | 'frame' | 'marks' | 'markAt'>>,
): Matrix {
  const { width, height } = machine.area;
  const box = joinBoxes(worked.map(({ outlines }) => boxOfOutlines(outlines)));
  const [x, y] = machine.origin === 'middle' ? [width / 2, height / 2] : [0, 0];
  let at = identity;
  if (box.minX <= box.maxX) {
    if (mirrored) at = multiply(translation(box.minX + box.maxX, 0), scaling(-1, 1));
    // So that the tool, too, is on the bed where it goes around what lies at its edge.
    const beside =
      worked.reduce((most, one) => Math.max(most, besideOf(one, machine)), 0) + blade + frame + marginOfMarks({ marks, markAt });
    if (place === 'at the origin') at = multiply(translation(beside - box.minX, beside - box.minY), at);
    if (place === 'in the middle')
      at = multiply(translation((width - box.minX - box.maxX) / 2, (height - box.minY - box.maxY) / 2), at);
  }
  return x || y ? multiply(translation(-x, -y), at) : at;
}

/** How far a tool goes outside of what it cuts out, mm. */
function besideOf({ layer, work }: WorkedOutlines, machine: PlanSettings['machine']): number {
  const process = processOf(layer, work);
  if (!process || !isContour(process)) return 0;
  return (toolFor(machine, process, work?.tool ?? layer.work?.tool ?? null)?.diameter ?? 0) / 2;
}

const joined = (outlines: readonly Outline[], within: number): readonly Outline[] =>
  within > 0
    ? joinOutlines(
        outlines.map((one) => closing(one, within)),
        within,
      )
    : outlines;

const closing = (outline: Outline, within: number): Outline =>
  outline.closed || outline.segments.length < 2 || distance(outline.start, endOf(outline)) > within
    ? outline
    : { ...outline, closed: true };

export const isClosed = (outline: Outline): boolean =>
  outline.closed || (outline.segments.length > 1 && near(outline.start, endOf(outline), 1e-6));

/** The longer side of its box, mm. */
export function sizeOf(outline: Outline): number {
  const { minX, minY, maxX, maxY } = boxOfOutlines([outline]);
  return Math.max(maxX - minX, maxY - minY);
}

const TENTH = 20;
/** Equal for outlines that run along the same points, whichever way and from wherever: to a twentieth of a millimetre. */
export function keyOf(outline: Outline): string {
  const flat = flatten(outline, 0.05);
  const points = new Set<string>();
  for (let i = 0; i < flat.length; i += 2) points.add(`${Math.round(flat[i]! * TENTH)},${Math.round(flat[i + 1]! * TENTH)}`);
  return [...points].sort().join(' ');
}

/** Equal for all outlines whose keys are equal. */
export function roughlyOf(outline: Outline): string {
  const { minX, minY, maxX, maxY } = boxOfPolyline(flatten(outline, 0.05));
  return [minX, minY, maxX, maxY].map((value) => Math.round(value * TENTH)).join();
}

function jobsOf(
  { source, layer, work }: WorkedOutlines,
  process: MachineProcess,
  outlines: readonly Outline[],
  settings: PlanSettings,
): Omit<Job, 'holders'>[] {
  const { machine } = settings;
  const own = { ...layer.work, ...work };
  const tool = toolFor(machine, process, own.tool ?? null);
  const through = isContour(process) || process === 'drill';
  const usual = through ? machine.stock.thickness + machine.stock.below : (tool?.pass ?? 0);
  const depth = machine.area.depth > 0 ? (own.depth ?? usual) : 0;
  const tabs = isContour(process) && depth >= machine.stock.thickness ? (own.tabs ?? settings.tabs) : 0;
  const common = { source, layer, process, tool, depth, tabs };
  const asked = own.side ?? 'by nesting';
  const isFilled = process === 'engrave' && settings.engraving !== 'outlines';
  if (process === 'pocket' || isFilled) {
    const closed = outlines.filter(isClosed);
    const open = outlines.filter((one) => !isClosed(one));
    const rings = united(windRings(closed.map(ringOf)));
    return [
      ...(rings.length
        ? [{ ...common, side: 'inside' as const, outlines: closed, rings, ...(isFilled ? { fill: true as const } : {}) }]
        : []),
      ...open.map((one) => ({ ...common, side: 'on the line' as const, outlines: [one], rings: [] })),
    ];
  }
  return outlines.flatMap((outline): Omit<Job, 'holders'>[] => {
    if (!isClosed(outline)) return [{ ...common, side: 'on the line', outlines: [outline], rings: [] }];
    // What is to be cut around is sorted into outside and inside once all is known.
    const side = isContour(process) ? asked : asked === 'by nesting' ? 'on the line' : asked;
    const ring = ringOf(outline);
    const whole = settings.crossings === 'united' ? united([ring]) : [];
    const plain = whole.length && asCircle(outline) === undefined && crosses(ring, whole) ? whole.map(outlineOfRing) : [outline];
    return plain.map((one) => ({ ...common, side: side as Job['side'], outlines: [one], rings: [ringOf(one)] }));
  });
}

/** Whether a ring is another than what is left when its crossings are united. */
export const crosses = (ring: Ring, whole: readonly Ring[]): boolean => {
  const area = (one: Ring) => Math.abs(one.reduce((sum, [x, y], i) => sum + cross(x, y, one[(i + 1) % one.length]!), 0) / 2);
  const [before, after] = [area(ring), whole.reduce((sum, one) => sum + area(one), 0)];
  return whole.length !== 1 || Math.abs(before - after) > 1e-3 + 1e-6 * after;
};
const cross = (x: number, y: number, [u, v]: readonly [number, number]): number => x * v - u * y;

/** Rings of an area by the even-odd rule, so that those within others are its holes: those run clockwise. */
function windRings(rings: readonly Ring[]): Ring[] {
  const holders = holdersOf(rings);
  return rings.map((ring, i) => {
    const isHole = holders[i]!.length % 2 === 1;
    const area = ring.reduce((sum, [x, y], k) => sum + cross(x, y, ring[(k + 1) % ring.length]!), 0);
    return area > 0 === isHole ? [...ring].reverse() : ring;
  });
}

/** Sides that nesting decides, and what is done before what it lies in. */
function withHolders(jobs: readonly Omit<Job, 'holders'>[]): Job[] {
  const closed = jobs.flatMap((job, i) => (isContour(job.process) && job.rings.length ? [i] : []));
  const all = holdersOf(closed.map((i) => jobs[i]!.rings[0]!));
  const own = new Map(closed.map((i, k) => [i, all[k]!.map((j) => closed[j]!)]));
  return jobs.map((job, i) => {
    const holders = own.get(i) ?? [];
    const side = (job.side as Side) === 'by nesting' ? (holders.length % 2 ? 'inside' : 'outside') : job.side;
    return { ...job, side, holders };
  });
}

/** Jobs without what of them lies on lines of others: what is left of an outline is cut along as open ways. */
function workedOnce(jobs: readonly Job[], shared: Set<string>): Job[] {
  const overlaps = overlapsOf(jobs);
  if (!overlaps.size) return [...jobs];
  // Jobs are known by their number: where one becomes several, those of its holders move on.
  const made = jobs.map((job, i): Job[] => {
    const overlap = overlaps.get(i);
    if (!overlap) return [job];
    shared.add(job.source);
    return withoutOverlap(job.outlines[0]!, overlap).map((way) => ({
      ...job,
      side: 'on the line',
      tabs: 0,
      outlines: [way],
      rings: [],
      isRest: true,
    }));
  });
  const numbers: number[][] = [];
  let next = 0;
  for (const some of made) numbers.push(some.map(() => next++));
  return made.flat().map((job) => ({ ...job, holders: job.holders.flatMap((holder) => numbers[holder]!) }));
}

/** Where a job's outlines lie on the machine, mm. */
export const boxOfJob = ({ outlines }: Job): Box => boxOfOutlines(outlines);
