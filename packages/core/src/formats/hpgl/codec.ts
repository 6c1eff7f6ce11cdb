import { sealText } from '../../contracts/seal';
import type { ToolPath } from '../../content/tool-path/tool-path';
import { type Codec, onlyFile } from '../../contracts/codec';
import { bringInHpgl } from './bring-in';
import { hpglDeclaration } from './declare';
import { readHpgl } from './read';
import { writeHpgl } from './write';

export const hpglCodec = {
  declaration: hpglDeclaration,
  write: ({ leaves }, _options, mark) => onlyFile(writeHpgl(leaves[0]!.body as ToolPath, mark)),
  seal: sealText,
  read: (files) => {
    const { path, mark, notUnderstood } = readHpgl(files[0]!.bytes);
    return { leaves: [{ kind: 'toolPath', key: '', label: '', body: path }], mark, notUnderstood };
  },
  bringIn: bringInHpgl,
} satisfies Codec;
