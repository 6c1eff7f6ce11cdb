const POWERS = [1, 10, 100, 1e3, 1e4, 1e5, 1e6];
/** 000 to 999. */
const THREE = Array.from({ length: 1000 }, (_, i) => String(i).padStart(3, '0'));
/** The same without zeros at the end. */
const TRIMMED = THREE.map((digits) => digits.replace(/0+$/, ''));

const PLAIN = /^[+-]?(?:\d+(?:\.\d*)?|\.\d+)(?:e[+-]?\d+)?$/i;

/**
 * A number as files state it, in decimal digits: JavaScript would also take hexadecimal ones, nothing at all and infinity.
 * @returns NaN for whatever else
 */
export function plainNumber(words: string): number {
  const trimmed = words.trim();
  return PLAIN.test(trimmed) ? Number(trimmed) : NaN;
}

/**
 * A number with at most `digits` decimals (0 to 9) and no needless zeros or minus.
 * Decimals come out of tables in groups of three, because turning a double into text is what writing a drawing spends its time on.
 */
export function shortNumber(value: number, digits: number): string {
  const size = Math.abs(value);
  if (!(size < 1e9)) return Number.isFinite(value) ? value.toFixed(digits) : '0';
  // Rare ones, of what is drawn small and used large.
  if (digits > 6)
    return value
      .toFixed(digits)
      .replace(/\.?0*$/, '')
      .replace(/^-0$/, '0');
  const units = Math.round(size * POWERS[digits]!);
  if (units === 0) return '0';
  // As millionths, whatever the digits asked for, so that the groups are always the same two.
  const whole = Math.floor(units / POWERS[digits]!);
  const rest = (units - whole * POWERS[digits]!) * POWERS[6 - digits]!;
  const sign = value < 0 ? '-' : '';
  if (rest === 0) return sign + whole;
  const high = Math.floor(rest / 1000);
  const low = rest - high * 1000;
  return low === 0 ? `${sign}${whole}.${TRIMMED[high]}` : `${sign}${whole}.${THREE[high]}${TRIMMED[low]}`;
}
