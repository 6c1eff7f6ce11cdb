import fc from 'fast-check';
import { Failure, fillSlots, readExpression, scopeOf, shifted, stretchesOf, withNames, wrongName } from '../src';
import type { Parameter } from '../src';
import { runs } from './depth';

const parameter = (name: string, value: string | number, measure?: Parameter['measure']): Parameter => ({
  id: `p-${name}`,
  name,
  value,
  ...(measure ? { measure } : {}),
});
const PANEL = [
  parameter('width', 420, 'length'),
  parameter('height', 'width / 3', 'length'),
  parameter('holes', 5),
  parameter('slant', '30 deg', 'angle'),
  parameter('trail', 'Sedge Loop', 'text'),
  parameter('title', '{trail}, {width} mm wide', 'text'),
  parameter('ink', '#14213A', 'colour'),
  parameter('accent', 'width > 400 ? "#c23b22" : ink', 'colour'),
];
const scope = scopeOf(PANEL, 'mm');
const value = (text: string): unknown => {
  const found = readExpression(text).evaluate(scope.named);
  return typeof found === 'object' ? Number(found.value.toFixed(9)) : found;
};
const wrong = (act: () => unknown): string => {
  try {
    act();
  } catch (error) {
    if (error instanceof Failure) return error.message;
    throw error;
  }
  return 'nothing is wrong';
};

describe('expressions', () => {
  it.each([
    ['width / 2 - 12', 198],
    ['3/8 in', 9.525],
    ['1 3/8 in', 34.925],
    ['2 in + 5 mm', 55.8],
    ['12 mm', 12],
    ['1.5 cm', 15],
    ['36 pt', 12.7],
    ['−4 × 2', -8],
    ['90°', 90],
    ['sin(slant)', 0.5],
    ['atan2(3 mm, 3 mm)', 45],
    ['hypot(3, 4 mm)', 5],
    ['round(width / 13)', 32],
    ['floor(0.1 * 3 / 0.1)', 3],
    ['width > 400 ? 3 : 2', 3],
    ['100 < width < 500 ? 1 : 0', 1],
    ['width * 50%', 210],
    ['-2^2', -4],
    ['upper(trail)', 'SEDGE LOOP'],
    ['trail + " Trail"', 'Sedge Loop Trail'],
    ['fixed(width / 7, 1)', '60.0'],
    ['holes == 5 and not (width < 3)', true],
    ['height', 140],
  ])('%s comes to %s', (text, expected) => expect(value(text)).toEqual(expected));

  it.each([
    ['widht / 2', 'There is no parameter “widht”. There are: width, height, holes'],
    ['width +', 'can’t be read'],
    ['', 'nothing to compute'],
    ['width + slant', 'Adding a length and an angle means nothing.'],
    ['width + trail', 'Adding takes numbers, and “Sedge Loop” is a text.'],
    ['width holes', 'A sign is missing between “width” and “holes”.'],
    ['3 width', 'A sign is missing between “3” and “width”.'],
    ['f(x) = 3', 'means nothing here'],
    ['[1, 2]', 'means nothing here'],
    ['width.constructor', 'means nothing here'],
    ['constructor("x")', 'There is no function “constructor”'],
    ['sqrt(1, 2)', 'sqrt takes 1 values, not 2.'],
    ['1 / 0', 'divides by zero'],
    ['sqrt(-1)', 'It comes to NaN'],
    ['width ? 1 : 2', 'A condition is needed'],
    ['min', 'it means something itself'],
    ['1'.repeat(200) + '^9', 'It comes to Infinity'],
  ])('%s is explained', (text, words) => expect(wrong(() => value(text))).toContain(words));

  it('ends on anything that is typed, with a value or an explanation', () => {
    const piece = fc.constantFrom(
      'width',
      '3',
      '+',
      '-',
      '*',
      '/',
      '(',
      ')',
      ' in',
      ' mm',
      '?',
      ':',
      'sqrt(',
      '"',
      '%',
      '^',
      ',',
      '{',
      '!',
      "'",
      ';',
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 30 }), (pieces) => {
        try {
          value(pieces.join(''));
        } catch (error) {
          expect(error).toBeInstanceOf(Failure);
        }
      }),
      { numRuns: runs(500) },
    );
  });

  it('a shift is folded into the number at the end, and changes the value by just that', () => {
    expect(shifted('width / 2 - 12', 4)).toBe('width / 2 - 8');
    expect(shifted('width / 2 - 12', 12)).toBe('width / 2');
    expect(shifted('width', 4)).toBe('width + 4');
    expect(shifted('width / 2', 4)).toBe('width / 2 + 4');
    expect(shifted('width > 3 ? 1 : 2', 4)).toBe('(width > 3 ? 1 : 2) + 4');
    const texts = [
      'width / 2 - 12',
      'width',
      'width - 3 * 4',
      'width * (2 - 1)',
      'max(width, 3 - 1)',
      '3/8 in',
      'width > 1 ? 5 : 3 - 2',
      '2 ^ 3',
    ];
    fc.assert(
      fc.property(fc.constantFrom(...texts), fc.integer({ min: -500, max: 500 }), (text, by) => {
        expect(value(shifted(text, by / 10))).toBeCloseTo((value(text) as number) + by / 10, 6);
      }),
    );
  });

  it('names become others where they stand for a parameter, and nowhere else', () => {
    expect(withNames('max(width, width / 2) + 3 in', new Map([['width', 'breadth']]))).toBe('max(breadth, breadth / 2) + 3 inch');
    expect(withNames('"width"', new Map([['width', 'breadth']]))).toBe('"width"');
  });
});

