import { sealText } from '../../contracts/seal';
import { PLAIN } from '../../evaluate/tables/typed';
import { type Codec, onlyFile } from '../../contracts/codec';
import { gridsToMaster } from '../tables/bring-in';
import { textsToMaster } from '../texts/bring-in';
import { withPicturesInside } from '../beside';
import { htmlDeclaration } from './declare';
import { readHtml } from './read';
import { writeHtml } from './write';

export const htmlCodec = {
  declaration: htmlDeclaration,
  write: ({ leaves }, _options, mark) => onlyFile(writeHtml(leaves, mark)),
  seal: sealText,
  read: async (files, _hints, services) => {
    const { tables, texts, mark, notUnderstood } = await readHtml(files[0]!.bytes, services);
    const grids = tables.map(({ name, grid }) => ({ kind: 'grid', key: '', label: name, body: grid }) as const);
    return { leaves: [...grids, ...texts], mark, notUnderstood };
  },
  withBeside: (bytes, beside) => withPicturesInside(bytes, 'img', 'src', beside),
  bringIn: async (bytes, name, services = {}) => {
    const { tables, texts, mark, notUnderstood } = await readHtml(bytes, services);
    if (!texts.length) return { master: gridsToMaster(tables, bytes, name, PLAIN), mark, notUnderstood };
    const pictures = Object.assign({}, ...texts.map(({ body }) => body.pictures)) as (typeof texts)[number]['body']['pictures'];
    const read = texts.map(({ label, body: { language, blocks } }) => ({ name: label, language, blocks }));
    const brought = textsToMaster(read, pictures, bytes, name, { mark, notUnderstood });
    // A page of ours may hold tables beside its texts.
    const own = tables.length ? gridsToMaster(tables, bytes, name, PLAIN).tables : undefined;
    return own ? { ...brought, master: { ...brought.master, tables: own } } : brought;
  },
} satisfies Codec;
