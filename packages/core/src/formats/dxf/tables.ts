import type { FontName } from '../../document/schema';
import { nearestColour } from '../../content/drawing/colour';
import { PALETTE, numberOfColour } from './colours';
import { fileOfFont, styleOfFont } from './fonts';
import { type LineType, patternPairs } from './line-types';
import { APPLICATION, markData } from './names';
import { type Pair, pairsText } from './pairs';

/** What the tables of a file name: its layers and the fonts of its texts. */
interface Named {
  readonly layers: readonly { readonly name: string; readonly colour: string | null }[];
  readonly fonts: readonly FontName[];
  readonly lineTypes: readonly LineType[];
}

const LINE_TYPES: readonly (readonly [name: string, words: string])[] = [
  ['BYBLOCK', ''],
  ['BYLAYER', ''],
  ['CONTINUOUS', 'Solid line'],
];

/** Handles below are those of the tables, as long as there is room. */
export const FIRST_HANDLE = 0x100;
/** Handles of the records of blocks that are sheets: far above all others. */
export const recordHandle = (i: number): string => (0xf0000 + i).toString(16).toUpperCase();

/** The tables of an R12 file, and the start of its blocks. */
export function tablesR12({ layers, fonts, lineTypes }: Named, mark: string): string {
  const pairs: Pair[] = [
    [0, 'SECTION'],
    [2, 'TABLES'],
    [0, 'TABLE'],
    [2, 'LTYPE'],
    [70, 1 + lineTypes.length],
  ];
  pairs.push([0, 'LTYPE'], [2, 'CONTINUOUS'], [70, 0], [3, 'Solid line'], [72, 65], [73, 0], [40, 0]);
  for (const type of lineTypes) pairs.push([0, 'LTYPE'], [2, type.name], [70, 0], ...patternPairs(type));
  pairs.push([0, 'ENDTAB']);
  pairs.push([0, 'TABLE'], [2, 'LAYER'], [70, layers.length]);
  layers.forEach(({ name, colour }, i) => {
    pairs.push([0, 'LAYER'], [2, name], [70, 0], [62, numberOfColour(colour)], [6, 'CONTINUOUS'], ...(i ? [] : markData(mark)));
  });
  pairs.push([0, 'ENDTAB'], [0, 'TABLE'], [2, 'STYLE'], [70, fonts.length]);
  for (const font of fonts) {
    const [style, file] = [styleOfFont(font), fileOfFont(font)];
    pairs.push([0, 'STYLE'], [2, style], [70, 0], [40, 0], [41, 1], [50, 0], [71, 0], [42, 1], [3, file], [4, '']);
  }
  pairs.push([0, 'ENDTAB'], [0, 'TABLE'], [2, 'APPID'], [70, 1], [0, 'APPID'], [2, APPLICATION], [70, 0]);
  pairs.push([0, 'ENDTAB'], [0, 'ENDSEC'], [0, 'SECTION'], [2, 'BLOCKS']);
  return pairsText(pairs);
}

/** The tables of a file of version 2000 or, with exact colours, 2004; `next` is the first handle that is free after them. */
export function tables2000(
  { layers, fonts, lineTypes }: Named,
  blocks: readonly string[],
  exact: boolean,
  mark: string,
): { tables: string; next: number } {
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
  table('LTYPE', '5', [
    ...LINE_TYPES.map(([name, words]) =>
      record('LTYPE', 'AcDbLinetypeTableRecord', next(), [
        [2, name],
        [70, 0],
        [3, words],
        [72, 65],
        [73, 0],
        [40, 0],
      ]),
    ),
    ...lineTypes.map((type) =>
      record('LTYPE', 'AcDbLinetypeTableRecord', next(), [
        [2, type.name],
        [70, 0],
        // No part of it is a letter or a shape.
        ...patternPairs(type).flatMap((pair): Pair[] => (pair[0] === 49 ? [pair, [74, 0]] : [pair])),
      ]),
    ),
  ]);
  table(
    'LAYER',
    '2',
    layers.map(({ name, colour }, i) =>
      record('LAYER', 'AcDbLayerTableRecord', next(), [
        [2, name],
        [70, 0],
        [62, numberOfColour(exact && colour ? nearestColour(colour, PALETTE) : colour)],
        ...(exact && colour ? [[420, parseInt(colour.slice(1), 16)] as const] : []),
        [6, 'CONTINUOUS'],
        [370, -3],
        [390, 'F'],
        ...(i ? [] : markData(mark)),
      ]),
    ),
  );
  const styles = [
    { style: 'STANDARD', file: 'txt' },
    ...fonts.map((font) => ({ style: styleOfFont(font), file: fileOfFont(font) })),
  ];
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
  table(
    'APPID',
    '9',
    [
      ['ACAD', next()],
      [APPLICATION, '22'],
    ].map(([name, own]) =>
      record('APPID', 'AcDbRegAppTableRecord', own!, [
        [2, name!],
        [70, 0],
      ]),
    ),
  ); // term-guard: standard (DXF reference, APPID table)
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
    ...blocks.map((name, i) => record('BLOCK_RECORD', 'AcDbBlockTableRecord', recordHandle(i), [[2, name]])),
  ]);
  pairs.push([0, 'ENDSEC']);
  return { tables: pairsText(pairs), next: Math.max(FIRST_HANDLE, handle) };
}
