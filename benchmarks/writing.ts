import makerjs from 'makerjs';
import { codecOf, declarationOf, type DisplayList, fromPoints, packDrawing, parseOptions, plainStyle } from '@inkwell-twin/core';
import { shippedFonts } from '@inkwell-twin/render';
import { median } from './timing';

const COUNT = 50_000;
type Line = [number, number, number, number];

/** Short lines scattered over a board, from a fixed seed. */
function lines(): Line[] {
  let seed = 12345;
  const next = () => (seed = (seed * 1103515245 + 12345) % 2147483648) / 2147483648;
  return Array.from({ length: COUNT }, () => {
    const [x, y] = [next() * 1000, next() * 600];
    return [x, y, x + next() * 20, y + next() * 20];
  });
}

/** Writing 50,000 segments as DXF and SVG, beside a public library that writes the same lines, and beside bare strings. */
export async function benchmarkWriting(): Promise<Record<string, number>> {
  const all = lines();
  const style = { ...plainStyle, stroke: '#000000', strokeWidth: 0.25 };
  const list: DisplayList = {
    kind: 'display-list',
    sheet: { width: 1020, height: 620 },
    background: null,
    layers: [{ name: '0', colour: '#000000' }],
    entries: all.map(([a, b, c, d]) => ({
      kind: 'path',
      layer: '0',
      style,
      outlines: [
        fromPoints(
          [
            [a, b],
            [c, d],
          ],
          false,
        ),
      ],
    })),
  };
  const model: makerjs.IModel = { units: makerjs.unitType.Millimeter, paths: {} };
  all.forEach(([a, b, c, d], i) => (model.paths![`l${i}`] = new makerjs.paths.Line([a, b], [c, d])));
  const says = { leaves: [{ kind: 'drawing', key: '', label: '', body: packDrawing(list) }] };
  const services = { fonts: shippedFonts() };
  const write = (target: string, options: object) => {
    const values = parseOptions(declarationOf(target), { ...options });
    return async () => (await codecOf(target)).write(says, values, 'mark', services);
  };
  const bare = await median(5, () =>
    all.map(([a, b, c, d]) => `0\nLINE\n8\n0\n10\n${a}\n20\n${b}\n30\n0\n11\n${c}\n21\n${d}\n31\n0\n`).join(''),
  );
  const ours = {
    dxf: await median(5, write('dxf', { version: 'R12' })),
    svg: await median(5, write('svg', {})),
  };
  const theirs = {
    dxf: await median(3, () => makerjs.exporter.toDXF(model)),
    svg: await median(3, () => makerjs.exporter.toSVG(model, { useSvgPathOnly: false })),
  };
  return {
    'write DXF, ms': ours.dxf,
    'write DXF, makerjs, ms': theirs.dxf,
    'write DXF, times as fast as makerjs': theirs.dxf / ours.dxf,
    'write SVG, ms': ours.svg,
    'write SVG, makerjs, ms': theirs.svg,
    'write SVG, times as fast as makerjs': theirs.svg / ours.svg,
    'write DXF, times the bare strings': ours.dxf / bare,
  };
}
