import type { MachineProfile } from '../../base/machines';
import { pointOnArc } from '../../base/geometry/arcs';
import { boxOfOutlines } from '../../base/geometry/measure';
import { MOTIONS, type Machining, type Place } from '../../contracts/machining';
import { type JobTimes, timesOfJob } from './estimate';

/** How a machine is taken to move where nobody says which it is: as a plotter does. */
export const USUAL_PACE = { acceleration: 4000, rapid: 36_000, changeSeconds: 0 } as const;

/** A job as it runs: when each move is made, and what one asks of it before it is let run. */
export interface JobRun {
  readonly moves: Machining;
  readonly times: JobTimes;
  readonly seconds: number;
  /** mm that it works, and mm through the air. */
  readonly worked: number;
  readonly travelled: number;
  /** How far the tool goes, x, y and z, mm; null where it goes nowhere. */
  readonly extents: { readonly min: Place; readonly max: Place } | null;
  /** mm that are worked more than once along the very same way and at the same depth. */
  readonly twice: number;
}

/** How close two ways are to be the same, mm. */
const SAME = 1e-3;

/** A move with its way in both directions said alike; empty for what does not work. */
function wayOf({ motion, ends, centres }: Machining, i: number): string {
  if (!motion[i] || !i) return '';
  const at = (k: number): string => [0, 1, 2].map((axis) => Math.round(ends[3 * k + axis]! / SAME)).join(' ');
  const [from, to] = [at(i - 1), at(i)];
  const clockwise = MOTIONS[motion[i]!] === 'clockwise';
  const centre = motion[i]! < 2 ? '' : [0, 1].map((axis) => Math.round(centres[2 * i + axis]! / SAME)).join(' ');
  const [first, second, turns] = from < to ? [from, to, clockwise] : [to, from, !clockwise];
  return `${first},${second},${centre}${centre && (turns ? '-' : '+')}`;
}

/** What a move reaches along each axis: its end, and the sides of its arc. */
function* reached({ motion, ends, centres }: Machining, i: number): Generator<readonly [axis: number, value: number]> {
  for (let axis = 0; axis < 3; axis++) yield [axis, ends[3 * i + axis]!];
  if (motion[i]! < 2 || !i) return;
  const at = (k: number) => [ends[3 * k]!, ends[3 * k + 1]!] as const;
  const [from, to, centre] = [at(i - 1), at(i), [centres[2 * i]!, centres[2 * i + 1]!] as const];
  const { minX, minY, maxX, maxY } = boxOfOutlines([
    { start: from, segments: [{ kind: 'arc', to, centre, clockwise: MOTIONS[motion[i]!] === 'clockwise' }], closed: false },
  ]);
  for (const x of [minX, maxX]) yield [0, x];
  for (const y of [minY, maxY]) yield [1, y];
}

/** What a job does, in its order. @param machine that it runs on; null where nobody says */
export function runOf(moves: Machining, machine: MachineProfile | null): JobRun {
  const times = timesOfJob(moves, machine ?? USUAL_PACE);
  let [seconds, worked, travelled, twice] = [0, 0, 0, 0];
  const min = [Infinity, Infinity, Infinity];
  const max = [-Infinity, -Infinity, -Infinity];
  const known = new Set<string>();
  for (let i = 0; i < moves.count; i++) {
    const length = times.lengths[i]!;
    seconds = Math.max(seconds, times.ends[i]!);
    if (moves.motion[i]) worked += length;
    else travelled += length;
    for (const [axis, value] of reached(moves, i)) {
      if (value < min[axis]!) min[axis] = value;
      if (value > max[axis]!) max[axis] = value;
    }
    const way = wayOf(moves, i);
    if (!way) continue;
    if (known.has(way)) twice += length;
    known.add(way);
  }
  const extents = Number.isFinite(min[0]! + min[1]!) ? { min: min as unknown as Place, max: max as unknown as Place } : null;
  return { moves, times, seconds, worked, travelled, extents, twice };
}

/** Where the tool is at a time: in which move, how far along it (0 to 1), and where, mm. */
export interface Needle {
  readonly move: number;
  readonly share: number;
  readonly place: Place;
}

/** The move that is made at a time: the last that has begun. -1 before the first. */
function moveAt({ begins }: JobTimes, seconds: number): number {
  let [low, high] = [-1, begins.length - 1];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (begins[middle]! <= seconds) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** Where in a move the tool is when it has made a share of it, mm. */
export function placeIn({ motion, ends, centres }: Machining, i: number, share: number): Place {
  const at = (k: number, axis: number): number => ends[3 * k + axis]!;
  const to: Place = [at(i, 0), at(i, 1), at(i, 2)];
  if (!i) return to;
  const from: Place = [0, 1, 2].map((axis) => (Number.isNaN(at(i - 1, axis)) ? at(i, axis) : at(i - 1, axis))) as never;
  const between = (axis: 0 | 1 | 2): number => from[axis] + share * (to[axis] - from[axis]);
  if (motion[i]! < 2) return [between(0), between(1), between(2)];
  const centre = [centres[2 * i]!, centres[2 * i + 1]!] as const;
  const arc = { kind: 'arc', to: [to[0], to[1]], centre, clockwise: MOTIONS[motion[i]!] === 'clockwise' } as const;
  return [...pointOnArc([from[0], from[1]], arc, share), between(2)] as const;
}

/** Where the needle is at a time, s from the beginning of the job; null where the job has no move. */
export function needleAt({ moves, times }: JobRun, seconds: number): Needle | null {
  if (!moves.count) return null;
  const move = Math.max(0, moveAt(times, seconds));
  const [begins, ends] = [times.begins[move]!, times.ends[move]!];
  const share = ends > begins ? Math.min(1, Math.max(0, (seconds - begins) / (ends - begins))) : 1;
  return { move, share, place: placeIn(moves, move, share) };
}

/** The needle at the end of a move. @param move that the job has */
export const needleAfter = ({ moves }: JobRun, move: number): Needle => ({ move, share: 1, place: placeIn(moves, move, 1) });
