/** What is computed of a whole column. Empty cells do not count. */
interface Aggregate {
  readonly of: (numbers: Float64Array, share: number) => number;
  /** Takes a share of 0 to 1 besides. */
  readonly share?: true;
}

const filled = (numbers: Float64Array): Float64Array => numbers.filter((value) => !Number.isNaN(value));
const sum = (numbers: Float64Array): number => {
  // Neumaier's summation: the sum does not depend on how large numbers and small ones follow each other.
  let [total, lost] = [0, 0];
  for (const value of numbers) {
    const next = total + value;
    lost += Math.abs(total) >= Math.abs(value) ? total - next + value : value - next + total;
    total = next;
  }
  return total + lost;
};
const mean = (numbers: Float64Array): number => sum(numbers) / numbers.length;
function variance(numbers: Float64Array): number {
  const middle = mean(numbers);
  return sum(numbers.map((value) => (value - middle) ** 2)) / (numbers.length - 1);
}
/** Linear between the two nearest (Hyndman and Fan, 1996, definition 7), as mathjs and workbooks do it. */
function quantile(numbers: Float64Array, share: number): number {
  const sorted = numbers.slice().sort();
  const at = (sorted.length - 1) * share;
  const low = Math.floor(at);
  const high = Math.min(low + 1, sorted.length - 1);
  return sorted[low]! + (at - low) * (sorted[high]! - sorted[low]!);
}

/** Of no cell at all only a count and a sum can be said. */
const some =
  (of: (numbers: Float64Array, share: number) => number) =>
  (all: Float64Array, share: number): number => {
    const numbers = filled(all);
    return numbers.length ? of(numbers, share) : NaN;
  };

export const AGGREGATES: Readonly<Record<string, Aggregate>> = {
  mean: { of: some(mean) },
  median: { of: some((numbers) => quantile(numbers, 0.5)) },
  sum: { of: (all) => sum(filled(all)) },
  min: { of: some((numbers) => numbers.reduce((a, b) => Math.min(a, b))) },
  max: { of: some((numbers) => numbers.reduce((a, b) => Math.max(a, b))) },
  count: { of: (all) => filled(all).length },
  std: { of: some((numbers) => Math.sqrt(variance(numbers))) },
  variance: { of: some(variance) },
  quantile: { of: some(quantile), share: true },
};
