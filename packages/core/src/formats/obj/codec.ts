import { sealText } from '../../contracts/seal';
import { parseMark } from '../../contracts/mark';
import { type Codec, onlyFile } from '../../contracts/codec';
import { meshesToMaster } from '../solids/bring-in';
import { frameOf } from '../solids/frame';
import { lookAtTriangles } from '../solids/look';
import { objDeclaration } from './declare';
import { readObj } from './read';
import { writeObj } from './write';

/** The unit and the axis that the mark in a file names: the format itself names none. */
function statedIn(bytes: Uint8Array): Readonly<Record<string, unknown>> {
  const mark = parseMark(new TextDecoder().decode(bytes.subarray(0, 4096)).split('\n')[0] ?? '');
  try {
    return mark ? ((JSON.parse(mark.how) as { options?: Record<string, unknown> }).options ?? {}) : {};
  } catch {
    return {};
  }
}

export const objCodec = {
  declaration: objDeclaration,
  write: ({ leaves }, options, mark) => onlyFile(writeObj(leaves, options, mark)),
  seal: sealText,
  read: (files, { options }) => readObj(files[0]!.bytes, frameOf(options ?? statedIn(files[0]!.bytes))),
  look: (bytes, name, wishes) =>
    lookAtTriangles(
      readObj(bytes, frameOf({ ...statedIn(bytes), ...wishes })).leaves.map(({ body }) => body),
      name,
      { ...frameOf({ ...statedIn(bytes), ...wishes }), ...wishes },
    ),
  bringIn: (bytes, name, _means, wishes) => {
    const { leaves, mark, notUnderstood } = readObj(bytes, frameOf({ ...statedIn(bytes), ...wishes }));
    const meshes = leaves.map(({ label, body }) => ({ name: label, mesh: body }));
    return { ...meshesToMaster(meshes, bytes, name, notUnderstood), mark };
  },
} satisfies Codec;
