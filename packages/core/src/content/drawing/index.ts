import type { KindDeclaration } from '../../contracts/kind';
import { drawingFeatures } from './features';
import { drawingReading } from './reading';
import { footprintOfBoards } from '../../evaluate/boards/footprint';

/** Paths and texts with their looks, on sheets. */
export const declaration = {
  id: 'drawing',
  words: 'Drawing',
  features: drawingFeatures,
  footprint: (master, scope, carries) => footprintOfBoards(master, scope, carries, drawingReading),
} satisfies KindDeclaration;
