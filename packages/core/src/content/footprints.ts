import type { Scope } from '../copies/scope';
import type { Master } from '../master/schema';
import { footprintOfBoards } from './boards/footprint';
import { drawingReading } from './drawing/reading';
import type { FeatureRow, LeafPrint } from './kind';
import { drawingFeatures } from './drawing/features';
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
]);

/** The features of each kind of content. */
export const FEATURES = new Map<string, Readonly<Record<string, FeatureRow>>>([
  ['drawing', drawingFeatures],
  ['raster', rasterFeatures],
  ['toolPath', toolPathFeatures],
]);
