import { type DisplayList, type Outline, type PathEntry, type Point, fromPoints, plainStyle } from '../src';
import { listOf, square } from './build';
import { compare } from './flat';

const settings = { tolerance: 0.01, order: 'none' as const };
const kinds = (a: DisplayList, b: DisplayList, more = {}) =>
  compare(a, b, { ...settings, ...more }).differences.map(({ kind }) => kind);
const filledShape = (fill: string, ...outlines: Outline[]): PathEntry => ({
  kind: 'path',
  outlines,
  layer: 'cut',
  style: { ...plainStyle, fill },
});
const reversed = (one: Outline): Outline => fromPoints([one.start, ...one.segments.map(({ to }) => to)].reverse(), one.closed);

describe('what is filled', () => {
  const [outer, inner] = [square(0, 0, 30), square(10, 10, 8)];
  const turned = reversed(inner);
  const ring = filledShape('#17796a', outer, turned);
  const evenodd = (entry: PathEntry): PathEntry => ({ ...entry, style: { ...entry.style, fillRule: 'evenodd' } });
  const both = (a: readonly PathEntry[], b: readonly PathEntry[]) => kinds(listOf(a), listOf(b), { order: 'paint' });

  it.each<[string, readonly PathEntry[], string[]]>([
    ['the same', [ring], []],
    ['the same drawn the other way round as a whole', [filledShape('#17796a', reversed(outer), inner)], []],
    ['the same by the other rule', [evenodd(ring)], []],
    ['a hole that was split off', [filledShape('#17796a', outer), filledShape('#17796a', turned)], ['filled otherwise']],
    ['a hole that was turned round', [filledShape('#17796a', outer, inner)], ['filled otherwise']],
    ['a hole turned round, by the rule for which that means nothing', [evenodd(filledShape('#17796a', outer, inner))], []],
  ])('is compared as area: %s', (_, copy, expected) => expect(both([ring], copy)).toEqual(expected));

  it('does not mind two shapes that came apart without covering each other', () => {
    const away = square(60, 0, 10);
    const split = [filledShape('#17796a', outer), filledShape('#17796a', away)];
    expect(both([filledShape('#17796a', outer, away)], split)).toEqual([]);
    expect(both(split, [filledShape('#17796a', outer, away)])).toEqual([]);
  });
  it('tells one outline that crosses itself by its rule, and one that does not is the same by either', () => {
    const star = fromPoints(
      [0, 2, 4, 1, 3].map((i): Point => [50 + 20 * Math.sin((i * 2 * Math.PI) / 5), 50 + 20 * Math.cos((i * 2 * Math.PI) / 5)]),
      true,
    );
    // Each line of a five-pointed star runs along the middle, which only one of the rules fills.
    expect(both([filledShape('#17796a', star)], [evenodd(filledShape('#17796a', star))])).toEqual(['filled otherwise']);
    expect(both([filledShape('#17796a', outer)], [evenodd(filledShape('#17796a', outer))])).toEqual([]);
  });
  it('is not the same where a hole that hangs on its outline by a bridge was filled, or a small hole, or a loop by the other rule', () => {
    // Out to the hole, round it one way or the other, and back.
    const keyhole = (way: 1 | -1, side = 8): PathEntry => {
      const hole: Point[] = [
        [10, 10],
        [10, 10 + side],
        [10 + side, 10 + side],
        [10 + side, 10],
      ];
      const round = way > 0 ? [hole[0]!, hole[3]!, hole[2]!, hole[1]!] : hole;
      return filledShape('#17796a', fromPoints([[0, 0], [30, 0], [30, 30], [0, 30], [0, 10], ...round, [10, 10], [0, 10]], true));
    };
    expect(both([keyhole(-1)], [keyhole(-1)])).toEqual([]);
    expect(both([keyhole(-1)], [keyhole(1)])).toEqual(['filled otherwise']);
    expect(both([keyhole(-1, 0.2)], [keyhole(1, 0.2)])).toEqual(['filled otherwise']);
    const ringed = (small: Outline) => filledShape('#17796a', outer, small);
    const pin = square(10, 10, 0.05);
    expect(both([ringed(reversed(pin))], [ringed(pin)])).toEqual(['filled otherwise']);
    // A long way round with a small loop on it, within what it fills: only one of the rules fills that.
    const long: Point[] = [
      [0, 0],
      [30, 0],
      [30, 30],
      [20, 30],
      [20, 29],
      [21, 29],
      [21, 30],
      [0, 30],
    ];
    const looped = filledShape('#17796a', fromPoints(long, true));
    expect(both([looped], [looped])).toEqual([]);
    expect(both([looped], [evenodd(looped)])).toEqual(['filled otherwise']);
  });
  it('says on which side it is filled', () => {
    const { differences } = compare(listOf([ring]), listOf([filledShape('#17796a', outer, inner)]), settings);
    expect(differences).toMatchObject([
      { kind: 'filled otherwise', master: 'hollow', copy: 'filled', place: { minX: 10, maxX: 18 } },
    ]);
  });
});
