import fc from 'fast-check';
import type { Span } from '@inkwell-twin/core/web';
import { liftOf } from '../src/app/master/stage/lifted';
import { runs } from '../../core/test/depth';

const span = (first: number, end: number): Span => ({ first, end, opacity: 1, blend: 'normal', clip: null, mask: null });
const plain = { spans: [] };

describe('what lies still while something moves', () => {
  it('is what lies beneath it and what lies above it', () => {
    expect(liftOf({ count: 10, ...plain }, (at) => at === 4 || at === 6)).toEqual({
      below: [[0, 4]],
      moving: [
        [4, 5],
        [5, 6],
        [6, 7],
      ],
      above: [[7, 10]],
      asOne: false,
    });
  });

  it('is everything where nothing moves', () => {
    const { below, moving, above } = liftOf({ count: 5, ...plain }, () => false);
    expect(moving).toEqual([]);
    expect([...below, ...above]).toEqual([[0, 5]]);
  });

  it('keeps together what is laid down as one', () => {
    const { below, moving, above } = liftOf({ count: 10, spans: [span(2, 6), span(3, 5)] }, (at) => at === 4);
    expect([below, moving, above]).toEqual([[[0, 2]], [[2, 6]], [[6, 10]]]);
  });

  it('counts what lies between things far apart as beneath, and moves much as one', () => {
    const many = liftOf({ count: 20_000, ...plain }, (at) => at % 2 === 1);
    expect(many.asOne).toBe(true);
    expect(many.below.length).toBe(10_000);
    const two = liftOf({ count: 20_000, ...plain }, (at) => at === 3 || at === 19_990);
    expect(two.moving).toEqual([
      [3, 4],
      [19_990, 19_991],
    ]);
    expect(two.above).toEqual([[19_991, 20_000]]);
    const part = liftOf({ count: 20_000, spans: [span(0, 5000)] }, (at) => at < 4000);
    expect(part.asOne).toBe(false);
  });

  it('loses nothing and paints nothing twice, and splits no span', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.boolean(), fc.nat(900), fc.boolean()), { maxLength: 8 }), (runs) => {
        const moved: boolean[] = [];
        const spans: ReturnType<typeof span>[] = [];
        for (const [moving, length, together] of runs) {
          if (together && length) spans.push(span(moved.length, moved.length + length));
          for (let i = 0; i < length; i++) moved.push(moving);
        }
        const { below, moving, above } = liftOf({ count: moved.length, spans }, (at) => moved[at]!);
        const painted = [...below, ...moving, ...above].flatMap(([from, to]) =>
          Array.from({ length: to - from }, (_, i) => from + i),
        );
        expect(painted.length).toBe(moved.length);
        expect(painted.sort((a, b) => a - b).every((at, i) => at === i)).toBe(true);
        expect([...below, ...above].every(([from, to]) => !moved.slice(from, to).includes(true))).toBe(true);
        const ends = [...below, ...moving, ...above].flat();
        for (const { first, end } of spans) expect(ends.some((at) => at > first && at < end)).toBe(false);
      }),
      { numRuns: runs(200) },
    );
  });
});
