/** A list of things with a place each, to be found again in another list. */
export interface Placed {
  readonly count: number;
  /** A point that equal things have in common, within the tolerance. */
  readonly x: (i: number) => number;
  readonly y: (i: number) => number;
}

/** How many unlike things at the same place are tried for one before the slower search has to do. */
const TRIES = 64;

/**
 * Pairs equal things of two lists, each at most once: number by number first, then wherever they are. Costs what the lists
 * are long, whatever their order.
 * @param same whether thing `i` of the first list equals thing `j` of the second
 * @param tolerance how far places of equal things may be apart, mm
 * @param pairs what is paired already, of each in the first list its partner or -1; is filled up
 * @param taken of each in the second list whether it is paired already; is filled up
 */
export function align(
  a: Placed,
  b: Placed,
  same: (i: number, j: number) => boolean,
  tolerance: number,
  pairs: Int32Array,
  taken: Uint8Array,
): void {
  const most = Math.min(a.count, b.count);
  let left = 0;
  for (let i = 0; i < a.count; i++) {
    if (pairs[i]! >= 0) continue;
    if (i < most && !taken[i] && same(i, i)) {
      pairs[i] = i;
      taken[i] = 1;
    } else left++;
  }
  if (!left) return;
  const cell = Math.max(8 * tolerance, 1e-6);
  const at = (value: number) => Math.floor(value / cell);
  const cells = new Map<number, number[]>();
  // Cells are numbered by a hash: two that share a number only cost a comparison.
  const keyOf = (x: number, y: number) => x * 73_856_093 + y * 19_349_663;
  for (let j = 0; j < b.count; j++) {
    if (taken[j]) continue;
    const key = keyOf(at(b.x(j)), at(b.y(j)));
    const list = cells.get(key);
    if (list) list.push(j);
    else cells.set(key, [j]);
  }
  // In each cell those that came first are tried first, so that equal things pair in their order.
  for (const list of cells.values()) list.reverse();
  for (let i = 0; i < a.count; i++) {
    if (pairs[i]! >= 0) continue;
    const [x, y] = [a.x(i), a.y(i)];
    for (let cx = at(x - tolerance); cx <= at(x + tolerance) && pairs[i]! < 0; cx++)
      for (let cy = at(y - tolerance); cy <= at(y + tolerance) && pairs[i]! < 0; cy++) {
        const list = cells.get(keyOf(cx, cy));
        if (!list) continue;
        for (let k = list.length - 1, tries = 0; k >= 0 && tries < TRIES; k--, tries++) {
          const j = list[k]!;
          if (!same(i, j)) continue;
          list.splice(k, 1);
          pairs[i] = j;
          taken[j] = 1;
          break;
        }
      }
  }
}
