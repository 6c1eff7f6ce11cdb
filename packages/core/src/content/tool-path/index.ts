import type { KindDeclaration } from '../../contracts/kind';
import { footprintOfBoards } from '../../evaluate/boards/footprint';
import { toolPathFeatures, toolPathReading } from './features';

/** Moves of a machine with its tools, in order. */
export const declaration = {
  id: 'toolPath',
  words: 'Tool path',
  features: toolPathFeatures,
  footprint: (master, scope, carries) => footprintOfBoards(master, scope, carries, toolPathReading),
} satisfies KindDeclaration;
