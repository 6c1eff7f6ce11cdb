import { type Scope, solidsOf } from '../../contracts/scope';
import type { Master } from '../../document/schema';
import { planSolid } from '../../evaluate/solids/plan';
import { FOOTPRINTS, PART_OF } from '../footprints';
import type { ContentKind } from '../../contracts/kind';
import { packObject, unpackObject } from '../../contracts/packing';
import { type PlannedSolid, adaptSolid } from './adapt';
import { compareMeshes } from './compare';
import { digestMesh } from './digest';
import { type MeshCarries, meshFeatures } from './features';
import type { Mesh } from '../../contracts/mesh';
import { exactMesh, farthestInMesh } from './off';

/** Solids: triangles, and what a kernel measures of them. */
export const meshKind: ContentKind<PlannedSolid, Mesh, MeshCarries> = {
  id: 'mesh',
  words: 'Solid',
  of: PART_OF.get('mesh')!,
  features: meshFeatures,
  resolve: (master: Master, scope: Scope, { fonts }) =>
    solidsOf(master, scope).map((solid) => ({
      key: solid.id,
      label: solid.name,
      source: {
        plan: planSolid(master, solid, fonts),
        nodes: [...solid.parameters, ...solid.features].map(({ id }) => id),
      },
    })),
  footprint: FOOTPRINTS.get('mesh')!,
  label: (name, { names }) => (names === 'left out' ? '' : name),
  namedAlone: true,
  adapt: adaptSolid,
  digest: digestMesh,
  compare: compareMeshes,
  exactly: exactMesh,
  farthest: farthestInMesh,
  pack: packObject,
  unpack: unpackObject,
};
