import fc from 'fast-check';
import type { DrawnItem, Item, Master, Outline, Point, Segment } from '../src';
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
const words = fc.constantFrom('Sedge', 'Mere 7', 'Łódka & Öl', 'two\nlines');

const drawn = (id: string): fc.Arbitrary<DrawnItem> => {
  const common = fc.record({ layer: fc.constantFrom('cut', 'print', 'score'), style });
  return fc
    .tuple(common, fc.integer({ min: 0, max: 4 }), point, measure(1, 60), measure(1, 40), outline, words)
    .map(([base, kind, [x, y], width, height, path, text]): DrawnItem => {
      const own = { id, ...base };
      if (kind === 0) return { ...own, kind: 'rectangle', x, y, width, height, radius: width > 8 && height > 8 ? 3 : 0 };
      if (kind === 1) return { ...own, kind: 'ellipse', cx: x, cy: y, rx: width / 2, ry: height / 2 };
      if (kind === 2) return { ...own, kind: 'path', outlines: [{ ...path, segments: [...path.segments] }] };
      if (kind === 3)
        return {
          ...own,
          kind: 'polyline',
          points: [
            [x, y],
            [x + width, y],
            [x, y + height],
          ],
          closed: width > 20,
        };
      return { ...own, kind: 'text', text, x, y, size: Math.max(2, height / 4), font: 'Commissioner', align: 'start' };
    });
};

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
