import type { MachineProfile } from '../../base/machines';
import { sweepOf } from '../../base/geometry/arcs';
import type { JobSize } from '../../contracts/finding';
import { MOTIONS, type Machining } from '../../contracts/machining';

type Vector = readonly [number, number, number];
/** A stretch without a stop: how long, how fast, mm/s, and its headings at both ends. */
interface Stretch {
  readonly length: number;
  readonly speed: number;
  readonly out: Vector;
  readonly in: Vector;
}

/** Turns by less than this are gone through without slowing down, radians. */
const THROUGH = Math.cos((10 * Math.PI) / 180);

const unit = (x: number, y: number, z: number): Vector => {
  const size = Math.sqrt(x * x + y * y + z * z) || 1;
  return [x / size, y / size, z / size];
};

function stretchOf(moves: Machining, i: number, rapid: number): Stretch | null {
  const at = (k: number, axis: number): number => moves.ends[3 * k + axis]!;
  // It begins at its origin, at the height that comes first.
  const before = (axis: number): number => {
    const known = i ? at(i - 1, axis) : NaN;
    if (!Number.isNaN(known)) return known;
    return axis < 2 ? 0 : at(i, axis);
  };
  const step = (axis: number): number => (Number.isNaN(at(i, axis)) ? 0 : at(i, axis) - before(axis));
  const by: Vector = [step(0), step(1), step(2)];
  const speed = (moves.motion[i] ? moves.feed[i]! : rapid) / 60;
  if (moves.motion[i]! < 2) {
    const length = Math.hypot(...by);
    return length > 1e-9 ? { length, speed, out: unit(...by), in: unit(...by) } : null;
  }
  const [cx, cy] = [moves.centres[2 * i]!, moves.centres[2 * i + 1]!];
  const from = [at(i - 1, 0), at(i - 1, 1)] as const;
  const to = [at(i, 0), at(i, 1)] as const;
  const clockwise = MOTIONS[moves.motion[i]!] === 'clockwise';
  const sweep = sweepOf(from, { kind: 'arc', to, centre: [cx, cy], clockwise });
  const flat = Math.abs(sweep) * Math.hypot(from[0] - cx, from[1] - cy);
  const length = Math.hypot(flat, by[2]);
  const turn = clockwise ? -1 : 1;
  const heading = ([x, y]: readonly [number, number]): Vector => {
    const [tx, ty] = unit(-(y - cy) * turn, (x - cx) * turn, 0);
    return unit(tx * flat, ty * flat, by[2]);
  };
  return length > 1e-9 ? { length, speed, out: heading(from), in: heading(to) } : null;
}

/** How long a machine takes for a stretch, that it comes to and leaves at a speed, with even acceleration, s. */
function timeOf(length: number, from: number, to: number, end: number, a: number): number {
  const room = (2 * to * to - from * from - end * end) / (2 * a);
  if (room <= length) return (2 * to - from - end) / a + (length - room) / to;
  const peak = Math.max(from, end, Math.sqrt(Math.max(0, a * length + (from * from + end * end) / 2)));
  return (2 * peak - from - end) / a;
}

type Pace = Pick<MachineProfile, 'acceleration' | 'rapid' | 'changeSeconds'> & Partial<Pick<MachineProfile, 'tools'>>;

/** How long a needle takes to cut its thread, s. */
const CUT = 1.5;

/** When each move of a job begins and ends, s from its beginning, and how far it goes, mm. */
export interface JobTimes {
  readonly begins: Float64Array;
  readonly ends: Float64Array;
  readonly lengths: Float64Array;
}

/**
 * When a machine does what. It slows down for every turn that is sharper than ten degrees, and stops for a tool.
 * A move that goes nowhere takes no time.
 */
export function timesOfJob(moves: Machining, pace: Pace): JobTimes {
  const { acceleration: a, rapid, changeSeconds, tools } = pace;
  const [begins, ends, lengths] = [0, 1, 2].map(() => new Float64Array(moves.count)) as [
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  // Of each tool that is a needle, its stitches a minute.
  const needles = new Map<number, number>();
  moves.tools.forEach(({ number }, i) => {
    const tool = tools?.find((one) => one.number === number);
    if (tool?.kind === 'needle' && tool.speed > 0) needles.set(i, tool.speed);
  });
  let [seconds, speed] = [0, 0];
  let last: (Stretch & { readonly at: number }) | null = null;
  const settle = (end: number): void => {
    if (last) {
      const reached = Math.min(end, Math.sqrt(speed * speed + 2 * a * last.length));
      seconds += timeOf(last.length, speed, last.speed, reached, a);
      ends[last.at] = seconds;
      speed = reached;
    }
    last = null;
  };
  for (let i = 0; i < moves.count; i++) {
    const next = stretchOf(moves, i, rapid);
    const before = last as Stretch | null;
    const changes = !i || moves.tool[i] !== moves.tool[i - 1];
    const along = before && next && !changes ? before.in.reduce((sum, way, axis) => sum + way * next.out[axis]!, 0) : -1;
    // What goes nowhere is no stop.
    if (next || changes) settle(along > THROUGH ? Math.min(before!.speed, next!.speed) : 0);
    if (changes) seconds += changeSeconds;
    begins[i] = ends[i] = seconds;
    if (!next) continue;
    const needle = needles.get(moves.tool[i]!);
    if (needle) {
      // It comes to rest in each stitch: what counts is how many there are.
      seconds += moves.motion[i] ? 60 / needle : cutOnly(moves, i) ? CUT : next.length / next.speed;
      ends[i] = seconds;
      lengths[i] = cutOnly(moves, i) ? 0 : next.length;
      continue;
    }
    lengths[i] = next.length;
    last = { ...next, at: i };
  }
  settle(0);
  return { begins, ends, lengths };
}

/** Whether nothing but the height changes. */
const cutOnly = ({ ends }: Machining, i: number): boolean =>
  i > 0 && ends[3 * i] === ends[3 * i - 3] && ends[3 * i + 1] === ends[3 * i - 2];

/** How long and how far a machine works in all. */
export function sizeOfJob(moves: Machining, pace: Pace): JobSize {
  const { ends, lengths } = timesOfJob(moves, pace);
  let [worked, travelled, seconds] = [0, 0, 0];
  const tools = new Set<number>();
  for (let i = 0; i < moves.count; i++) {
    if (moves.motion[i]) worked += lengths[i]!;
    else travelled += lengths[i]!;
    seconds = Math.max(seconds, ends[i]!);
    tools.add(moves.tools[moves.tool[i]!]!.number);
  }
  return { moves: moves.count, worked, travelled, seconds, tools: [...tools] };
}
