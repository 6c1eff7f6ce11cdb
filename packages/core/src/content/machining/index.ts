import type { KindDeclaration } from '../../contracts/kind';
import { footprintOfBoards } from '../../evaluate/boards/footprint';
import { machiningFeatures, machiningReading } from './features';

/** Moves of a machine whose tools go up and down, with feed, turns and arcs. */
export const declaration = {
  id: 'machining',
  words: 'Machining',
  features: machiningFeatures,
  footprint: (master, scope, carries) => footprintOfBoards(master, scope, carries, machiningReading),
} satisfies KindDeclaration;
