import { digest } from '../../base/bytes/hasher';
import { crossingsOf } from '../../content/mesh/crossing';
import { facingOutwards } from '../../content/mesh/outward';
import { middleOf, seamsOf } from '../../content/mesh/measure';
import type { Mesh } from '../../contracts/mesh';
import { Failure } from '../../base/failure/failure';
import { idFrom } from '../../document/ids';
import { newMaster } from '../../document/new-master';
import type { Master, Resource, Solid } from '../../document/schema';
import type { ReadMaster } from '../../contracts/codec';
import type { NotUnderstood } from '../../contracts/not-understood';
import { binaryOf } from '../stl/write';

/** A solid of a file, with its name where it has one. */
interface BroughtMesh {
  readonly name: string;
  readonly mesh: Mesh;
}

const plainName = (file: string): string => file.replace(/^.*[\\/]/, '').replace(/\.[^.]*$/, '');
/** A name without what no name of ours may have. */
const nameFrom = (given: string, otherwise: string): string =>
  given
    .replace(/[\u0000-\u001f\u007f]+/g, ' ')
    .trim()
    .slice(0, 200) || otherwise;

/** A master of solids and nothing else. */
export function masterOfSolids(
  bytes: Uint8Array,
  file: string,
  solids: readonly Omit<Solid, 'id'>[],
  resources: readonly Resource[],
): Master {
  if (!solids.length) throw new Failure('nothing-inside', `There is no solid in “${file}”.`, { file });
  const title = nameFrom(plainName(file), 'Solid');
  return {
    ...newMaster(idFrom(`brought in ${digest(bytes)}`), title, '', 'part'),
    boards: [],
    solids: solids.map((solid, i) => ({
      id: `solid-${i + 1}`,
      ...solid,
      name: nameFrom(solid.name, solids.length > 1 ? `${title} ${i + 1}` : title),
    })),
    resources: [...resources],
  };
}

/** What does not hang together, with the first place of it: machines build such things otherwise than they look. */
function seamsTold(meshes: readonly BroughtMesh[]): NotUnderstood[] {
  return meshes.flatMap(({ mesh }) => {
    const { open, crowded, openAt, crowdedAt } = seamsOf(mesh);
    const at = (t: number) =>
      middleOf(mesh, t)
        .map((value) => Number(value.toFixed(2)))
        .join(', ');
    const crossing = crossingsOf(mesh);
    return [
      ...(crossing.isWhole
        ? []
        : [{ kind: 'solid of which not all was looked through for triangles that go through others', count: 1, shows: true }]),
      ...(crossing.count
        ? [
            {
              kind: `triangle that goes through another (the first at ${at(crossing.at)} mm)`,
              count: crossing.count,
              shows: true,
            },
          ]
        : []),
      ...(open ? [{ kind: `open edge (the first at ${at(openAt)} mm)`, count: open, shows: true }] : []),
      ...(crowded
        ? [{ kind: `edge of more than two triangles (the first at ${at(crowdedAt)} mm)`, count: crowded, shows: true }]
        : []),
    ];
  });
}

/** Triangles that were read as a new master: each keeps them as a file of its own, in millimetres. @throws Failure `nothing-inside` */
export function meshesToMaster(
  meshes: readonly BroughtMesh[],
  bytes: Uint8Array,
  file: string,
  told: readonly NotUnderstood[] = [],
): Pick<ReadMaster, 'master' | 'notUnderstood'> & { resources: ReadonlyMap<string, Uint8Array> } {
  let turned = 0;
  const filled = meshes
    .filter(({ mesh }) => mesh.triangles.length)
    .map((one) => {
      const outward = facingOutwards(one.mesh);
      turned += outward.turned;
      return { ...one, mesh: outward.mesh };
    });
  const kept = filled.map(({ mesh }) => {
    const own = binaryOf(mesh, mesh.positions);
    return { id: digest(own), own };
  });
  const resources = new Map(kept.map(({ id, own }) => [id, own]));
  const master = masterOfSolids(
    bytes,
    file,
    filled.map(({ name, mesh }, i) => ({
      name,
      ...(mesh.colour ? { colour: mesh.colour } : {}),
      parameters: [],
      features: [
        { id: `solid-${i + 1}-f1`, name: 'As brought in', op: 'file', resource: kept[i]!.id, format: 'triangles', part: 0 },
      ],
    })),
    [...resources].map(([id, own]): Resource => ({
      id,
      name: `${plainName(file)}.stl`.slice(0, 300),
      mediaType: 'model/stl',
      size: own.length,
      role: 'solid',
    })),
  );
  return {
    master,
    resources,
    notUnderstood: [
      ...told,
      ...(turned ? [{ kind: 'solid that was inside out, turned', count: turned, shows: true }] : []),
      ...seamsTold(filled),
    ],
  };
}
