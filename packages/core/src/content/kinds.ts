import { Failure } from '../base/failure/failure';
import { FEATURES, FOOTPRINTS, PART_OF } from './footprints';
import { drawingKind } from './drawing/kind';
import { gridKind } from './grid/kind';
import type { ContentKind } from '../contracts/kind';
import { meshKind } from './mesh/kind';
import { proseKind } from './prose/kind';
import { pagesKind } from './pages/kind';
import { seenKind } from './seen/kind';
import { rasterKind } from './raster/kind';
import { toolPathKind } from './tool-path/kind';

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
