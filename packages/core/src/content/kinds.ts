import { Failure } from '../failure/failure';
import { FEATURES, FOOTPRINTS, PART_OF } from './footprints';
import { drawingKind } from './drawing/kind';
import type { DrawingCarries } from './drawing/features';
import type { Drawing } from './drawing/drawing';
import type { GridCarries } from './grid/features';
import type { Grid } from './grid/grid';
import { gridKind } from './grid/kind';
import type { ContentKind } from './kind';
import type { MeshCarries } from './mesh/features';
import { meshKind } from './mesh/kind';
import type { Mesh } from './mesh/mesh';
import type { ProseCarries } from './prose/features';
import { proseKind } from './prose/kind';
import type { ProseBody } from './prose/prose';
import type { PageCarries } from './pages/features';
import { pagesKind } from './pages/kind';
import type { SeenCarries } from './seen/features';
import { seenKind } from './seen/kind';
import { rasterKind } from './raster/kind';
import type { RasterCarries } from './raster/features';
import type { Raster } from './raster/raster';
import { toolPathKind } from './tool-path/kind';
import type { ToolPathCarries } from './tool-path/features';
import type { ToolPath } from './tool-path/tool-path';

/** The kinds of content that come with the product: what their copies say, and what a target can say of each feature. */
export interface Kinds {
  drawing: { body: Drawing; carries: DrawingCarries };
  raster: { body: Raster; carries: RasterCarries };
  toolPath: { body: ToolPath; carries: ToolPathCarries };
  grid: { body: Grid; carries: GridCarries };
  mesh: { body: Mesh; carries: MeshCarries };
  prose: { body: ProseBody; carries: ProseCarries };
  pages: { body: Drawing; carries: PageCarries };
  seen: { body: Raster; carries: SeenCarries };
}
export type KindId = keyof Kinds;

/** What a target carries of each kind; one that is absent is left out. Kinds that were added from outside have names of their own. */
export type Carries = { readonly [K in KindId]?: Kinds[K]['carries'] } & { readonly [kind: string]: object | undefined };

/** One part of what a copy says: a sheet, a path of a tool. */
export type Leaf<K extends string = string> = {
  readonly kind: K;
  readonly key: string;
  /** Its name: that of its board, say. Empty where the format has no place for one. */
  readonly label: string;
  readonly body: K extends KindId ? Kinds[K]['body'] : unknown;
};

type AnyKind = ContentKind<unknown, unknown, unknown>;
const known = new Map<string, AnyKind>();

/** Adds a kind of content. Its name must be free, or taken by the very same one. */
export function addKind<S, B, C>(kind: ContentKind<S, B, C>): void {
  const before = known.get(kind.id);
  if (before && before !== (kind as unknown)) throw new Failure('kind-taken', `There is a kind of content “${kind.id}” already.`);
  known.set(kind.id, kind as unknown as AnyKind);
  FOOTPRINTS.set(kind.id, kind.footprint);
  FEATURES.set(kind.id, kind.features);
  if (kind.of) PART_OF.set(kind.id, kind.of);
}
addKind(drawingKind);
addKind(toolPathKind);
addKind(rasterKind);
addKind(gridKind);
addKind(meshKind);
addKind(proseKind);
addKind(pagesKind);
addKind(seenKind);

/** All kinds, in the order in which they were added. */
export const allKinds = (): readonly AnyKind[] => [...known.values()];

/** @throws Failure `kind-unknown` */
export function kindById(id: string): AnyKind {
  const kind = known.get(id);
  if (kind) return kind;
  throw new Failure('kind-unknown', `There is no kind of content “${id}”. Known: ${[...known.keys()].join(', ')}.`);
}
