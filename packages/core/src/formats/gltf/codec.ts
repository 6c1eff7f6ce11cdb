import { sealText } from '../../contracts/seal';
import { type Codec, onlyFile } from '../../contracts/codec';
import { meshesToMaster } from '../solids/bring-in';
import { gltfDeclaration } from './declare';
import { withBuffersInside } from './beside';
import { readGltf } from './read';
import { writeGltf } from './write';

export const gltfCodec = {
  declaration: gltfDeclaration,
  write: ({ leaves }, options, mark) => onlyFile(writeGltf(leaves, options, mark)),
  seal: sealText,
  withBeside: withBuffersInside,
  read: (files) => readGltf(files[0]!.bytes),
  bringIn: (bytes, name) => {
    const { leaves, mark, notUnderstood } = readGltf(bytes);
    const meshes = leaves.map(({ label, body }) => ({ name: label, mesh: body }));
    return { ...meshesToMaster(meshes, bytes, name, notUnderstood), mark };
  },
} satisfies Codec;
