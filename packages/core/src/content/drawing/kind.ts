import { isPicture } from '../../document/paint';
import type { ResolvedBoard } from '../../evaluate/resolve';
import { boardsToShow } from '../../evaluate/boards/chosen';
import { resolveBoards } from '../../evaluate/boards/source';
import { onSheets } from '../../evaluate/sheets/sheets';
import { how } from './carry';
import { declaration } from './index';
import type { ContentKind } from '../../contracts/kind';
import { packObject, unpackObject } from '../../contracts/packing';
import { adaptDrawing } from './adapt';
import { compareDrawings } from './compare';
import { exactDrawing, farthestInDrawing } from './off';
import { digestDrawing } from './digest';
import type { Drawing } from '../../contracts/drawing';
import { type DrawingCarries } from './features';
import { sampleDrawing } from './sample';

/** Paths and texts with their looks, on sheets. */
export const kind: ContentKind<ResolvedBoard, Drawing, DrawingCarries> = {
  ...declaration,
  staged: (master, scope, { sheets }) => {
    const plan = how(sheets)?.plan;
    return plan ? onSheets(master, boardsToShow(master, scope), plan) : master;
  },
  resolve: (master, scope, services, { sheets }) => resolveBoards(master, how(sheets) ? { of: 'master' } : scope, services),
  label: (label, { 'board names': names }) => (names === 'left out' ? '' : names === 'kept' ? label : names.spelt(label)),
  adapt: adaptDrawing,
  digest: digestDrawing,
  sample: sampleDrawing,
  compare: compareDrawings,
  exactly: exactDrawing,
  farthest: farthestInDrawing,
  pictureAt: (drawing, entry) => {
    const fill = drawing.looks[drawing.look[entry]!]?.fill;
    return isPicture(fill) ? { picture: drawing.pictures[fill.picture]!, at: fill.at } : null;
  },
  pack: packObject,
  unpack: unpackObject,
};
