import { flatten } from './flatten';
import type { Outline } from './outline';

/** An axis-aligned box, mm. Empty when minX > maxX. */
export interface Box {
  minX: number;
  minY: number;
  maxX: number;
  maxY: number;
}

export const emptyBox = (): Box => ({ minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity });

export function growBox(box: Box, x: number, y: number): void {
  if (x < box.minX) box.minX = x;
  if (x > box.maxX) box.maxX = x;
  if (y < box.minY) box.minY = y;
  if (y > box.maxY) box.maxY = y;
}

export function joinBoxes(boxes: Iterable<Box>): Box {
  const all = emptyBox();
  for (const box of boxes) {
    if (box.minX > box.maxX) continue;
    growBox(all, box.minX, box.minY);
    growBox(all, box.maxX, box.maxY);
  }
  return all;
}

/** Whether two boxes have more than an edge in common. */
export const boxesOverlap = (a: Box, b: Box): boolean => a.minX < b.maxX && b.minX < a.maxX && a.minY < b.maxY && b.minY < a.maxY;

/** A box with a margin around it. */
export const widened = ({ minX, minY, maxX, maxY }: Box, by: number): Box => ({
  minX: minX - by,
  minY: minY - by,
  maxX: maxX + by,
  maxY: maxY + by,
});

/** The box of a flat polyline (x, y, x, y …). */
export function boxOfPolyline(points: readonly number[]): Box {
  const box = emptyBox();
  for (let i = 0; i < points.length; i += 2) growBox(box, points[i]!, points[i + 1]!);
  return box;
}

/** The box of outlines, curves taken within 0.01 mm. */
export const boxOfOutlines = (outlines: readonly Outline[]): Box =>
  joinBoxes(outlines.map((outline) => boxOfPolyline(flatten(outline, 0.01))));

/** Length of a flat polyline, mm. */
export function lengthOfPolyline(points: readonly number[]): number {
  let length = 0;
  for (let i = 2; i < points.length; i += 2) length += Math.hypot(points[i]! - points[i - 2]!, points[i + 1]! - points[i - 1]!);
  return length;
}

/** Signed area of a closed flat polyline, mm², anticlockwise positive. */
export function areaOfPolyline(points: readonly number[]): number {
  let twice = 0;
  for (let i = 2; i < points.length; i += 2) twice += points[i - 2]! * points[i + 1]! - points[i]! * points[i - 1]!;
  return twice / 2;
}
