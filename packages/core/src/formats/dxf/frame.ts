import { shortNumber } from '../../base/bytes/numbers';
import type { Drawing } from '../../contracts/drawing';
import { SIZE } from '../../base/geometry/paths';
import { type Box, emptyBox, growBox } from '../../base/geometry/measure';
import type { FontName } from '../../document/schema';
import { type DxfVersion, hasSince } from './declare';
import type { SymbolBlock } from './blocks';
import type { ImageFiles } from './image-write';
import type { LineType, LineTypes } from './line-types';
import { markLines, sheetBlock } from './names';
import { type Pair, pairsText } from './pairs';
import { FIRST_HANDLE, recordHandle, tables2000, tablesR12 } from './tables';

/** A board in a file, and the block it stands in where there are several. */
export interface Sheet {
  readonly label: string;
  readonly drawing: Drawing;
}

/** What stands around the entities of a file, and the first handle that is free for them. */
interface Frame {
  /** Up to where blocks may stand. */
  readonly start: string;
  /** Around the entities of each symbol, then of each sheet that stands in a block of its own, and the block's handle, which owns them. */
  readonly blocks: readonly { readonly begin: string; readonly end: string; readonly owner: string; readonly name: string }[];
  readonly entities: string;
  readonly firstHandle: number;
}

/** Everything before the entities: header, tables and the blocks that a version demands. */
export function frameOf(
  sheets: readonly Sheet[],
  symbols: readonly SymbolBlock[],
  types: LineTypes,
  images: ImageFiles,
  version: DxfVersion,
  mark: string,
): Frame {
  const r12 = version === 'R12';
  const all = new Contents(sheets, symbols, types);
  const ofSheets = sheets.length > 1 ? sheets.map(({ label }, i) => sheetBlock(i + 1, label)) : [];
  const names = [...symbols.map(({ name }) => name), ...ofSheets];
  const comments = markLines(mark).map((line): Pair => [999, line]);
  const { tables, next } = r12
    ? { tables: tablesR12(all, mark), next: FIRST_HANDLE }
    : tables2000(all, names, hasSince(version, '2004'), mark);
  const handle = (i: number, of: number) => (next + 3 * i + of).toString(16).toUpperCase();
  return {
    start: pairsText([...comments, ...header(all, version, images.classes)]) + tables + (r12 ? '' : blocks2000()),
    blocks: names.map((name, i) => {
      const owner = r12 ? '' : recordHandle(i);
      return {
        name,
        owner,
        begin: pairsText(blockBegin(name, owner, handle(i, 0), r12)),
        end: pairsText(blockEnd(owner, handle(i, 1), r12)),
      };
    }),
    entities: pairsText([
      [0, 'ENDSEC'],
      [0, 'SECTION'],
      [2, 'ENTITIES'],
    ]),
    firstHandle: next + 3 * names.length,
  };
}

/** Layers, fonts and extent of all sheets together. */
class Contents {
  readonly layers: readonly { name: string; colour: string | null }[];
  readonly fonts: readonly FontName[];
  readonly box: Box;
  readonly lineTypes: readonly LineType[];

  constructor(sheets: readonly Sheet[], symbols: readonly SymbolBlock[], types: LineTypes) {
    this.lineTypes = types.all;
    const layers = new Map<string, { name: string; colour: string | null }>();
    const fonts = new Set<FontName>();
    for (const { drawing } of [...sheets, ...symbols]) {
      for (const layer of drawing.layers) if (!layers.has(layer.name)) layers.set(layer.name, layer);
      for (const { font } of drawing.texts) fonts.add(font);
    }
    const own = [...layers.values()];
    this.layers = layers.has('0') ? own : [{ name: '0', colour: '#000000' }, ...own];
    this.fonts = [...fonts];
    this.box = placesOf(sheets).box;
  }
}

/** Between sheets that stand beside each other, mm. */
const GAP = 20;

/** Where the sheets of a file stand beside each other, and the box of all of them. */
export function placesOf(sheets: readonly Sheet[]): { offsets: number[]; box: Box } {
  const box = emptyBox();
  const offsets: number[] = [];
  for (const { drawing } of sheets) {
    const own = extentOf(drawing);
    const offset = offsets.length && box.minX <= box.maxX ? box.maxX + GAP - Math.min(own.minX, 0) : 0;
    offsets.push(offset);
    if (own.minX > own.maxX) continue;
    growBox(box, own.minX + offset, own.minY);
    growBox(box, own.maxX + offset, own.maxY);
  }
  return { offsets, box };
}

