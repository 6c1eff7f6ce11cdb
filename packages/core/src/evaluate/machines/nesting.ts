import Flatbush from 'flatbush';
import { type Ring, boxOfRing } from './offset';

/** Whether a point lies in a ring (even-odd rule). */
function holds(ring: Ring, x: number, y: number): boolean {
  let inside = false;
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    const [[ax, ay], [bx, by]] = [ring[i]!, ring[j]!];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  return inside;
}

/** Of each ring the rings that it lies in, by their numbers. */
export function holdersOf(rings: readonly Ring[]): number[][] {
  if (!rings.length) return [];
  const boxes = rings.map(boxOfRing);
  const index = new Flatbush(rings.length);
  for (const { minX, minY, maxX, maxY } of boxes) index.add(minX, minY, maxX, maxY);
  index.finish();
  return rings.map((ring, i) => {
    const own = boxes[i]!;
    const [a, b] = [ring[0]!, ring[1] ?? ring[0]!];
    // Corners are often shared with neighbours: the middle of an edge is not.
    const [x, y] = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
    return index.search(x, y, x, y).filter((j) => {
      const box = boxes[j]!;
      const larger = box.maxX - box.minX > own.maxX - own.minX || box.maxY - box.minY > own.maxY - own.minY;
      return j !== i && larger && holds(rings[j]!, x, y);
    });
  });
}
