import { sealText } from '../../bytes/seal';
import { PLAIN } from '../../tables/typed';
import { type Codec, onlyFile } from '../codec';
import { gridsToMaster } from '../tables/bring-in';
import { htmlDeclaration } from './declare';
import { readHtml } from './read';
import { writeHtml } from './write';

export const htmlCodec = {
  declaration: htmlDeclaration,
  write: ({ leaves }, _options, mark) => onlyFile(writeHtml(leaves, mark)),
  seal: sealText,
  read: (files) => {
    const { tables, mark, notUnderstood } = readHtml(files[0]!.bytes);
    return { leaves: tables.map(({ name, grid }) => ({ kind: 'grid', key: '', label: name, body: grid })), mark, notUnderstood };
  },
  bringIn: (bytes, name) => {
    const { tables, mark, notUnderstood } = readHtml(bytes);
    return { master: gridsToMaster(tables, bytes, name, PLAIN), mark, notUnderstood };
  },
} satisfies Codec;
