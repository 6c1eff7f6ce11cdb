import type { Matrix } from '../../base/geometry/matrix';
import { filledAs } from './emit-hatch';
import type { EmittingReader } from './telling';
import type { DxfRecord } from './records';

/** Corner `k` of an entity of three or four; the fourth is the third where it is not said (DXF reference, SOLID and 3DFACE). */
function corner(groups: DxfRecord, k: number): readonly [number, number] {
  const code = k === 3 && !groups.has(13) ? 12 : 10 + k;
  return [groups.number(code, 0), groups.number(code + 10, 0)];
}

/** An area of three or four corners, filled; the third and fourth stand crosswise (DXF reference, SOLID and TRACE). */
export function emitSolid(groups: DxfRecord, reader: EmittingReader, facing: Matrix | null): void {
  const { paths, sink } = reader;
  paths.clear();
  paths.move(...corner(groups, 0));
  for (const k of [1, 3, 2]) paths.line(...corner(groups, k));
  paths.end(true);
  const { layer, look, at } = reader.placed(groups, facing);
  sink.path(paths, at, layer, filledAs(look), groups.type, 'area');
}

/** The edges of a face, those that are hidden left out (DXF reference, 3DFACE, group 70). */
export function emitFace(groups: DxfRecord, reader: EmittingReader): void {
  const hidden = groups.number(70, 0);
  const { paths } = reader;
  paths.clear();
  if (!hidden) {
    paths.move(...corner(groups, 0));
    for (const k of [1, 2, 3]) paths.line(...corner(groups, k));
    paths.end(true);
  } else
    for (let k = 0; k < 4; k++) {
      if (hidden & (1 << k)) continue;
      paths.move(...corner(groups, k));
      paths.line(...corner(groups, (k + 1) % 4));
      paths.end(false);
    }
  if ([30, 31, 32, 33].some((code) => groups.anyNonZero([code]))) reader.tally.add('height above the board');
  reader.shape(groups);
}