/** The box of the points that a drawing's outlines and texts go through, as the header states it. */
function extentOf({ count, text: textOf, texts, firstOutline, paths }: Drawing): Box {
  const box = emptyBox();
  for (let i = 0; i < count; i++) {
    const words = texts[textOf[i]!];
    if (words) {
      growBox(box, words.frame[4], words.frame[5]);
      growBox(box, words.frame[4], words.frame[5] + words.size);
    }
    for (let o = firstOutline[i]!; o < firstOutline[i + 1]!; o++) {
      let at = paths.firstCoord[o]!;
      growBox(box, paths.coords[at]!, paths.coords[at + 1]!);
      at += 2;
      for (let v = paths.firstVerb[o]!; v < paths.firstVerb[o + 1]!; v++) {
        at += SIZE[paths.verbs[v]!]!;
        growBox(box, paths.coords[at - 2]!, paths.coords[at - 1]!);
      }
    }
  }
  return box;
}

/** Everything after the entities. */
export function frameEpilogue(r12: boolean, images: ImageFiles): string {
  const objects: Pair[] = [
    [0, 'SECTION'],
    [2, 'OBJECTS'],
    [0, 'DICTIONARY'],
    [5, 'C'],
    [330, '0'],
    [100, 'AcDbDictionary'],
    [281, 1],
    [3, 'ACAD_GROUP'],
    [350, 'D'], // term-guard: standard (DXF reference, OBJECTS section: root dictionary)
    ...images.inRoot,
    [0, 'DICTIONARY'],
    [5, 'D'],
    [330, 'C'],
    [100, 'AcDbDictionary'],
    [281, 1],
  ];
  const end = pairsText([
    [0, 'ENDSEC'],
    [0, 'EOF'],
  ]);
  if (r12) return end;
  return pairsText([[0, 'ENDSEC'], ...objects]) + images.objects('C') + end;
}

const NUMBERS: Readonly<Record<DxfVersion, string>> = {
  R12: 'AC1009',
  '2000': 'AC1015',
  '2004': 'AC1018',
  '2007': 'AC1021',
  '2010': 'AC1024',
  '2013': 'AC1027',
  '2018': 'AC1032',
};

function header({ box }: Contents, is: DxfVersion, classes: readonly Pair[]): Pair[] {
  const r12 = is === 'R12';
  const at = (value: number) => (Number.isFinite(value) ? shortNumber(value, 3) : '0');
  const version: Pair[] = [
    [9, '$ACADVER'],
    [1, NUMBERS[is]],
  ]; // term-guard: standard (DXF reference, HEADER section)
  const extents: Pair[] = [
    [9, '$EXTMIN'],
    [10, at(box.minX)],
    [20, at(box.minY)],
    [30, 0],
    [9, '$EXTMAX'],
    [10, at(box.maxX)],
    [20, at(box.maxY)],
    [30, 0],
  ];
  // R12 has no place for the unit; 2000 states millimetres and metric measure.
  const units: Pair[] = r12
    ? []
    : [
        [9, '$HANDSEED'],
        [5, 'FFFFFF'],
        [9, '$INSUNITS'],
        [70, 4],
        [9, '$MEASUREMENT'],
        [70, 1],
      ];
  return [
    [0, 'SECTION'],
    [2, 'HEADER'],
    ...version,
    ...extents,
    ...units,
    [0, 'ENDSEC'],
    ...(r12 ? [] : ([[0, 'SECTION'], [2, 'CLASSES'], ...classes, [0, 'ENDSEC']] as Pair[])),
  ];
}

function blockBegin(name: string, owner: string, handle: string, r12: boolean): Pair[] {
  const head: Pair[] = r12
    ? [[8, '0']]
    : [
        [5, handle],
        [330, owner],
        [100, 'AcDbEntity'],
        [8, '0'],
        [100, 'AcDbBlockBegin'],
      ];
  return [[0, 'BLOCK'], ...head, [2, name], [70, 0], [10, 0], [20, 0], [30, 0], [3, name], ...(r12 ? [] : [[1, ''] as const])];
}

const blockEnd = (owner: string, handle: string, r12: boolean): Pair[] =>
  r12
    ? [
        [0, 'ENDBLK'],
        [8, '0'],
      ]
    : [
        [0, 'ENDBLK'],
        [5, handle],
        [330, owner],
        [100, 'AcDbEntity'],
        [8, '0'],
        [100, 'AcDbBlockEnd'],
      ];

const blocks2000 = (): string =>
  pairsText([
    [0, 'SECTION'],
    [2, 'BLOCKS'],
    ...blockBegin('*Model_Space', '1F', '20', false),
    ...blockEnd('1F', '21', false),
    ...blockBegin('*Paper_Space', '1B', '1C', false),
    ...blockEnd('1B', '1D', false),
  ]);
