import fc from 'fast-check';
import { EDGES, type Edge, type Master, type PictureItem, applyPatches, cutEdge, cutOff, findNode } from '../src';
import { kind as picture } from '../src/document/items/kinds/picture';
import { masterWith } from './build';

const start: PictureItem = {
  kind: 'picture',
  id: 'pool',
  layer: 'cut',
  style: { fill: null, stroke: null, strokeWidth: 0 },
  resource: 'a'.repeat(64),
  x: 20,
  y: 10,
  width: 60,
  height: 40,
};
const master = masterWith([start]);
const after = (from: Master, edge: Edge, share: number): Master =>
  applyPatches(from, cutEdge([findNode(from, 'pool') as PictureItem], edge, share).patches).master;
const pool = (of: Master) => findNode(of, 'pool') as PictureItem;

describe('cutting a picture off at its edges', () => {
  it('leaves what is seen where it is, whatever is cut in whatever order, and gives it back', () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom(...EDGES.map(({ edge }) => edge)), fc.double({ min: 0, max: 0.9, noNaN: true })), {
          maxLength: 6,
        }),
        (cuts) => {
          const end = cuts.reduce((now, [edge, share]) => after(now, edge, share), master);
          const [one, other] = [picture.paint!(start), picture.paint!(pool(end))];
          // The whole picture lies where it lay, though less of it shows.
          one!.at.forEach((value, i) => expect(other!.at[i]).toBeCloseTo(value, 6));
          const { width, height } = pool(end);
          expect(width).toBeGreaterThan(0);
          expect(height).toBeGreaterThan(0);
          const back = EDGES.reduce((now, { edge }) => after(now, edge, 0), end);
          expect(pool(back).crop).toBeUndefined();
          for (const name of ['x', 'y', 'width', 'height'] as const) expect(pool(back)[name]).toBeCloseTo(start[name], 6);
        },
      ),
    ));

  it('says how much is cut off, and always leaves something', () => {
    const cut = after(after(master, 'left', 0.25), 'top', 0.1);
    expect(EDGES.map(({ edge }) => Number(cutOff(pool(cut), edge).toFixed(6)))).toEqual([0.25, 0, 0.1, 0]);
    expect(pool(cut)).toMatchObject({ x: 35, y: 10, width: 45, height: 36 });
    expect(pool(after(cut, 'right', 0.99)).crop!.right).toBeGreaterThan(0.25);
    expect(cutEdge([start, start], 'left', 0.125).label).toBe('Left edge: 12.5 % cut off (2 pictures)');
  });
});
