/** Corners of a face that turns inwards, at most: beyond, looking for its triangles takes too long. */
export const MOST_CORNERS = 500;

type Flat = readonly [number, number];

const area = ([ax, ay]: Flat, [bx, by]: Flat, [cx, cy]: Flat): number => (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);

/** The corners of a face as seen against the direction it looks to (Newell's normal), along the axis nearest to that. */
function flattened(face: readonly number[], corners: readonly number[]): Flat[] {
  const normal = [0, 0, 0];
  const of = (corner: number, axis: number) => corners[3 * corner + (axis % 3)]!;
  face.forEach((corner, i) => {
    const next = face[(i + 1) % face.length]!;
    for (let k = 0; k < 3; k++) normal[k]! += (of(corner, k + 1) - of(next, k + 1)) * (of(corner, k + 2) + of(next, k + 2));
  });
  const sizes = normal.map(Math.abs);
  const axis = sizes.indexOf(Math.max(...sizes));
  return face.map((corner): Flat => {
    const [u, v] = [of(corner, axis + 1), of(corner, axis + 2)];
    return normal[axis]! < 0 ? [v, u] : [u, v];
  });
}

const fan = (face: readonly number[]): number[] => face.slice(2).flatMap((corner, i) => [face[0]!, face[i + 1]!, corner]);

/**
 * A face as triangles that lie within it: a fan where it is convex, and else by cutting off ears one after the other
 * (G. H. Meisters, “Polygons have ears”, 1975). Every corner stays a corner of a triangle, also one in the middle of an
 * edge, so that neighbours go on to meet.
 * @param face corners in their order, at least three
 * @param corners three numbers a corner
 * @returns three corners a triangle; null where it turns inwards and has more than {@link MOST_CORNERS}
 */
export function trianglesOf(face: readonly number[], corners: readonly number[]): number[] | null {
  if (face.length === 3) return [...face];
  const flat = flattened(face, corners);
  const turnsInwards = flat.some((corner, i) => i >= 2 && area(flat[0]!, flat[i - 1]!, corner) < 0);
  if (!turnsInwards) return fan(face);
  if (face.length > MOST_CORNERS) return null;
  const out: number[] = [];
  const left = face.map((_, i) => i);
  while (left.length > 3) {
    const at = earOf(left, flat);
    // What crosses itself has no ears in the end.
    if (at < 0) break;
    const [before, ear, after] = around(left, at);
    out.push(face[before]!, face[ear]!, face[after]!);
    left.splice(at, 1);
  }
  return [...out, ...fan(left.map((i) => face[i]!))];
}

const around = (left: readonly number[], at: number): [number, number, number] => [
  left[(at + left.length - 1) % left.length]!,
  left[at]!,
  left[(at + 1) % left.length]!,
];

/** Where a corner can be cut off without what is left being touched; -1 where there is none. */
function earOf(left: readonly number[], flat: readonly Flat[]): number {
  let straight = -1;
  for (let at = 0; at < left.length; at++) {
    const three = around(left, at);
    const [a, b, c] = three.map((i) => flat[i]!) as [Flat, Flat, Flat];
    const size = area(a, b, c);
    if (size === 0) straight = at;
    if (size <= 0) continue;
    const isFree = left.every((i) => {
      const p = flat[i]!;
      if (three.includes(i) || [a, b, c].some(([x, y]) => x === p[0] && y === p[1])) return true;
      return area(a, b, p) < 0 || area(b, c, p) < 0 || area(c, a, p) < 0;
    });
    if (isFree) return at;
  }
  return straight;
}
