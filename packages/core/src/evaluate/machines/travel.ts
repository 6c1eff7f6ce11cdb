import type { Point } from '../../base/geometry/point';

/** Something to be gone to: where one comes to it and where one leaves it, which are one for what is closed. */
export interface Errand {
  readonly a: Point;
  readonly b: Point;
}
/** One stop of a tour: its number, and whether it is gone through from its other end. */
interface Visit {
  readonly stop: number;
  readonly flipped: boolean;
}

const far = ([ax, ay]: Point, [bx, by]: Point): number => Math.sqrt((ax - bx) * (ax - bx) + (ay - by) * (ay - by));
/** How many near ones are tried for each, and how often all are gone through at most. */
const [NEIGHBOURS, ROUNDS] = [12, 20];
/** So few ends are looked through one by one. */
const FEW = 24;

/** More squares than there are in a row. */
const ROW = 4096;

/** Ends of stops in squares, for finding those that are near. */
class Squares {
  private readonly cells = new Map<number, number[]>();
  private readonly size: number;
  private readonly minX: number;
  private readonly minY: number;
  private readonly across: number;
  private left: number;

  constructor(private readonly ends: readonly Point[]) {
    const [xs, ys] = [ends.map(([x]) => x), ends.map(([, y]) => y)];
    const low = (values: readonly number[]) => values.reduce((least, value) => Math.min(least, value), Infinity);
    const high = (values: readonly number[]) => values.reduce((most, value) => Math.max(most, value), -Infinity);
    [this.minX, this.minY] = [low(xs), low(ys)];
    const [width, height] = [high(xs) - this.minX, high(ys) - this.minY];
    this.size = Math.max(
      1e-3,
      Math.sqrt((Math.max(width, 1e-3) * Math.max(height, 1e-3)) / ends.length),
      Math.max(width, height) / 2000,
    );
    this.across = Math.ceil(Math.max(width, height) / this.size) + 1;
    this.left = ends.length;
    ends.forEach((_, i) => this.put(i));
  }

  private cell(x: number, y: number): [number, number] {
    return [Math.floor((x - this.minX) / this.size), Math.floor((y - this.minY) / this.size)];
  }
  private at(x: number, y: number): number {
    return x * ROW + y;
  }
  private put(i: number): void {
    const key = this.at(...this.cell(...this.ends[i]!));
    const list = this.cells.get(key);
    if (list) list.push(i);
    else this.cells.set(key, [i]);
  }
  drop(i: number): void {
    const list = this.cells.get(this.at(...this.cell(...this.ends[i]!)))!;
    list.splice(list.indexOf(i), 1);
    this.left--;
  }

  /** The nearest ends, nearest first. */
  near(point: Point, count: number): number[] {
    const [cx, cy] = this.cell(...point);
    const found: { i: number; d: number }[] = [];
    const enough = Math.min(count, this.left);
    // From outside of the squares, and where few are left in them, rings would be gone round for nothing.
    if (cx < 0 || cy < 0 || cx > this.across || cy > this.across || this.left <= FEW) {
      for (const list of this.cells.values()) for (const i of list) found.push({ i, d: far(this.ends[i]!, point) });
      return nearestOf(found, count);
    }
    for (let ring = 0; ring <= this.across; ring++) {
      for (let x = cx - ring; x <= cx + ring; x++) {
        const step = Math.abs(x - cx) === ring ? 1 : 2 * ring || 1;
        for (let y = cy - ring; y <= cy + ring; y += step)
          for (const i of this.cells.get(this.at(x, y)) ?? []) found.push({ i, d: far(this.ends[i]!, point) });
      }
      // What lies farther out is at least so far away.
      if (found.filter(({ d }) => d <= ring * this.size).length >= enough) break;
    }
    return nearestOf(found, count);
  }
}

const nearestOf = (found: { i: number; d: number }[], count: number): number[] =>
  found
    .sort((p, q) => p.d - q.d || p.i - q.i)
    .slice(0, count)
    .map(({ i }) => i);

/** Each time to what is nearest. */
export function nearestTour(stops: readonly Errand[], from: Point): Visit[] {
  const ends = stops.flatMap(({ a, b }) => [a, b]);
  const squares = new Squares(ends);
  const tour: Visit[] = [];
  let at = from;
  for (let left = stops.length; left > 0; left--) {
    const end = squares.near(at, 1)[0]!;
    const [stop, flipped] = [end >> 1, (end & 1) === 1];
    squares.drop(2 * stop);
    squares.drop(2 * stop + 1);
    tour.push({ stop, flipped });
    at = flipped ? stops[stop]!.a : stops[stop]!.b;
  }
  return tour;
}

/** How far one goes between stops, mm. */
export function travelOf(stops: readonly Errand[], tour: readonly Visit[], from: Point): number {
  let [length, at] = [0, from];
  for (const { stop, flipped } of tour) {
    const { a, b } = stops[stop]!;
    length += far(at, flipped ? b : a);
    at = flipped ? a : b;
  }
  return length;
}

