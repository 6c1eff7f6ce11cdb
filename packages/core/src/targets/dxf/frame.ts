import type { FontName } from '../../master/schema';
import type { DisplayList } from '../../projection/display-list';
import { emptyBox, growBox } from '../../geometry/measure';
import { shortNumber } from '../numbers';
import { numberOfColour } from './colours';
import { STYLE_OF_FONT } from './fonts';

type Pair = readonly [code: number, value: string | number];
const text = (pairs: readonly Pair[]): string => pairs.map(([code, value]) => `${code}\n${value}\n`).join('');

const LINE_TYPES: readonly (readonly [name: string, words: string])[] = [
  ['BYBLOCK', ''],
  ['BYLAYER', ''],
  ['CONTINUOUS', 'Solid line'],
];

/** Everything before the entities: header, tables and the blocks that a version demands. */
export function framePrologue(list: DisplayList, r12: boolean, mark: string): string {
  return (
    text([[999, mark], ...header(list, r12)]) +
    (r12 ? tablesR12(list) : tables2000(list) + blocks2000()) +
    text([
      [0, 'SECTION'],
      [2, 'ENTITIES'],
    ])
  );
}

/** Everything after the entities. */
export function frameEpilogue(r12: boolean): string {
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
    [0, 'DICTIONARY'],
    [5, 'D'],
    [330, 'C'],
    [100, 'AcDbDictionary'],
    [281, 1],
    [0, 'ENDSEC'],
  ];
  return text([[0, 'ENDSEC'], ...(r12 ? [] : objects), [0, 'EOF']]);
}

function header(list: DisplayList, r12: boolean): Pair[] {
  const box = emptyBox();
  for (const entry of list.entries) {
    if (entry.kind === 'text') {
      growBox(box, entry.frame[4], entry.frame[5]);
      growBox(box, entry.frame[4], entry.frame[5] + entry.size);
    } else
      for (const { start, segments } of entry.outlines) {
        growBox(box, start[0], start[1]);
        for (const { to } of segments) growBox(box, to[0], to[1]);
      }
  }
  const at = (value: number) => (Number.isFinite(value) ? shortNumber(value, 3) : '0');
  const version: Pair[] = [
    [9, '$ACADVER'],
    [1, r12 ? 'AC1009' : 'AC1015'],
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
    ...(r12
      ? []
      : ([
          [0, 'SECTION'],
          [2, 'CLASSES'],
          [0, 'ENDSEC'],
        ] as Pair[])),
  ];
}

const usedFonts = (list: DisplayList): FontName[] => [
  ...new Set(list.entries.flatMap((entry) => (entry.kind === 'text' ? [entry.font] : []))),
];
const layersWithZero = (list: DisplayList) => [
  ...(list.layers.some(({ name }) => name === '0') ? [] : [{ name: '0', colour: '#000000' }]),
  ...list.layers,
];

function tablesR12(list: DisplayList): string {
  const layers = layersWithZero(list);
  const fonts = usedFonts(list);
  const pairs: Pair[] = [
    [0, 'SECTION'],
    [2, 'TABLES'],
    [0, 'TABLE'],
    [2, 'LTYPE'],
    [70, 1],
  ];
  pairs.push([0, 'LTYPE'], [2, 'CONTINUOUS'], [70, 0], [3, 'Solid line'], [72, 65], [73, 0], [40, 0], [0, 'ENDTAB']);
  pairs.push([0, 'TABLE'], [2, 'LAYER'], [70, layers.length]);
  for (const { name, colour } of layers)
    pairs.push([0, 'LAYER'], [2, name], [70, 0], [62, numberOfColour(colour)], [6, 'CONTINUOUS']);
  pairs.push([0, 'ENDTAB'], [0, 'TABLE'], [2, 'STYLE'], [70, fonts.length]);
  for (const font of fonts) {
    const { style, file } = STYLE_OF_FONT[font];
    pairs.push([0, 'STYLE'], [2, style], [70, 0], [40, 0], [41, 1], [50, 0], [71, 0], [42, 1], [3, file], [4, '']);
  }
  pairs.push([0, 'ENDTAB'], [0, 'ENDSEC'], [0, 'SECTION'], [2, 'BLOCKS'], [0, 'ENDSEC']);
  return text(pairs);
}

