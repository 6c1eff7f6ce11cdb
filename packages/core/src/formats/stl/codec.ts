import type { Mesh } from '../../contracts/mesh';
import type { Codec } from '../../contracts/codec';
import type { NotUnderstood } from '../../contracts/not-understood';
import { ORIGIN, originFile, originOf, sealOrigin } from '../origin-file';
import { meshesToMaster } from '../solids/bring-in';
import { frameOf } from '../solids/frame';
import { lookAtTriangles } from '../solids/look';
import { stlDeclaration } from './declare';
import { type ReadStl, readStl } from './read';
import { writeStl } from './write';

const toldOf = ({ against, attributes, rest }: ReadStl): NotUnderstood[] =>
  (
    [
      ['normal against its triangle', against],
      ['attribute of a triangle', attributes],
      ['byte after the last triangle', rest],
    ] as const
  ).flatMap(([kind, count]) => (count ? [{ kind, count, shows: true }] : []));

export const stlCodec = {
  declaration: stlDeclaration,
  write: ({ leaves }, options, mark) => [
    { part: '', bytes: writeStl(leaves[0]!.body as Mesh, options) },
    originFile(mark, options),
  ],
  seal: sealOrigin,
  read: (files, { options }) => {
    const { origin = null, ...said } = originOf(files);
    const read = readStl(files[0]!.bytes, frameOf(options ?? said));
    return { leaves: [{ kind: 'mesh', key: '', label: '', body: read.mesh }], mark: origin, notUnderstood: toldOf(read) };
  },
  beside: () => [ORIGIN],
  look: (bytes, name, wishes) => lookAtTriangles([readStl(bytes, frameOf(wishes)).mesh], name, wishes),
  bringIn: (bytes, name, _means, wishes) => {
    const read = readStl(bytes, frameOf(wishes));
    return {
      ...meshesToMaster([{ name: read.encoding === 'text' ? read.name : '', mesh: read.mesh }], bytes, name, toldOf(read)),
      mark: null,
    };
  },
} satisfies Codec;
