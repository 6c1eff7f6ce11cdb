import { DOMParser } from '@xmldom/xmldom';
import DxfParser from 'dxf-parser';
import { parseSync } from 'svgson';
import {
  type CopyFile,
  type DisplayList,
  circleOutline,
  codecOf,
  compareAs,
  declarationOf,
  fromPoints,
  packDrawing,
  parseOptions,
  plainStyle,
  project,
  recipeOf,
} from '@inkwell-twin/core';
import { shippedFonts } from '@inkwell-twin/render';
import { largeMaster } from './large-master';
import { besides, median } from './timing';

const services = { fonts: shippedFonts() };
const style = { ...plainStyle, stroke: '#000000' };
const listOf = (entries: DisplayList['entries']) => ({
  leaves: [
    {
      kind: 'drawing',
      key: '',
      label: '',
      body: packDrawing({
        kind: 'display-list',
        sheet: null,
        background: null,
        layers: [{ name: '0', colour: '#000000' }],
        entries,
      }),
    },
  ],
});
const filesOf = async (target: string, says: ReturnType<typeof listOf>, options: object): Promise<readonly CopyFile[]> =>
  (await codecOf(target)).write(says, parseOptions(declarationOf(target), { ...options }), '', services);

/** Lines and circles over a board. */
const mixed = (count: number) =>
  listOf(
    Array.from({ length: count }, (_, i) => {
      const [x, y] = [(i % 250) * 4, Math.floor(i / 250) * 4];
      const line = fromPoints(
        [
          [x, y],
          [x + 3, y + (i % 3)],
        ],
        false,
      );
      return { kind: 'path' as const, layer: '0', style, outlines: [i % 4 ? line : circleOutline([x + 1, y + 1], 1)] };
    }),
  );

/** Lines that wind over a board, with as many decimals as files of ours have. */
const winding = (count: number, points: number) =>
  listOf(
    Array.from({ length: count }, (_, i) => {
      const corners = Array.from({ length: points }, (_, k): [number, number] => [
        100 + k / 7 + 20 * Math.sin(k * 0.31 + i),
        5 * i + 3 * Math.cos(k * 0.17 + i),
      ]);
      return { kind: 'path' as const, layer: '0', style, outlines: [fromPoints(corners, false)] };
    }),
  );

/** Reading beside public readers on the same files, and comparing 100,000 segments. */
export async function benchmarkReading(): Promise<Record<string, number>> {
  const drawing = await filesOf('dxf', mixed(50_000), { version: 'R12' });
  const words = new TextDecoder().decode(drawing[0]!.bytes);
  const [ours, theirs] = await besides(
    9,
    async () => (await codecOf('dxf')).read(drawing, {}, services),
    () => new DxfParser().parseSync(words),
  );

  // Lines of many points, as text and in the binary form.
  const [plain, binary] = await Promise.all(
    ['text', 'binary'].map((encoding) => filesOf('dxf', winding(200, 1000), { version: '2018', encoding })),
  );
  const [asText, asBinary] = await besides(
    9,
    async () => (await codecOf('dxf')).read(plain!, {}, services),
    async () => (await codecOf('dxf')).read(binary!, {}, services),
  );

  const recipe = recipeOf('svg', {});
  const { projection } = await project(largeMaster('reading'), recipe, services);
  const page = await (await codecOf('svg')).write(projection, recipe.options, '', services);
  const markup = new TextDecoder().decode(page[0]!.bytes);
  const svg = await median(5, async () => (await codecOf('svg')).read(page, {}, services));
  const svgson = await median(3, () => parseSync(markup));
  const xmldom = await median(3, () => new DOMParser().parseFromString(markup, 'text/xml'));

  const squares = listOf(
    Array.from({ length: 25_000 }, (_, i) => {
      const [x, y] = [(i % 250) * 5, Math.floor(i / 250) * 5];
      const corners = [
        [x, y],
        [x + 3, y],
        [x + 3, y + 3],
        [x, y + 3],
      ] as const;
      return { kind: 'path' as const, layer: '0', style, outlines: [fromPoints(corners, true)] };
    }),
  );
  const copy = await filesOf('dxf', squares, { version: '2000' });
  const back = await (await codecOf('dxf')).read(copy, {}, services);
  const reading = 2 * (await median(3, async () => (await codecOf('dxf')).read(copy, {}, services)));
  const comparing = await median(5, () => compareAs(recipeOf('dxf', {}), squares, back));
  return {
    'read DXF of 50,000 entities, ms': ours,
    'read DXF, dxf-parser, ms': theirs,
    'read DXF, times as fast as dxf-parser': theirs / ours,
    'read DXF of 200,000 points as text, ms': asText,
    'read DXF of 200,000 points in the binary form, ms': asBinary,
    'read DXF in the binary form, times as fast as text': asText / asBinary,
    'DXF in the binary form, share of the size of text': binary![0]!.bytes.length / plain![0]!.bytes.length,
    'read SVG of 20,000 rectangles, ms': svg,
    'read SVG, svgson, ms': svgson,
    'read SVG, xmldom, ms': xmldom,
    'read SVG, times as fast as svgson': svgson / svg,
    'read SVG, times as fast as xmldom': xmldom / svg,
    'compare 100,000 segments, ms': comparing,
    'compare, times the reading of both sides': comparing / reading,
  };
}