function tables2000(list: DisplayList): string {
  let handle = 0x40;
  const next = () => (handle++).toString(16).toUpperCase();
  const pairs: Pair[] = [
    [0, 'SECTION'],
    [2, 'TABLES'],
  ];
  const table = (name: string, own: string, records: ((owner: string) => Pair[])[], extra: Pair[] = []) => {
    pairs.push([0, 'TABLE'], [2, name], [5, own], [330, '0'], [100, 'AcDbSymbolTable'], [70, records.length], ...extra);
    for (const record of records) pairs.push(...record(own));
    pairs.push([0, 'ENDTAB']);
  };
  const record =
    (name: string, subclass: string, handle: string, rest: Pair[]) =>
    (owner: string): Pair[] => [[0, name], [5, handle], [330, owner], [100, 'AcDbSymbolTableRecord'], [100, subclass], ...rest];
  table('VPORT', '8', []);
  table(
    'LTYPE',
    '5',
    LINE_TYPES.map(([name, words]) =>
      record('LTYPE', 'AcDbLinetypeTableRecord', next(), [
        [2, name],
        [70, 0],
        [3, words],
        [72, 65],
        [73, 0],
        [40, 0],
      ]),
    ),
  );
  table(
    'LAYER',
    '2',
    layersWithZero(list).map(({ name, colour }) =>
      record('LAYER', 'AcDbLayerTableRecord', next(), [
        [2, name],
        [70, 0],
        [62, numberOfColour(colour)],
        [6, 'CONTINUOUS'],
        [370, -3],
        [390, 'F'],
      ]),
    ),
  );
  const styles = [{ style: 'STANDARD', file: 'txt' }, ...usedFonts(list).map((font) => STYLE_OF_FONT[font])];
  table(
    'STYLE',
    '3',
    styles.map(({ style, file }) =>
      record('STYLE', 'AcDbTextStyleTableRecord', next(), [
        [2, style],
        [70, 0],
        [40, 0],
        [41, 1],
        [50, 0],
        [71, 0],
        [42, 1],
        [3, file],
        [4, ''],
      ]),
    ),
  );
  table('VIEW', '6', []);
  table('UCS', '7', []);
  table('APPID', '9', [
    record('APPID', 'AcDbRegAppTableRecord', next(), [
      [2, 'ACAD'],
      [70, 0],
    ]),
  ]); // term-guard: standard (DXF reference, APPID table)
  table(
    'DIMSTYLE',
    'A',
    [],
    [
      [100, 'AcDbDimStyleTable'],
      [71, 0],
    ],
  );
  table('BLOCK_RECORD', '1', [
    record('BLOCK_RECORD', 'AcDbBlockTableRecord', '1F', [[2, '*Model_Space']]),
    record('BLOCK_RECORD', 'AcDbBlockTableRecord', '1B', [[2, '*Paper_Space']]),
  ]);
  pairs.push([0, 'ENDSEC']);
  return text(pairs);
}

function blocks2000(): string {
  const block = (name: string, owner: string, begin: string, end: string): Pair[] => [
    [0, 'BLOCK'],
    [5, begin],
    [330, owner],
    [100, 'AcDbEntity'],
    [8, '0'],
    [100, 'AcDbBlockBegin'],
    [2, name],
    [70, 0],
    [10, 0],
    [20, 0],
    [30, 0],
    [3, name],
    [1, ''],
    [0, 'ENDBLK'],
    [5, end],
    [330, owner],
    [100, 'AcDbEntity'],
    [8, '0'],
    [100, 'AcDbBlockEnd'],
  ];
  return text([
    [0, 'SECTION'],
    [2, 'BLOCKS'],
    ...block('*Model_Space', '1F', '20', '21'),
    ...block('*Paper_Space', '1B', '1C', '1D'),
    [0, 'ENDSEC'],
  ]);
}
