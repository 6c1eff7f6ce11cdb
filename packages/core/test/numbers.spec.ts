import fc from 'fast-check';
import { ByteWriter } from '../src/base/bytes/byte-writer';
import { plainNumber, shortNumber } from '../src/base/bytes/numbers';
import { runs } from './depth';

const written = (value: number, digits: number): string => {
  const writer = new ByteWriter();
  writer.number(value, digits);
  return new TextDecoder().decode(writer.bytes());
};

describe('numbers in files', () => {
  it('are the nearest with so many decimals, written without needless zeros', () => {
    fc.assert(
      fc.property(fc.double({ min: -1e6, max: 1e6, noNaN: true }), fc.integer({ min: 0, max: 9 }), (value, digits) => {
        const words = shortNumber(value, digits);
        expect(Math.abs(Number(words) - value)).toBeLessThanOrEqual(0.5 * 10 ** -digits + Math.abs(value) * 1e-12);
        expect(written(value, digits)).toBe(words);
        expect(words).toMatch(/^(0|-?(0|[1-9]\d*)(\.\d*[1-9])?)$/);
      }),
      { numRuns: runs(2000) },
    );
  });
  it.each<[number, number, string]>([
    [0, 3, '0'],
    [-0.0001, 3, '0'],
    [1.5, 3, '1.5'],
    [-12.3456789, 6, '-12.345679'],
    [0.001, 3, '0.001'],
    [99.9999, 3, '100'],
    [1.000001, 6, '1.000001'],
    [0.1 + 0.2, 6, '0.3'],
    [2e9, 2, '2000000000.00'],
    [Number.NaN, 3, '0'],
  ])('%s with %s decimals is %s', (value, digits, expected) => {
    expect(shortNumber(value, digits)).toBe(expected);
    expect(written(value, digits)).toBe(expected);
  });
  it('stand among any words, as UTF-8, however long the file gets', () => {
    const writer = new ByteWriter();
    for (let i = 0; i < 20_000; i++) {
      writer.text('größer ');
      writer.number(i / 4, 2);
    }
    const words = new TextDecoder().decode(writer.bytes());
    expect(words.startsWith('größer 0größer 0.25größer 0.5')).toBe(true);
    expect(words.endsWith('größer 4999.75')).toBe(true);
  });
  it('are read as they are written, with a sign and an exponent or without', () => {
    fc.assert(
      fc.property(fc.double({ noNaN: true, noDefaultInfinity: true }), fc.nat(12), (value, digits) => {
        for (const words of [String(value), value.toExponential(digits), ` ${value} `, value < 0 ? String(value) : `+${value}`])
          expect(plainNumber(words)).toBe(Number(words));
      }),
      { numRuns: runs(500) },
    );
    expect([plainNumber('.5'), plainNumber('5.'), plainNumber('-.5E-1')]).toEqual([0.5, 5, -0.05]);
  });
  it.each(['', ' ', '0x10', '0b1', '0o7', 'Infinity', '-Infinity', 'NaN', '1,5', '1 5', '1_0', '1e', '.', '--1', '1d3', 'ten'])(
    'are none where the format has no such digits: “%s”',
    (words) => expect(plainNumber(words)).toBeNaN(),
  );
});
