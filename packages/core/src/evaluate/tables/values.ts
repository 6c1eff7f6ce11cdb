/** A number with a fixed count of digits, or as many as it has. */
export function numberInWords(value: number, decimals: number | undefined): string {
  if (decimals !== undefined) return plus(rounded(value, decimals)).toFixed(decimals);
  const all = String(value);
  // Up to 15 digits are what was meant; more are what a computer made of it.
  return all.length <= 16 ? all : String(Number(value.toPrecision(15)));
}
const plus = (value: number): number => (Object.is(value, -0) ? 0 : value);

/** A number to so many digits after the decimal mark, halves away from zero, as people and workbooks round. */
export function rounded(value: number, decimals: number): number {
  if (!Number.isFinite(value) || Math.abs(value) >= 1e15) return value;
  // By its shortest decimal form: 1.005 is meant where 1.00499999999999989 is held.
  const [digits, exponent = '0'] = String(Math.abs(value)).split('e') as [string, string?];
  const moved = Number(`${digits}e${Number(exponent) + decimals}`);
  return Math.sign(value) * Number(`${Math.round(moved)}e-${decimals}`);
}
