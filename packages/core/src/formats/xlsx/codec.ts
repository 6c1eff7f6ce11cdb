import { sealZip } from '../../contracts/zip-seal';
import { PLAIN } from '../../evaluate/tables/typed';
import { type Codec, onlyFile } from '../../contracts/codec';
import { gridsToMaster, settledGrids } from '../tables/bring-in';
import { xlsxDeclaration } from './declare';
import { readXlsx } from './read';
import { MARK_ENTRY, writeXlsx } from './write';

export const xlsxCodec = {
  declaration: xlsxDeclaration,
  write: ({ leaves }, _options, mark) => onlyFile(writeXlsx(leaves, mark)),
  seal: (files, says) => sealZip(files, MARK_ENTRY, says),
  read: (files) => {
    const { tables, mark, notUnderstood } = readXlsx(files[0]!.bytes);
    return { leaves: tables.map(({ name, grid }) => ({ kind: 'grid', key: '', label: name, body: grid })), mark, notUnderstood };
  },
  bringIn: (bytes, name) => {
    const { tables: read, mark, notUnderstood } = readXlsx(bytes);
    const { tables, told } = settledGrids(read);
    return { master: gridsToMaster(tables, bytes, name, PLAIN), mark, notUnderstood: [...notUnderstood, ...told] };
  },
} satisfies Codec;
