import type { Outline } from '../../base/geometry/outline';
import { fromPoints } from '../../base/geometry/outline';
import type { Point } from '../../base/geometry/point';
import type { Ring } from './offset';

/** Lines that lie nearer than so many steps are gone to without lifting the tool. */
const NEAR = 2.5;

interface Turn {
  readonly there: (point: Point) => Point;
  readonly back: (point: Point) => Point;
}

/** Turns the plane so that lines at that angle lie flat. @param angle degrees */
function turnBy(angle: number): Turn {
  const [c, s] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
  return { there: ([x, y]) => [c * x + s * y, c * y - s * x], back: ([x, y]) => [c * x - s * y, s * x + c * y] };
}

/** Where level lines cross areas, by their number: from where to where, in pairs (even-odd). */
function crossings(rings: readonly Ring[], step: number): Map<number, number[]> {
  const lines = new Map<number, number[]>();
  for (const ring of rings)
    ring.forEach(([ax, ay], i) => {
      const [bx, by] = ring[(i + 1) % ring.length]!;
      const [low, high] = [Math.min(ay, by), Math.max(ay, by)];
      // A corner belongs to the edge that begins there, so that it is never counted twice.
      for (let k = Math.ceil(low / step - 0.5); (k + 0.5) * step < high; k++) {
        const x = ax + (((k + 0.5) * step - ay) / (by - ay)) * (bx - ax);
        const line = lines.get(k);
        if (line) line.push(x);
        else lines.set(k, [x]);
      }
    });
  for (const line of lines.values()) line.sort((a, b) => a - b);
  return lines;
}

/** Whether the way between two points on the edge of areas stays inside of them. */
function staysInside(rings: readonly Ring[], [ax, ay]: Point, [bx, by]: Point): boolean {
  const [mx, my] = [(ax + bx) / 2, (ay + by) / 2];
  let inside = false;
  for (const ring of rings)
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      const [[px, py], [qx, qy]] = [ring[j]!, ring[i]!];
      if (py > my !== qy > my && mx < ((qx - px) * (my - py)) / (qy - py) + px) inside = !inside;
      const side = (x: number, y: number) => (bx - ax) * (y - ay) - (by - ay) * (x - ax);
      const other = (x: number, y: number) => (qx - px) * (y - py) - (qy - py) * (x - px);
      const apart = 1e-9;
      if (side(px, py) * side(qx, qy) < -apart && other(ax, ay) * other(bx, by) < -apart) return false;
    }
  return inside;
}

/**
 * Areas filled by parallel lines, there and back; lines that lie next to each other are one way where it stays inside.
 * @param rings areas by the even-odd rule, mm
 * @param step how far the lines are apart, mm; more than 0
 * @param angle of the lines, degrees against the right
 */
export function hatched(rings: readonly Ring[], step: number, angle: number): Outline[] {
  const { there, back } = turnBy(angle);
  const turned = rings.map((ring) => ring.map(there));
  const lines = crossings(turned, step);
  const chains: Point[][] = [];
  let open: Point[][] = [];
  for (const k of [...lines.keys()].sort((a, b) => a - b)) {
    const [xs, y] = [lines.get(k)!, (k + 0.5) * step];
    const next: Point[][] = [];
    for (let i = 0; i + 1 < xs.length; i += 2) {
      const ends: [Point, Point] = [
        [xs[i]!, y],
        [xs[i + 1]!, y],
      ];
      const chain = open.find((one) => {
        const last = one.at(-1)!;
        const near = ends.find(([x]) => Math.hypot(x - last[0], y - last[1]) <= NEAR * step);
        return near !== undefined && y - last[1] < 1.5 * step && staysInside(turned, last, near);
      });
      if (!chain) {
        chains.push([...ends]);
        next.push(chains.at(-1)!);
        continue;
      }
      const last = chain.at(-1)!;
      const [a, b] = ends;
      chain.push(...(Math.abs(a[0] - last[0]) <= Math.abs(b[0] - last[0]) ? [a, b] : [b, a]));
      open = open.filter((one) => one !== chain);
      next.push(chain);
    }
    open = next;
  }
  return chains.map((chain) => fromPoints(chain.map(back), false));
}
