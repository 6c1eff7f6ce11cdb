import fc from 'fast-check';
import { type Outline, type Point, circleOutline, deviation, flatten, fromPoints, lengthOfPolyline, packDrawing } from '../src';
import { chainPieces } from '../src/evaluate/matching/chain';
import { dropCovered } from '../src/evaluate/matching/cover';
import { explain } from '../src/evaluate/matching/leftovers';
import { coveringOtherwise, outOfOrder, runsBackwards } from '../src/evaluate/matching/order';
import { type Pair, likeLengths, pairOutlines, sameOutline } from '../src/evaluate/matching/pair';
import { piecesOf as piecesOfDrawing } from '../src/content/drawing/pieces';
import type { Piece } from '../src/evaluate/matching/pieces';
import { point } from './arbitrary';
import { entry, listOf, square } from './build';

const TOLERANCE = 0.01;
const pieces = (outlines: readonly Outline[], look = 'cut'): Piece[] =>
  piecesOfDrawing(packDrawing(listOf(outlines.map((one) => entry(one, { layer: look })))), [...outlines.keys()], TOLERANCE);
const line = (...points: Point[]) => fromPoints(points, false);

describe('pieces', () => {
  it('know their box, their length and whether they close', () => {
    const [ring, open] = pieces([square(5, 5, 10), line([0, 0], [3, 4])]);
    expect(ring).toMatchObject({ closed: true, length: 40, box: { minX: 5, minY: 5, maxX: 15, maxY: 15 } });
    expect(open).toMatchObject({ closed: false, length: 5 });
  });
  it('are flattened well below the tolerance', () => {
    const [circle] = pieces([circleOutline([0, 0], 30)]);
    for (let i = 0; i + 3 < circle!.points.length; i += 2) {
      const [x, y] = [(circle!.points[i]! + circle!.points[i + 2]!) / 2, (circle!.points[i + 1]! + circle!.points[i + 3]!) / 2];
      expect(30 - Math.hypot(x, y)).toBeLessThan(TOLERANCE / 7);
    }
  });
});

describe('chaining', () => {
  it('joins ends that meet, whichever way they run, and keeps the length', () => {
    const [whole, ...none] = chainPieces(
      pieces([line([0, 0], [10, 0]), line([10, 10], [10, 0]), line([10, 10], [0, 10])]),
      TOLERANCE,
    );
    expect(none).toEqual([]);
    expect(whole!.length).toBeCloseTo(30);
    expect(whole!.closed).toBe(false);
  });
  it('closes a ring', () =>
    expect(chainPieces(pieces([line([0, 0], [10, 0], [10, 10]), line([10, 10], [0, 10], [0, 0])]), TOLERANCE)).toMatchObject([
      { closed: true, length: 40 },
    ]));
  it('leaves a meeting of three alone, and other layers too', () => {
    expect(chainPieces(pieces([line([0, 0], [10, 0]), line([10, 0], [20, 0]), line([10, 0], [10, 10])]), TOLERANCE)).toHaveLength(
      3,
    );
    expect(
      chainPieces([...pieces([line([0, 0], [10, 0])]), ...pieces([line([10, 0], [20, 0])], 'score')], TOLERANCE),
    ).toHaveLength(2);
  });
  it('bridges a gap within the tolerance and none beyond it', () => {
    const apart = (gap: number) => chainPieces(pieces([line([0, 0], [10, 0]), line([10 + gap, 0], [20, 0])]), TOLERANCE).length;
    expect([apart(0.005), apart(0.02)]).toEqual([1, 2]);
  });
  it('puts any line that was cut at its corners together again', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(point, { minLength: 3, maxLength: 9, selector: (p) => `${Math.round(p[0])},${Math.round(p[1])}` }),
        (points) => {
          const parts = points.slice(1).map((to, i) => (i % 2 ? line(to, points[i]!) : line(points[i]!, to)));
          const joined = chainPieces(pieces(parts), TOLERANCE);
          expect(joined).toHaveLength(1);
          const whole = flatten(line(...points), 1);
          expect(joined[0]!.length).toBeCloseTo(lengthOfPolyline(whole), 6);
          expect(deviation(joined[0]!.points, whole)).toBeLessThan(0.01);
        },
      ),
    );
  });
});

describe('covering', () => {
  const left = (as: Outline[], bs: Outline[]) => {
    const { onlyA, onlyB } = dropCovered(pieces(as), pieces(bs), TOLERANCE);
    return [onlyA.length, onlyB.length];
  };
  it('takes pieces away that lie on each other and tally', () => {
    expect(left([line([0, 0], [30, 0])], [line([0, 0], [12, 0]), line([12, 0], [30, 0])])).toEqual([0, 0]);
  });
  it('keeps what only partly lies on the other side', () =>
    expect(left([line([0, 0], [30, 0])], [line([0, 0], [12, 0])])).toEqual([1, 1]));
  it('keeps what is there twice', () =>
    expect(left([line([0, 0], [30, 0])], [line([0, 0], [30, 0]), line([5, 0], [25, 0])])).toEqual([1, 2]));
});

