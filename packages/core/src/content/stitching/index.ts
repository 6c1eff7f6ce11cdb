import type { KindDeclaration } from '../../contracts/kind';
import { footprintOfBoards } from '../../evaluate/boards/footprint';
import { stitchingFeatures, stitchingReading } from './features';

/** What a needle sews: stitches in their order, each with its thread. */
export const declaration = {
  id: 'stitching',
  words: 'Stitching',
  features: stitchingFeatures,
  footprint: (master, scope, carries) => footprintOfBoards(master, scope, carries, stitchingReading),
} satisfies KindDeclaration;
