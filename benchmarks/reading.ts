import DxfParser from 'dxf-parser';
import { type DisplayList, circleOutline, compare, fromPoints, parseOptions, plainStyle, targetById } from '@inkwell-twin/core';
import { median } from './timing';

/** Reading a DXF of 50,000 entities beside a public reader, and comparing lists of 100,000 segments. */
export function benchmarkReading(): Record<string, number> {
  const dxf = targetById('dxf');
  const entry = (i: number): DisplayList['entries'][number] => {
    const [x, y] = [(i % 250) * 4, Math.floor(i / 250) * 4];
    return {
      kind: 'path',
      layer: '0',
      style: { ...plainStyle, stroke: '#000000' },
      outlines: [
        i % 4
          ? fromPoints(
              [
                [x, y],
                [x + 3, y + (i % 3)],
              ],
              false,
            )
          : circleOutline([x + 1, y + 1], 1),
      ],
    };
  };
  const listOf = (entries: DisplayList['entries']): DisplayList => ({
    kind: 'display-list',
    sheet: null,
    background: null,
    layers: [{ name: '0', colour: '#000000' }],
    entries,
  });
  const bytes = dxf.write(listOf(Array.from({ length: 50_000 }, (_, i) => entry(i))), parseOptions(dxf, { version: 'R12' }), '');
  const words = new TextDecoder().decode(bytes);
  const ours = median(3, () => dxf.read(bytes));
  const theirs = median(3, () => new DxfParser().parseSync(words));
  const squares = listOf(
    Array.from({ length: 25_000 }, (_, i) => {
      const [x, y] = [(i % 250) * 5, Math.floor(i / 250) * 5];
      return {
        kind: 'path',
        layer: '0',
        style: { ...plainStyle, stroke: '#000000' },
        outlines: [
          fromPoints(
            [
              [x, y],
              [x + 3, y],
              [x + 3, y + 3],
              [x, y + 3],
            ],
            true,
          ),
        ],
      };
    }),
  );
  const copy = dxf.write(squares, parseOptions(dxf, { version: '2000' }), '');
  const back = dxf.read(copy).list;
  const reading = 2 * median(3, () => dxf.read(copy));
  const comparing = median(3, () => compare(squares, back, { tolerance: 0.01, order: 'none' }));
  return {
    'read DXF of 50,000 entities, ms': ours,
    'read DXF, dxf-parser, ms': theirs,
    'read DXF, times as fast as dxf-parser': theirs / ours,
    'compare 100,000 segments, ms': comparing,
    'compare, times the reading of both sides': comparing / reading,
  };
}
