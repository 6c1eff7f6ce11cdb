/** A number with at most `digits` decimals and no needless zeros or minus. Faster than toFixed for the common case. */
export function shortNumber(value: number, digits: number): string {
  const factor = POWERS[digits]!;
  const rounded = Math.round(value * factor) / factor;
  return rounded === 0 ? '0' : Math.abs(rounded) < 1e-6 || Math.abs(rounded) >= 1e21 ? rounded.toFixed(digits) : String(rounded);
}

const POWERS = [1, 10, 100, 1e3, 1e4, 1e5, 1e6];
