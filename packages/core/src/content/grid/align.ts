import { type Grid, type GridColumn, cellWords } from './grid';
import { type Typed, sameCell } from './cells';

/** Which row of the copy each row of the master is; -1 where there is none, -2 where the row is blank and says nothing. */
export type Rows = Int32Array;

/** Rows that are looked at to find the partner of one that changed. */
const WINDOW = 60;
/** So many of the rows in the same place must say the same for places to tell rows apart. */
const IN_PLACE = 0.9;

/** A key that is the same for cells that say the same. */
const keyOf = ({ numbers, words }: Typed, row: number): string => {
  const value = numbers[row]!;
  return Number.isNaN(value) ? (words?.[row] ?? '') : `#${Number.isInteger(value) ? value : Number(value.toPrecision(12))}`;
};

const equalRows = (pairs: readonly (readonly [Typed, Typed])[], i: number, j: number): number =>
  pairs.reduce((sum, [a, b]) => sum + (sameCell(a, i, b, j, 1e-9) ? 1 : 0), 0);

/** Pairs what has the same key on both sides, in order where there are several. */
function byKeys(master: readonly string[], copy: readonly string[], into: Rows, taken: Uint8Array): void {
  const waiting = new Map<string, number[]>();
  for (let j = copy.length - 1; j >= 0; j--) {
    if (taken[j] || copy[j] === '') continue;
    const queue = waiting.get(copy[j]!);
    if (queue) queue.push(j);
    else waiting.set(copy[j]!, [j]);
  }
  master.forEach((key, i) => {
    if (into[i] !== -1 || key === '') return;
    const j = waiting.get(key)?.pop();
    if (j === undefined) return;
    into[i] = j;
    taken[j] = 1;
  });
}

/** Pairs what is left over, in order: with the nearest row that says the most of the same, and at least half of it. */
function bySimilarity(
  pairs: readonly (readonly [Typed, Typed])[],
  left: readonly number[],
  free: readonly number[],
  into: Rows,
  taken: Uint8Array,
  least: number,
): void {
  let from = 0;
  for (const i of left) {
    while (from < free.length && taken[free[from]!]) from++;
    let [best, most] = [-1, least - 1];
    for (let k = from, seen = 0; k < free.length && seen < WINDOW; k++) {
      const j = free[k]!;
      if (taken[j]) continue;
      seen++;
      const equal = equalRows(pairs, i, j);
      if (equal > most) [best, most] = [j, equal];
      if (equal === pairs.length) break;
    }
    if (best < 0) continue;
    into[i] = best;
    taken[best] = 1;
  }
}

/** Rows in which nothing stands: formats that hold none of them lose nothing. */
export function blankRows({ columns, count }: Grid): Uint8Array {
  const blank = new Uint8Array(count).fill(1);
  for (const { numbers, words } of columns)
    for (let row = 0; row < count; row++)
      if (blank[row] && (words?.[row] || !Number.isNaN(numbers?.[row] ?? NaN))) blank[row] = 0;
  return blank;
}

/**
 * Pairs the rows of two tables: by key where there is one, else by place where most say the same there, else by what they say.
 * @param pairs the columns of both that are the same
 * @param key of the pairs; -1 where rows have none
 */
export function alignRows(master: Grid, copy: Grid, pairs: readonly (readonly [Typed, Typed])[], key: number): Rows {
  const [blank, blankThere] = [blankRows(master), blankRows(copy)];
  const into = Int32Array.from(blank, (one) => (one ? -2 : -1));
  const taken = Uint8Array.from(blankThere);
  const rest = () => {
    const left: number[] = [];
    for (let i = 0; i < master.count; i++) if (into[i] === -1) left.push(i);
    const free: number[] = [];
    for (let j = 0; j < copy.count; j++) if (!taken[j]) free.push(j);
    return { left, free };
  };
  if (key >= 0) {
    const [a, b] = pairs[key]!;
    const keys = (side: Typed, count: number) => Array.from({ length: count }, (_, i) => keyOf(side, i));
    byKeys(keys(a, master.count), keys(b, copy.count), into, taken);
    const { left, free } = rest();
    // Another key, and the rest of the row as it was: it is the key that changed.
    bySimilarity(pairs, left, free, into, taken, Math.max(1, pairs.length - 1));
    return into;
  }
  if (!pairs.length) {
    for (let i = 0; i < Math.min(master.count, copy.count); i++) if (!blank[i] && !taken[i]) into[i] = i;
    return into;
  }
  const common = Math.min(master.count, copy.count);
  let inPlace = 0;
  for (let i = 0; i < common; i++)
    if (!blank[i] && !taken[i] && equalRows(pairs, i, i) === pairs.length) {
      into[i] = i;
      taken[i] = 1;
      inPlace++;
    }
  if (master.count === copy.count && inPlace >= IN_PLACE * common) {
    // A few changed in their places; two that changed places say the same at each other's.
    const { left, free } = rest();
    byWhole(pairs, left, free, into, taken);
    for (const i of rest().left)
      if (!taken[i]) {
        into[i] = i;
        taken[i] = 1;
      }
  } else {
    blank.forEach((one, i) => (into[i] = one ? -2 : -1));
    taken.set(blankThere);
    const { left, free } = rest();
    byWhole(pairs, left, free, into, taken);
  }
  const { left, free } = rest();
  bySimilarity(pairs, left, free, into, taken, Math.max(1, Math.ceil(pairs.length / 2)));
  return into;
}

/** Pairs rows that say the same in all columns. */
function byWhole(
  pairs: readonly (readonly [Typed, Typed])[],
  left: readonly number[],
  free: readonly number[],
  into: Rows,
  taken: Uint8Array,
): void {
  const whole = (side: 0 | 1, row: number) => pairs.map((pair) => keyOf(pair[side], row)).join('\u0001');
  const master: string[] = [];
  for (const i of left) master[i] = whole(0, i);
  const copy: string[] = [];
  for (const j of free) copy[j] = whole(1, j);
  const sparse = new Map<string, number[]>();
  for (let k = free.length - 1; k >= 0; k--) {
    const j = free[k]!;
    const queue = sparse.get(copy[j]!);
    if (queue) queue.push(j);
    else sparse.set(copy[j]!, [j]);
  }
  for (const i of left) {
    const j = sparse.get(master[i]!)?.pop();
    if (j === undefined) continue;
    into[i] = j;
    taken[j] = 1;
  }
}

/** How many of some rows of two columns say the same. */
export function likeness(a: Typed, b: Typed, rows: Rows): number {
  const step = Math.max(1, Math.floor(rows.length / 500));
  let [equal, all] = [0, 0];
  for (let i = 0; i < rows.length; i += step) {
    if (rows[i]! < 0) continue;
    all++;
    if (sameCell(a, i, b, rows[i]!, 1e-9)) equal++;
  }
  return all ? equal / all : 0;
}

/** How many rows stand elsewhere among the others: all less the longest run that kept its order. */
export function outOfOrder(rows: Rows): number {
  const tails: number[] = [];
  let all = 0;
  for (const row of rows) {
    if (row < 0) continue;
    all++;
    let [low, high] = [0, tails.length];
    while (low < high) {
      const mid = (low + high) >> 1;
      if (tails[mid]! < row) low = mid + 1;
      else high = mid;
    }
    tails[low] = row;
  }
  return all - tails.length;
}

export const wordsOfRow = (grid: Grid, row: number): string => {
  const key: GridColumn | undefined = grid.columns[grid.key];
  const word = key && row < grid.count ? cellWords(key, row) : '';
  return word || `row ${row + 1}`;
};
