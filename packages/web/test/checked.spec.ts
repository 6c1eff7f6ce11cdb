import fc from 'fast-check';
import * as z from 'zod';
import { checkNumber, checkNumbers } from '../src/app/shared/checked';

const length = z.number().min(0.1).max(100_000);
const width = { label: 'Width', unit: 'mm' };

describe('a number that is typed', () => {
  it.each([
    ['12.5', 12.5],
    ['12,5', 12.5],
    [' 100000 ', 100_000],
    ['1e2', 100],
  ])('%j is %d', (text, value) => expect(checkNumber(text, length, width)).toEqual({ value }));
  it.each([
    ['-5', 'Width: at least 0.1 mm'],
    ['0.001', 'Width: at least 0.1 mm'],
    ['1000000', 'Width: at most 100,000 mm'],
    ['', 'Width: type a number'],
    ['wide', 'Width: “wide” is not a number'],
    ['1,000,5', 'Width: “1,000,5” is not a number'],
  ])('%j is refused in words with its name and unit', (text, wrong) =>
    expect(checkNumber(text, length, width)).toEqual({ wrong }),
  );
  it('is held against its limits in the unit in which it is typed', () => {
    const inches = { label: 'Width', unit: 'in', factor: 25.4 };
    expect(checkNumber('10', length, inches)).toEqual({ value: 254 });
    expect(checkNumber('4000', length, inches)).toEqual({ wrong: 'Width: at most 3,937.01 in' });
  });
  it('may be none, and may have to be whole', () => {
    const ppi = { label: 'Pixels per inch', optional: true };
    expect(checkNumber('', z.number().min(1), ppi)).toEqual({ value: null });
    expect(checkNumber('3', z.number().int().min(16), { label: 'Longest name' })).toEqual({ wrong: 'Longest name: at least 16' });
    expect(checkNumber('20.5', z.number().int().min(16), { label: 'Longest name' })).toEqual({
      wrong: 'Longest name: a whole number',
    });
  });
  it('is taken as it is, or not at all: nothing is put in the place of what was typed', () => {
    fc.assert(
      fc.property(fc.oneof(fc.double({ noNaN: true, noDefaultInfinity: true }).map(String), fc.string()), (text) => {
        const found = checkNumber(text, length, width);
        if ('value' in found)
          expect(found.value).toBe(
            Number(
              text
                .trim()
                .replace(/^([+-]?\d*),(\d+)$/, '$1.$2')
                .replace('−', '-'),
            ),
          );
        else expect(found.wrong).toMatch(/^Width: /);
      }),
    );
  });
});

describe('a list of numbers that is typed', () => {
  const widths = z.array(z.number().positive().max(1000)).max(4);
  const read = (text: string) => checkNumbers(text, widths, 'Widths', '0.1 0.25');
  it.each([
    ['0,25 0.5; 1', [0.25, 0.5, 1]],
    ['0.25, 0.5', [0.25, 0.5]],
    ['0.5 mm 1', null],
    ['0.5mm', [0.5]],
    ['', []],
  ])('%j is %j', (text, value) => expect('value' in read(text) ? (read(text) as { value: unknown }).value : null).toEqual(value));
  it.each([
    ['0.25; abc, -1', 'Widths: “abc” is not a number. A list looks like 0.1 0.25'],
    ['0.25 -1', 'Widths: more than 0 mm, not -1'],
    ['0.25 5000', 'Widths: at most 1,000 mm, not 5000'],
    ['1 2 3 4 5', 'Widths: at most 4'],
  ])('%j is refused: %s', (text, wrong) => expect(read(text)).toEqual({ wrong }));
});
