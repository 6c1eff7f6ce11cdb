// Sheets of parts with holes that a router can make, made by chance.
import fc from 'fast-check';
import type { Item, Master } from '../src';
import { layer, lined, masterWith } from './build';

const common = { layer: 'route', style: lined('#14213a') };

const hole = (id: string, cx: number, cy: number, r: number): Item => ({ kind: 'ellipse', id, ...common, cx, cy, rx: r, ry: r });

/** One part in a square of 120 mm, with up to two holes. */
const part = (i: number): fc.Arbitrary<Item[]> =>
  fc
    .record({
      kind: fc.constantFrom('plate', 'disc', 'oval', 'kite'),
      x: fc.integer({ min: 15, max: 30 }),
      y: fc.integer({ min: 15, max: 30 }),
      width: fc.integer({ min: 50, max: 80 }),
      height: fc.integer({ min: 50, max: 80 }),
      radius: fc.integer({ min: 0, max: 12 }),
      holes: fc.array(fc.integer({ min: 32, max: 90 }), { maxLength: 2 }),
    })
    .map(({ kind, x, y, width, height, radius, holes }): Item[] => {
      const [left, foot] = [130 * (i % 6) + x, 130 * Math.floor(i / 6) + y];
      const [cx, cy] = [left + width / 2, foot + height / 2];
      const id = `part-${i}`;
      const outline: Record<string, Item> = {
        plate: { kind: 'rectangle', id, ...common, x: left, y: foot, width, height, radius },
        disc: hole(id, cx, cy, Math.min(width, height) / 2),
        oval: { kind: 'ellipse', id, ...common, cx, cy, rx: width / 2, ry: height / 2 },
        kite: {
          kind: 'polyline',
          id,
          ...common,
          points: [
            [cx, foot],
            [left + width, cy],
            [cx, foot + height],
            [left, cy],
          ],
          closed: true,
        },
      };
      return [
        outline[kind]!,
        ...holes.map((size, k) => hole(`${id}-hole-${k}`, cx + (k ? 9 : -9), cy, Math.min(7.9, size / 10))),
      ];
    });

/** A master with one to eight parts on a sheet of 900 × 600 mm. */
export const sheet: fc.Arbitrary<Master> = fc
  .integer({ min: 1, max: 8 })
  .chain((count) => fc.tuple(...Array.from({ length: count }, (_, i) => part(i))))
  .map((parts) =>
    masterWith(parts.flat(), {
      layers: [layer('route', 'route')],
      boards: [{ id: 'b1', name: 'Sheet', width: 900, height: 600, background: null, items: parts.flat() }],
    }),
  );

/** How such a sheet may be asked for. */
export const ways: fc.Arbitrary<Record<string, string | number>> = fc.record({
  unit: fc.constantFrom('mm', 'inch'),
  arcs: fc.constantFrom('arcs', 'lines'),
  numbers: fc.constantFrom('none', 'every line'),
  direction: fc.constantFrom('climb', 'conventional'),
  entry: fc.constantFrom('ramp', 'plunge'),
  lead: fc.constantFrom(0, 2),
  finish: fc.constantFrom(0, 0.4),
  tabs: fc.constantFrom(0, 3),
  marks: fc.constantFrom('none', 'drilled'),
  corners: fc.constant('rounded'),
});
