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

/** How long and how far a machine works: it slows down for every turn that is sharper than ten degrees, and stops for a tool. */
export function sizeOfJob(
  moves: Machining,
  { acceleration: a, rapid, changeSeconds }: Pick<MachineProfile, 'acceleration' | 'rapid' | 'changeSeconds'>,
): JobSize {
  let [worked, travelled, seconds, speed] = [0, 0, 0, 0];
  const tools: number[] = [];
  let last: Stretch | null = null;
  const settle = (end: number): void => {
    if (last) {
      const reached = Math.min(end, Math.sqrt(speed * speed + 2 * a * last.length));
      seconds += timeOf(last.length, speed, last.speed, reached, a);
      speed = reached;
    }
    last = null;
  };
  for (let i = 0; i < moves.count; i++) {
    const number = moves.tools[moves.tool[i]!]!.number;
    if (tools.at(-1) !== number) {
      settle(0);
      tools.push(number);
      seconds += changeSeconds;
    }
    const next = stretchOf(moves, i, rapid);
    if (!next) continue;
    if (moves.motion[i]) worked += next.length;
    else travelled += next.length;
    const before = last as Stretch | null;
    const along = before ? before.in[0] * next.out[0] + before.in[1] * next.out[1] + before.in[2] * next.out[2] : -1;
    settle(along > THROUGH ? Math.min(before!.speed, next.speed) : 0);
    last = next;
  }
  settle(0);
  return { moves: moves.count, worked, travelled, seconds, tools: [...new Set(tools)] };
}
