import type { Hasher } from '../../base/bytes/hasher';
import { numberFrom } from '../../evaluate/tables/typed';
import type { Grid } from './grid';

/** Bits of a number that are not looked at, where it is not whole: other programs keep 15 digits of 17. */
const NOISE = 0xff;

/** Puts what a table says into a hash: its heads, and its cells column by column. */
export function digestGrid({ columns, count, summaries, decimal }: Grid, into: Hasher): void {
  into.update(
    JSON.stringify([
      count,
      summaries.map(({ name, unit, formula, value }) => [
        name,
        unit,
        formula,
        Number.isNaN(value) ? null : Number(value.toPrecision(12)),
      ]),
    ]),
  );
  for (const { name, unit, type, decimals, formula, loose, numbers, words } of columns) {
    into.update(JSON.stringify([name, unit, type, decimals, formula, loose]));
    const values = numbers ? numbers.slice() : new Float64Array(count).fill(NaN);
    let text = '';
    const written: string[] = [];
    for (let row = 0; row < count; row++) {
      const word = words?.[row] ?? '';
      const value = type === 'untyped' && word ? numberFrom(word, decimal) : NaN;
      if (Number.isNaN(value)) written.push(word);
      else {
        values[row] = value;
        written.push('');
      }
      if (values[row] === 0 || Number.isNaN(values[row])) values[row] = Number.isNaN(values[row]) ? NaN : 0;
    }
    text = written.join('\u0001');
    const bits = new Uint32Array(values.buffer, values.byteOffset, 2 * values.length);
    for (let row = 0; row < values.length; row++) if (!Number.isInteger(values[row])) bits[2 * row]! &= ~NOISE;
    into.update(new Uint8Array(values.buffer, values.byteOffset, values.byteLength));
    into.update(text);
  }
}
