import { type Scope, solidsOf } from '../../contracts/scope';
import type { Master } from '../../document/schema';
import { planSolid } from '../../evaluate/solids/plan';
import { declaration } from './index';
import type { ContentKind } from '../../contracts/kind';
import { packObject, unpackObject } from '../../contracts/packing';
import { type PlannedSolid, adaptSolid } from './adapt';
import { compareMeshes } from './compare';
import { digestMesh } from './digest';
import { type MeshCarries } from './features';
import type { Mesh } from '../../contracts/mesh';
import { exactMesh, farthestInMesh } from './off';
import { sampleMesh } from './sample';

/** Solids: triangles, and what a kernel measures of them. */
export const kind: ContentKind<PlannedSolid, Mesh, MeshCarries> = {
  ...declaration,
  resolve: (master: Master, scope: Scope, { fonts }) =>
    solidsOf(master, scope).map((solid) => ({
      key: solid.id,
      label: solid.name,
      source: {
        plan: planSolid(master, solid, fonts),
        nodes: [...solid.parameters, ...solid.features].map(({ id }) => id),
      },
    })),
  label: (name, { names }) => (names === 'left out' ? '' : name),
  namedAlone: true,
  adapt: adaptSolid,
  digest: digestMesh,
  sample: sampleMesh,
  compare: compareMeshes,
  exactly: exactMesh,
  farthest: farthestInMesh,
  pack: packObject,
  unpack: unpackObject,
};
