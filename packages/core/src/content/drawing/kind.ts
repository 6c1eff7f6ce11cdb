import { isPicture } from '../../document/paint';
import type { ResolvedBoard } from '../../evaluate/resolve';
import { FOOTPRINTS } from '../footprints';
import { resolveBoards } from '../../evaluate/boards/source';
import type { ContentKind } from '../../contracts/kind';
import { packObject, unpackObject } from '../../contracts/packing';
import { adaptDrawing } from './adapt';
import { compareDrawings } from './compare';
import { exactDrawing, farthestInDrawing } from './off';
import { digestDrawing } from './digest';
import type { Drawing } from '../../contracts/drawing';
import { type DrawingCarries, drawingFeatures } from './features';

/** Paths and texts with their looks, on sheets. */
export const drawingKind: ContentKind<ResolvedBoard, Drawing, DrawingCarries> = {
  id: 'drawing',
  words: 'Drawing',
  features: drawingFeatures,
  resolve: resolveBoards,
  footprint: FOOTPRINTS.get('drawing')!,
  label: (label, { 'board names': names }) => (names === 'left out' ? '' : names === 'kept' ? label : names.spelt(label)),
  adapt: adaptDrawing,
  digest: digestDrawing,
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
