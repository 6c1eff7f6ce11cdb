import type { ColumnValues } from '@inkwell-twin/core/tables';

const BINS = 14;
const [WIDE, HIGH] = [64, 12];

/** How often each of a few words stands in a column, the most frequent first. */
function counts(words: readonly string[]): number[] {
  const all = new Map<string, number>();
  for (const word of words) if (word) all.set(word, (all.get(word) ?? 0) + 1);
  return all.size <= BINS ? [...all.values()].sort((a, b) => b - a) : [];
}

/** How many numbers lie in each of a few equal steps from the least to the largest. */
function bins(numbers: Float64Array): number[] {
  let [least, most] = [Infinity, -Infinity];
  for (const value of numbers)
    if (!Number.isNaN(value)) {
      if (value < least) least = value;
      if (value > most) most = value;
    }
  if (!(least < most)) return [];
  const into = new Array<number>(BINS).fill(0);
  for (const value of numbers)
    if (!Number.isNaN(value)) into[Math.min(BINS - 1, Math.floor(((value - least) / (most - least)) * BINS))]!++;
  return into;
}

/** The outline of a column's values as a path of bars standing side by side; empty where there is nothing to see. */
export function spreadPath({ column, numbers, words }: ColumnValues): string {
  const heights = column.type === 'category' || column.type === 'text' ? counts(words ?? []) : bins(numbers);
  if (heights.length < 2) return '';
  const most = Math.max(...heights);
  const step = WIDE / heights.length;
  return heights
    .map((count, i) =>
      count
        ? `M${(i * step).toFixed(1)} ${HIGH}v${(-Math.max(1, (count / most) * HIGH)).toFixed(1)}h${(step - 1).toFixed(1)}V${HIGH}z`
        : '',
    )
    .join('');
}
export const SPREAD_BOX = `0 0 ${WIDE} ${HIGH}`;
