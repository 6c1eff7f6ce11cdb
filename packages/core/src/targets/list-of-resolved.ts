import type { ResolvedBoard } from '../master/resolve';
import type { DisplayList } from '../projection/display-list';

/** A document that was read, as a display list: everything on it, nothing adapted. */
export function listOfResolved({ board, layers, entries }: ResolvedBoard, sheet: boolean): DisplayList {
  const used = new Set(entries.map(({ layerId }) => layerId));
  return {
    kind: 'display-list',
    sheet: sheet ? { width: board.width, height: board.height } : null,
    background: board.background,
    layers: layers.filter(({ id }) => used.has(id)).map(({ name, colour }) => ({ name, colour })),
    entries,
  };
}
