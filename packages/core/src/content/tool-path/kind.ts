import type { ResolvedBoard } from '../../evaluate/resolve';
import { resolveBoards } from '../../evaluate/boards/source';
import { declaration } from './index';
import type { ContentKind } from '../../contracts/kind';
import { packObject, unpackObject } from '../../contracts/packing';
import { adaptToolPath } from './adapt';
import { compareToolPaths } from './compare';
import { sizeOfToolPath } from './size';
import { exactToolPath, farthestInToolPath } from './off';
import { digestToolPath } from './digest';
import { type ToolPathCarries } from './features';
import type { ToolPath } from './tool-path';
import { sampleToolPath } from './sample';

/** Moves of a machine with its tools, in order. */
export const kind: ContentKind<ResolvedBoard, ToolPath, ToolPathCarries> = {
  ...declaration,
  resolve: resolveBoards,
  label: () => '',
  adapt: adaptToolPath,
  fit: async (...of) => (await import('./for-machine')).fitOfToolPath(...of),
  size: sizeOfToolPath,
  digest: digestToolPath,
  sample: sampleToolPath,
  compare: compareToolPaths,
  exactly: exactToolPath,
  farthest: farthestInToolPath,
  pack: packObject,
  unpack: unpackObject,
};
