import { sealZip } from '../../contracts/zip-seal';
import { type Codec, onlyFile } from '../../contracts/codec';
import { meshesToMaster } from '../solids/bring-in';
import { threeMfDeclaration } from './declare';
import { readThreeMf } from './read';
import { MARK_ENTRY, writeThreeMf } from './write';

export const threeMfCodec = {
  declaration: threeMfDeclaration,
  write: ({ leaves }, options, mark) => onlyFile(writeThreeMf(leaves, options, mark)),
  seal: (files, says) => sealZip(files, MARK_ENTRY, says),
  read: (files) => readThreeMf(files[0]!.bytes),
  bringIn: (bytes, name) => {
    const { leaves, mark, notUnderstood } = readThreeMf(bytes);
    const meshes = leaves.map(({ label, body }) => ({ name: label, mesh: body }));
    return { ...meshesToMaster(meshes, bytes, name, notUnderstood), mark };
  },
} satisfies Codec;
