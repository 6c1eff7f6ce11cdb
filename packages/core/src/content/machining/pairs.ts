import type { DifferenceKind } from '../../contracts/difference';
import type { Machining } from '../../contracts/machining';
import { align } from '../../evaluate/matching/align';

/** How far apart ends may lie that are still taken for the same move in its turn. */
const LOOK_AHEAD = 4000;

/**
 * Which move of a copy stands for which of the master: equal ones first, in their order where the order is the same, then wherever
 * they are; what is left between the same neighbours stands for each other where it differs in few things.
 * @returns of each move of the master its partner, or -1
 */
export function pairInOrder(
  a: Machining,
  b: Machining,
  same: (i: number, j: number) => boolean,
  tell: (i: number, j: number) => readonly DifferenceKind[],
): Int32Array {
  const partner = new Int32Array(a.count).fill(-1);
  const taken = new Uint8Array(b.count);
  // From both ends first: most copies differ in few places, or in none.
  let [first, last] = [0, 0];
  const most = Math.min(a.count, b.count);
  while (first < most && same(first, first)) {
    partner[first] = first;
    taken[first] = 1;
    first++;
  }
  while (last < most - first && same(a.count - 1 - last, b.count - 1 - last)) {
    partner[a.count - 1 - last] = b.count - 1 - last;
    taken[b.count - 1 - last] = 1;
    last++;
  }
  inTurn(a, b, first, last, same, partner, taken);
  const places = ({ count, ends }: Machining) => ({
    count,
    x: (i: number) => ends[3 * i]! || 0,
    y: (i: number) => ends[3 * i + 1]! || 0,
  });
  align(places(a), places(b), same, 1e-3, partner, taken);
  betweenNeighbours(a, b, tell, partner, taken);
  return partner;
}

/** Goes on in both lists at once, passing over what only one of them has (a greedy walk with a look ahead). */
function inTurn(
  a: Machining,
  b: Machining,
  first: number,
  last: number,
  same: (i: number, j: number) => boolean,
  partner: Int32Array,
  taken: Uint8Array,
): void {
  let [i, j] = [first, first];
  const [endA, endB] = [a.count - last, b.count - last];
  while (i < endA && j < endB) {
    if (same(i, j)) {
      partner[i] = j;
      taken[j] = 1;
      i++;
      j++;
      continue;
    }
    let found = false;
    for (let skip = 1; skip <= LOOK_AHEAD && !found && (i + skip < endA || j + skip < endB); skip++)
      for (let k = 0; k <= skip && !found; k++) {
        // Two in a row, so that no move that happens to be like another leads astray.
        const pairs: [number, number][] =
          k === skip
            ? [[i + skip, j + skip]]
            : [
                [i + skip, j + k],
                [i + k, j + skip],
              ];
        for (const [p, q] of pairs) {
          if (p >= endA || q >= endB || !same(p, q)) continue;
          if (p + 1 < endA && q + 1 < endB && !same(p + 1, q + 1)) continue;
          [i, j] = [p, q];
          found = true;
          break;
        }
        // Far ahead only what one side alone has is looked for: all pairs would be too many.
        if (skip > 40 && k === 0) k = skip - 1;
      }
    if (!found) return;
  }
}

/** Pairs what is left over between pairs, where both sides have something left. */
function betweenNeighbours(
  a: Machining,
  b: Machining,
  tell: (i: number, j: number) => readonly DifferenceKind[],
  partner: Int32Array,
  taken: Uint8Array,
): void {
  for (let i = 0, before = -1; i < a.count; i++) {
    if (partner[i]! >= 0) {
      before = partner[i]!;
      continue;
    }
    let j = before + 1;
    while (j < b.count && taken[j]) j++;
    // Only what follows right after the last that is sure.
    if (j >= b.count || j > before + 1) continue;
    if (tell(i, j).length > 3) continue;
    partner[i] = j;
    taken[j] = 1;
    before = j;
  }
}