describe('pairing', () => {
  it('prefers what also looks the same, and pairs each only once', () => {
    const as = [...pieces([square(0, 0, 10)], 'cut'), ...pieces([square(0, 0, 10)], 'score')];
    const bs = [...pieces([square(0, 0, 10)], 'score'), ...pieces([square(0, 0, 10)], 'cut')];
    const { pairs, onlyA, onlyB } = pairOutlines(as, bs, TOLERANCE);
    expect(pairs.map(({ a, b }) => [a.layer, b.layer])).toEqual([
      ['cut', 'cut'],
      ['score', 'score'],
    ]);
    expect([onlyA, onlyB]).toEqual([[], []]);
  });
  it('tells a line from the same line there and back', () => {
    const [once, back] = pieces([line([0, 0], [20, 0]), line([0, 0], [20, 0], [0, 0.001])]);
    expect(sameOutline(once!, back!, TOLERANCE)).toBe(false);
    expect(likeLengths(20, 40, TOLERANCE)).toBe(false);
  });
  it('does not depend on which side is which', () => {
    fc.assert(
      fc.property(fc.array(point, { minLength: 2, maxLength: 8 }), fc.array(point, { minLength: 2, maxLength: 8 }), (p, q) => {
        const [a, b] = pieces([line(...p), line(...q)]) as [Piece, Piece];
        expect(sameOutline(a, b, 1)).toBe(sameOutline(b, a, 1));
      }),
    );
  });
});

describe('what is left over', () => {
  const kinds = (as: Outline[], bs: Outline[]) =>
    explain(pieces(as), pieces(bs), TOLERANCE).map(({ kind, amount }) => [kind, Number(amount.toFixed(1))]);
  it('is moved where the shape is the same, however far', () =>
    expect(kinds([square(0, 0, 10)], [square(150, 40, 10)])).toEqual([['moved', Number(Math.hypot(150, 40).toFixed(1))]]));
  it('is resized where the shape is, at another size nearby', () =>
    expect(kinds([circleOutline([50, 50], 10)], [circleOutline([51, 50], 8)])).toEqual([['resized', 20]]));
  it('is reshaped where it is still about there', () =>
    expect(
      kinds(
        [square(0, 0, 10)],
        [
          fromPoints(
            [
              [0, 0],
              [10, 0],
              [10, 10],
              [5, 12],
              [0, 10],
            ],
            true,
          ),
        ],
      ),
    ).toEqual([['reshaped', 2]]));
  it('is missing and added where it is neither', () =>
    expect(kinds([square(0, 0, 10)], [circleOutline([100, 50], 3)]).map(([kind]) => kind)).toEqual(['missing', 'added']));
  it('gives each outline its nearest of equal candidates', () => {
    const found = explain(pieces([square(0, 0, 5), square(100, 0, 5)]), pieces([square(101, 0, 5), square(2, 0, 5)]), TOLERANCE);
    expect(found.map(({ amount }) => amount).sort((a, b) => a - b)).toEqual([1, 2]);
  });
});

describe('order', () => {
  const pairsOf = (order: number[], outlines: Outline[]): Pair[] => {
    const all = pieces(outlines);
    return order.map((at, i) => ({ a: { ...all[i]!, entry: i }, b: { ...all[i]!, entry: at } }));
  };
  const row = [0, 1, 2, 3].map((i) => square(i * 20, 0, 10));
  it('names the fewest that are out of place', () => {
    expect(outOfOrder(pairsOf([0, 1, 2, 3], row))).toEqual([]);
    expect(outOfOrder(pairsOf([1, 2, 3, 0], row)).map(({ a }) => a.entry)).toEqual([3]);
    expect(outOfOrder(pairsOf([3, 2, 1, 0], row))).toHaveLength(3);
  });
  it('minds in a picture only what covers something else now', () => {
    const apart = pairsOf([1, 0, 2, 3], row);
    expect(coveringOtherwise(outOfOrder(apart), apart)).toEqual([]);
    const over = pairsOf([1, 0], [square(0, 0, 10), square(4, 4, 10)]);
    expect(coveringOtherwise(outOfOrder(over), over)).toHaveLength(1);
  });
  it('knows an outline that runs backwards', () => {
    const [there, back] = pieces([line([0, 0], [9, 0]), line([9, 0], [0, 0])]) as [Piece, Piece];
    expect([runsBackwards({ a: there, b: there }), runsBackwards({ a: there, b: back })]).toEqual([false, true]);
    const [ring, turned] = pieces([
      square(0, 0, 5),
      fromPoints(
        [
          [0, 0],
          [0, 5],
          [5, 5],
          [5, 0],
        ],
        true,
      ),
    ]) as [Piece, Piece];
    expect([runsBackwards({ a: ring, b: ring }), runsBackwards({ a: ring, b: turned })]).toEqual([false, true]);
  });
});
