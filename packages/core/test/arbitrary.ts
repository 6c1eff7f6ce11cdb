import fc from 'fast-check';
import { type DrawnItem, type Item, type Master, type Outline, type Point, type Segment, itemKinds } from '../src';
import { layer, masterWith } from './build';

/** Hundredths of a millimetre between bounds, so that counterexamples are readable. */
export const measure = (min: number, max: number) =>
  fc.integer({ min: Math.round(min * 100), max: Math.round(max * 100) }).map((value) => value / 100);
export const point = fc.tuple(measure(0, 200), measure(0, 100)) as fc.Arbitrary<Point>;
const colour = fc.constantFrom('#14213a', '#c23b22', '#17796a', '#000000', '#f7f0e2');

const segment: fc.Arbitrary<Segment> = fc.oneof(
  point.map((to): Segment => ({ kind: 'line', to })),
  fc.tuple(point, point, point).map(([c1, c2, to]): Segment => ({ kind: 'cubic', c1, c2, to })),
);
/** Open and closed outlines of lines and cubics whose points are not all in one place. */
export const outline: fc.Arbitrary<Outline> = fc
  .record({ start: point, segments: fc.array(segment, { minLength: 1, maxLength: 6 }), closed: fc.boolean() })
  .filter(({ start, segments }) =>
    segments.every(
      ({ to }, i) => Math.hypot(to[0] - (segments[i - 1]?.to ?? start)[0], to[1] - (segments[i - 1]?.to ?? start)[1]) > 0.5,
    ),
  );

const style = fc.record({
  fill: fc.option(colour, { nil: null }),
  stroke: fc.option(colour, { nil: null }),
  strokeWidth: fc.constantFrom(0.25, 0.5, 1),
});

/** An object of any kind that needs no other node, by the example that the kind gives. */
const drawn = (id: string): fc.Arbitrary<DrawnItem> =>
  fc.gen().map((draw) => {
    const kind = draw(fc.constantFrom, ...itemKinds().filter(({ example }) => example));
    const own = kind.example!({
      number: (least: number, most: number) => draw(measure, least, most),
      pick: <T>(list: readonly T[]): T => draw(fc.constantFrom<T[]>, ...list),
      outline: () => draw(() => outline),
    });
    const look = { layer: draw(fc.constantFrom, 'cut', 'print', 'score'), style: draw(() => style) };
    return { kind: kind.id, id, ...look, ...own } as DrawnItem;
  });

/** Masters with up to eight objects, some in a group, some used as a symbol. */
export const master: fc.Arbitrary<Master> = fc.integer({ min: 1, max: 8 }).chain((count) =>
  fc.tuple(...Array.from({ length: count }, (_, i) => drawn(`i${i}`)), drawn('s0'), drawn('g0'), point).map((parts) => {
    const [dx, dy] = parts.at(-1) as Point;
    const [symbolItem, groupItem] = [parts.at(-3), parts.at(-2)] as [DrawnItem, DrawnItem];
    const items: Item[] = [
      ...(parts.slice(0, -3) as DrawnItem[]),
      { kind: 'group', id: 'group', layer: 'cut', transform: [0.8, 0.6, -0.6, 0.8, 5, 5], items: [groupItem] },
      { kind: 'use', id: 'use', layer: 'print', transform: [1, 0, 0, 1, dx / 4, dy / 4], symbol: 'sym' },
    ];
    return masterWith(items, {
      layers: [layer('cut'), layer('print', 'print'), layer('score', 'score')],
      symbols: [{ id: 'sym', name: 'Symbol', anchor: [0, 0], items: [symbolItem] }],
    });
  }),
);
