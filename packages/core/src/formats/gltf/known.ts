import { type Known, unknownMembers } from '../../base/bytes/unknown-members';
import type { Tally } from '../../contracts/tally';
import type { Gltf } from './schema';

/** Notes of programs, which may stand anywhere (2.0, 3.12), and names, which nothing but people read. */
const NOTES = { extras: true, name: true } as const;
/** What is read of each part of a document, and what changes nothing that is seen (2.0, chapter 5). */
const KNOWN: Known = {
  ...NOTES,
  asset: true,
  scene: true,
  scenes: [{ ...NOTES, nodes: true }],
  // A camera that no node holds shows nothing; of pictures and of what must be known it is told where they are used.
  cameras: true,
  images: true,
  textures: true,
  samplers: true,
  extensionsUsed: true,
  extensionsRequired: true,
  animations: true,
  skins: true,
  nodes: [{ ...NOTES, mesh: true, children: true, matrix: true, translation: true, rotation: true, scale: true }],
  meshes: [{ ...NOTES, primitives: [{ ...NOTES, attributes: true, indices: true, material: true, mode: true }] }],
  materials: [
    {
      ...NOTES,
      // How a surface shines is no colour, and a closed solid has no other side.
      pbrMetallicRoughness: {
        ...NOTES,
        baseColorFactor: true,
        metallicFactor: true,
        roughnessFactor: true,
        baseColorTexture: true,
      },
      alphaMode: true,
      alphaCutoff: true,
      doubleSided: true,
      emissiveFactor: true,
    },
  ],
  accessors: [
    {
      ...{ ...NOTES, bufferView: true, byteOffset: true, componentType: true, normalized: true, count: true, type: true },
      ...{ sparse: true, min: true, max: true },
    },
  ],
  bufferViews: [{ ...NOTES, buffer: true, byteOffset: true, byteLength: true, byteStride: true, target: true }],
  buffers: [{ ...NOTES, uri: true, byteLength: true }],
};

/** Tells of members that are not read, and of how surfaces are painted where that is more than a colour. */
export function reportUnknownMembers(document: Gltf, told: Tally): void {
  unknownMembers(document, KNOWN, (member) => told.add(`“${member}” of a glTF`));
  for (const material of document.materials) {
    const { alphaMode, emissiveFactor } = material as { readonly alphaMode?: unknown; readonly emissiveFactor?: unknown };
    if (alphaMode !== undefined && alphaMode !== 'OPAQUE') told.add('surface that lets through');
    if (Array.isArray(emissiveFactor) && emissiveFactor.some((part) => part !== 0)) told.add('surface that glows');
  }
}
