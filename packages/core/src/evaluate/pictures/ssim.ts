/** A side of the squares that are looked at, and how far one is from the next. */
const [WINDOW, STEP] = [8, 4];

/**
 * How alike the structure of two squares is: the mean of SSIM over windows of 8 × 8 (Wang, Bovik, Sheikh and Simoncelli, 2004).
 * @param side of both, pixels @param range largest value that there can be
 * @returns 1 for the same, 0 for nothing in common
 */
export function ssimOf(a: Float64Array, b: Float64Array, side: number, range: number): number {
  const [c1, c2] = [(0.01 * range) ** 2, (0.03 * range) ** 2];
  const window = Math.min(WINDOW, side);
  let [sum, count] = [0, 0];
  for (let y = 0; y + window <= side; y += STEP)
    for (let x = 0; x + window <= side; x += STEP) {
      let [ma, mb, aa, bb, ab] = [0, 0, 0, 0, 0];
      for (let j = y; j < y + window; j++)
        for (let i = x; i < x + window; i++) {
          const [p, q] = [a[j * side + i]!, b[j * side + i]!];
          ma += p;
          mb += q;
          aa += p * p;
          bb += q * q;
          ab += p * q;
        }
      const n = window * window;
      ma /= n;
      mb /= n;
      const [va, vb, cov] = [aa / n - ma * ma, bb / n - mb * mb, ab / n - ma * mb];
      sum += ((2 * ma * mb + c1) * (2 * cov + c2)) / ((ma * ma + mb * mb + c1) * (va + vb + c2));
      count++;
    }
  return count ? sum / count : 1;
}
