import type { PartList, Scope } from '../contracts/schemas';
import type { Master } from '../document/schema';
import { footprintOfBoards } from '../evaluate/boards/footprint';
import { drawingReading } from './drawing/reading';
import type { FeatureRow, LeafPrint } from '../contracts/kind';
import { gridFeatures } from './grid/features';
import { footprintOfTables } from './grid/footprint';
import { meshFeatures } from './mesh/features';
import { footprintOfSolids } from '../evaluate/solids/footprint';
import { drawingFeatures } from './drawing/features';
import { pageFeatures } from './pages/features';
import { footprintOfPages } from './pages/footprint';
import { seenFeatures } from './seen/features';
import { footprintOfSeen } from './seen/footprint';
import { proseFeatures } from './prose/features';
import { footprintOfTexts } from './prose/footprint';
import { rasterFeatures, rasterReading } from './raster/features';
import { toolPathFeatures, toolPathReading } from './tool-path/features';

type Footprint = (master: Master, scope: Scope, carries: never) => readonly LeafPrint[];

/**
 * How each kind of content answers what a copy depends on, without the rest of it: a browser asks that on every edit.
 */
export const FOOTPRINTS = new Map<string, Footprint>([
  ['drawing', (master, scope, carries) => footprintOfBoards(master, scope, carries, drawingReading)],
  ['raster', (master, scope, carries) => footprintOfBoards(master, scope, carries, rasterReading)],
  ['toolPath', (master, scope, carries) => footprintOfBoards(master, scope, carries, toolPathReading)],
  ['grid', footprintOfTables],
  ['mesh', footprintOfSolids],
  ['prose', footprintOfTexts],
  ['pages', footprintOfPages],
  ['seen', footprintOfSeen],
]);

/** Which list of a master each kind of content is made of; boards where nothing is said. */
export const PART_OF = new Map<string, PartList>([
  ['grid', 'tables'],
  ['mesh', 'solids'],
  ['prose', 'texts'],
  ['pages', 'texts'],
  ['seen', 'solids'],
]);

/** The features of each kind of content. */
export const FEATURES = new Map<string, Readonly<Record<string, FeatureRow>>>([
  ['drawing', drawingFeatures],
  ['raster', rasterFeatures],
  ['toolPath', toolPathFeatures],
  ['grid', gridFeatures],
  ['mesh', meshFeatures],
  ['prose', proseFeatures],
  ['pages', pageFeatures],
  ['seen', seenFeatures],
]);