/**
 * A short tour of all stops: nearest first, then stretches turned round (2-opt) and moved (Or-opt) as long as that shortens it
 * (D. S. Johnson and L. A. McGeoch, "The traveling salesman problem: a case study in local optimization", 1997).
 * @param from where one comes from
 */
export function shortTour(stops: readonly Errand[], from: Point): Visit[] {
  const tour = nearestTour(stops, from);
  const count = tour.length;
  if (count < 3) return tour;
  const ends = stops.flatMap(({ a, b }) => [a, b]);
  const squares = new Squares(ends);
  const near = ends.map((end, i) => squares.near(end, NEIGHBOURS + 2).filter((other) => other >> 1 !== i >> 1));
  const order = tour.map(({ stop }) => stop);
  const flipped = Uint8Array.from(tour, (visit) => Number(visit.flipped));
  const place = new Int32Array(count);
  order.forEach((stop, i) => (place[stop] = i));
  const enters = (i: number): Point => (flipped[i] ? stops[order[i]!]!.b : stops[order[i]!]!.a);
  const leaves = (i: number): Point => (i < 0 ? from : flipped[i] ? stops[order[i]!]!.a : stops[order[i]!]!.b);
  const gap = (i: number, j: number): number => (j >= count ? 0 : far(leaves(i), enters(j)));

  /** Turns the stretch from i to j round. */
  const turn = (i: number, j: number): void => {
    for (let [low, high] = [i, j]; low <= high; low++, high--) {
      [order[low], order[high]] = [order[high]!, order[low]!];
      [flipped[low], flipped[high]] = [1 - flipped[high]!, low === high ? 1 - flipped[high]! : 1 - flipped[low]!];
      place[order[low]!] = low;
      place[order[high]!] = high;
    }
  };
  const entering = (i: number): number => 2 * order[i]! + flipped[i]!;
  /** Turns a stretch round where that joins an end of i to one that is nearer than what it is joined to. */
  const turned = (i: number): boolean => {
    const [before, after] = [gap(i - 1, i), gap(i, i + 1)];
    for (const end of near[entering(i)]!) {
      const d = far(ends[end]!, enters(i));
      if (d >= before) break;
      const k = place[end >> 1]!;
      if (entering(k) !== end) continue;
      const [low, high] = k > i ? [i, k - 1] : [k, i - 1];
      if (gap(low - 1, low) + gap(high, high + 1) - far(leaves(low - 1), leaves(high)) - d > 1e-9) {
        turn(low, high);
        return true;
      }
    }
    for (const end of near[entering(i) ^ 1]!) {
      const d = far(ends[end]!, leaves(i));
      if (d >= after) break;
      const k = place[end >> 1]!;
      if (entering(k) === end) continue;
      const [low, high] = k > i ? [i + 1, k] : [k + 1, i];
      const closing = high + 1 < count ? far(enters(low), enters(high + 1)) : 0;
      if (gap(low - 1, low) + gap(high, high + 1) - d - closing > 1e-9) {
        turn(low, high);
        return true;
      }
    }
    return false;
  };
  /** Moves the stretch from i to last behind j, as it is or turned round: two or three turns. */
  const shift = (i: number, last: number, j: number, asItIs: boolean): void => {
    const size = last - i + 1;
    if (j > last) {
      turn(i, j);
      turn(i, i + (j - last) - 1);
      if (asItIs) turn(j - size + 1, j);
    } else {
      turn(j + 1, last);
      turn(j + 1 + size, last);
      if (asItIs) turn(j + 1, j + size);
    }
  };
  /** Moves a short stretch that begins at i to where it is nearer. */
  const moved = (i: number): boolean => {
    for (let size = 1; size <= 3 && i + size <= count; size++) {
      const last = i + size - 1;
      const saved = gap(i - 1, i) + gap(last, last + 1) - (last + 1 < count ? far(leaves(i - 1), enters(last + 1)) : 0);
      if (saved <= 1e-9) continue;
      for (const end of near[2 * order[i]! + flipped[i]!]!) {
        const next = place[end >> 1]!;
        // Behind what is near, and before it.
        for (const j of [next, next - 1]) {
          if ((j >= i - 1 && j <= last) || j < -1) continue;
          const [p, q] = [leaves(j), j + 1 < count ? enters(j + 1) : null];
          const open = q ? far(p, q) : 0;
          const plain = far(p, enters(i)) + (q ? far(leaves(last), q) : 0) - open;
          const round = far(p, leaves(last)) + (q ? far(enters(i), q) : 0) - open;
          if (Math.min(plain, round) >= saved - 1e-9) continue;
          shift(i, last, j, plain <= round);
          return true;
        }
      }
    }
    return false;
  };
  for (let round = 0, changed = true; changed && round < ROUNDS; round++) {
    changed = false;
    for (let i = 0; i < count; i++) if (turned(i) || moved(i)) changed = true;
  }
  return order.map((stop, i) => ({ stop, flipped: flipped[i] === 1 }));
}
