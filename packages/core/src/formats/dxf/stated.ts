import type { DxfVersion } from './declare';
import { isBinary } from './binary';
import { openDxf } from './open';
import type { DxfFile } from './records';
import { variable } from './units';

/** The first numbers of $ACADVER that have what a version of ours writes. */ // term-guard: standard (DXF reference, HEADER section)
const SINCE: readonly (readonly [number: number, version: DxfVersion])[] = [
  [1032, '2018'],
  [1027, '2013'],
  [1024, '2010'],
  [1021, '2007'],
  [1018, '2004'],
  [1012, '2000'],
  [0, 'R12'],
];

/** How a DXF without a mark was made, as far as it shows: its version, and which kinds of entity stand in it. */
export function statedInDxf(bytes: Uint8Array): Readonly<Record<string, string>> {
  const { file } = openDxf(bytes);
  const number = versionNumber(file);
  const version = SINCE.find(([since]) => number >= since)![1];
  const types = new Set<string>();
  for (const section of ['BLOCKS', 'ENTITIES']) for (const { type } of file.sections.get(section) ?? []) types.add(type);
  const has = (...some: string[]) => some.some((type) => types.has(type));
  return {
    version,
    encoding: isBinary(bytes) ? 'binary' : 'text',
    text: has('TEXT', 'MTEXT') ? 'text' : 'outlines',
    symbols: has('INSERT') ? 'blocks' : 'opened',
    ...(version === 'R12'
      ? {}
      : {
          curves: has('SPLINE') ? 'as the version allows' : has('ARC', 'LWPOLYLINE') ? 'arcs' : 'short lines',
          fills: has('HATCH') ? 'hatches' : 'left out',
          pictures: has('IMAGE') ? 'files beside' : 'left out',
        }),
  };
}

/** The number of the version that a file states; 0 where it states none, as the oldest do. */
export const versionNumber = (file: DxfFile): number => Number(/^AC(\d+)$/.exec(variable(file, '$ACADVER') ?? '')?.[1] ?? 0); // term-guard: standard (DXF reference, HEADER section)