describe('parameters', () => {
  it('are worth what they say, in whatever order they name each other', () => {
    expect(scope.problems).toEqual([]);
    expect(scope.named('title')).toBe('Sedge Loop, 420 mm wide');
    expect(scope.named('accent')).toBe('#c23b22');
    expect(scopeOf([...PANEL].reverse(), 'mm').named('title')).toBe('Sedge Loop, 420 mm wide');
  });

  it('that can’t be computed say why, each where it stands', () => {
    const { problems, named } = scopeOf(
      [
        parameter('a', 'b + 1'),
        parameter('b', 'c + 1'),
        parameter('c', 'a + 1'),
        parameter('size', 'slant * 2', 'length'),
        parameter('slant', 10, 'angle'),
        parameter('needs', 'size / 2', 'length'),
        parameter('tone', 'blue', 'colour'),
        parameter('in', 3),
        parameter('slant', 4),
        parameter('words', 'a {slant', 'text'),
      ],
      'mm',
    );
    expect(Object.fromEntries(problems.map(({ node, message }) => [node, message]))).toMatchObject({
      'p-a': 'It is computed of itself: a → b → c → a.',
      'p-b': 'It needs “a”, which can’t be computed.',
      'p-c': 'It needs “a”, which can’t be computed.',
      'p-size': 'It comes to an angle, and a length is needed.',
      'p-needs': 'It needs “size”, which can’t be computed.',
      'p-tone': expect.stringContaining('There is no parameter “blue”'),
      'p-in': expect.stringContaining('means something itself'),
      'p-slant': 'There is a parameter “slant” already.',
      'p-words': expect.stringContaining('has no }'),
    });
    expect(named('slant')).toMatchObject({ value: 10, angle: 1 });
  });

  it('may form a long chain', () => {
    const chain = Array.from({ length: 500 }, (_, i) => parameter(`n${i}`, i ? `n${i - 1} + 1` : 1));
    const long = scopeOf([...chain].reverse(), 'mm');
    expect([long.problems, long.named('n499')]).toEqual([[], { value: 500, length: 0, angle: 0 }]);
  });

  it('have names that formulas can say', () => {
    expect(wrongName('Lochabstand_ä2', [])).toBeNull();
    for (const name of ['2nd', 'a b', '', 'sin', 'mm', 'a-b']) expect(wrongName(name, [])).not.toBeNull();
    expect(wrongName('a', ['a'])).toBe('There is a parameter “a” already.');
  });
});

describe('wordings with slots', () => {
  it('are filled in, and places in them go along', () => {
    const { text, placeOf } = fillSlots('{{Trail}} {trail}: {width / 2}', scope.named, 1);
    expect(text).toBe('{Trail} Sedge Loop: 210');
    expect(text.slice(placeOf(10, false), placeOf(17, true))).toBe('Sedge Loop');
    expect(placeOf(0, false)).toBe(0);
    expect(placeOf(30, true)).toBe(text.length);
  });

  it('say lengths in the unit of the master', () => expect(fillSlots('{width} in', scope.named, 25.4).text).toBe('16.535 in'));

  it('without a slot stay as they are, whatever is in them', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 60 }), (words) => {
        const escaped = words.replaceAll('{', '{{').replaceAll('}', '}}');
        expect(fillSlots(escaped, scope.named, 1).text).toBe(words);
        expect(stretchesOf(escaped).every(({ from, to }) => to > from)).toBe(true);
      }),
    );
  });
});

describe('texts that double each other', () => {
  it('end at a length, in words, whichever comes first', () => {
    const doubling = Array.from({ length: 400 }, (_, i) => parameter(`t${i}`, i ? `{t${i - 1}}{t${i - 1}}` : 'fen', 'text'));
    for (const all of [doubling, [...doubling].reverse()]) {
      const { problems, named } = scopeOf(all, 'mm');
      expect(String(named('t10'))).toHaveLength(3 * 2 ** 10);
      expect(problems.length).toBe(400 - 16);
      expect(problems.map(({ message }) => message).join()).toMatch(/becomes longer than 100000 letters/);
    }
  });
});
