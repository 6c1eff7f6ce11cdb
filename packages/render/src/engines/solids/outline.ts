import { type Outline, flatten, withClosingLine } from '@inkwell-twin/core';
import type { Drawing } from 'replicad';
import type { Replicad } from './kernel';

type Point = readonly [number, number];

/** Whether a point lies within a polygon, by crossings. */
function within([x, y]: Point, ring: readonly Point[]): boolean {
  let inside = false;
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    const [[ax, ay], [bx, by]] = [ring[i]!, ring[j]!];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  return inside;
}

function areaOf(ring: readonly Point[]): number {
  let sum = 0;
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) sum += ring[j]![0] * ring[i]![1] - ring[i]![0] * ring[j]![1];
  return Math.abs(sum / 2);
}

/** One outline as the kernel's own lines, arcs and curves. */
function drawn(r: Replicad, outline: Outline): Drawing {
  const { start, segments } = withClosingLine(outline);
  const pen = r.draw([...start]);
  let [x, y] = start;
  for (const segment of segments) {
    const [tx, ty] = segment.to;
    if (segment.kind === 'line') {
      if (Math.hypot(tx - x, ty - y) > 1e-7) pen.lineTo([tx, ty]);
    } else if (segment.kind === 'cubic') pen.cubicBezierCurveTo([tx, ty], [...segment.c1], [...segment.c2]);
    else {
      const [cx, cy] = segment.centre;
      const radius = Math.hypot(x - cx, y - cy);
      const from = Math.atan2(y - cy, x - cx);
      let sweep = Math.atan2(ty - cy, tx - cx) - from;
      if (segment.clockwise && sweep >= -1e-9) sweep -= 2 * Math.PI;
      if (!segment.clockwise && sweep <= 1e-9) sweep += 2 * Math.PI;
      const on = (turn: number): [number, number] => [cx + radius * Math.cos(from + turn), cy + radius * Math.sin(from + turn)];
      // A whole turn begins where it ends: it is drawn in two halves.
      if (Math.abs(sweep) > 2 * Math.PI - 1e-6)
        pen.threePointsArcTo(on(sweep / 2), on(sweep / 4)).threePointsArcTo([tx, ty], on((3 * sweep) / 4));
      else pen.threePointsArcTo([tx, ty], on(sweep / 2));
    }
    [x, y] = [tx, ty];
  }
  return pen.close();
}

function ringOf(outline: Outline): Point[] {
  const numbers = flatten(outline, 0.01);
  return Array.from({ length: numbers.length / 2 }, (_, i) => [numbers[2 * i]!, numbers[2 * i + 1]!] as const);
}

/** Closed outlines as a flat shape: what lies inside an odd number of others is a hole in it. */
export function flatShape(r: Replicad, outlines: readonly Outline[]): Drawing {
  const rings = outlines.map((outline) => ({ outline, ring: ringOf(outline) })).sort((a, b) => areaOf(b.ring) - areaOf(a.ring));
  let shape: Drawing | undefined;
  rings.forEach(({ outline, ring }, i) => {
    const depth = rings.slice(0, i).filter((outer) => within(ring[0]!, outer.ring)).length;
    const next = drawn(r, outline);
    shape = !shape ? next : depth % 2 ? shape.cut(next) : shape.fuse(next);
  });
  return shape!;
}
