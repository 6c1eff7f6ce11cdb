import type { Machining } from '../../contracts/machining';
import { type Codec, onlyFile } from '../../contracts/codec';
import { sealText } from '../../contracts/seal';
import { stitchDeclaration } from './declare';
import { readStitches } from './read';
import { writeStitches } from './write';

export const stitchCodec = {
  declaration: stitchDeclaration,
  write: ({ leaves }, _options, mark) => onlyFile(writeStitches(leaves[0]!.body as Machining, mark)),
  seal: sealText,
  read: (files) => {
    const { moves, mark, notUnderstood } = readStitches(files[0]!.bytes);
    return { leaves: [{ kind: 'stitching', key: '', label: '', body: moves }], mark, notUnderstood };
  },
} satisfies Codec;
