import type { ResolvedBoard } from '../../evaluate/resolve';
import { FOOTPRINTS } from '../footprints';
import { resolveBoards } from '../../evaluate/boards/source';
import type { ContentKind } from '../../contracts/kind';
import { packObject, unpackObject } from '../../contracts/packing';
import { adaptToolPath } from './adapt';
import { compareToolPaths } from './compare';
import { exactToolPath, farthestInToolPath } from './off';
import { digestToolPath } from './digest';
import { type ToolPathCarries, toolPathFeatures } from './features';
import type { ToolPath } from './tool-path';

/** Moves of a machine with its tools, in order. */
export const toolPathKind: ContentKind<ResolvedBoard, ToolPath, ToolPathCarries> = {
  id: 'toolPath',
  words: 'Tool path',
  features: toolPathFeatures,
  resolve: resolveBoards,
  footprint: FOOTPRINTS.get('toolPath')!,
  label: () => '',
  adapt: adaptToolPath,
  digest: digestToolPath,
  compare: compareToolPaths,
  exactly: exactToolPath,
  farthest: farthestInToolPath,
  pack: packObject,
  unpack: unpackObject,
};
