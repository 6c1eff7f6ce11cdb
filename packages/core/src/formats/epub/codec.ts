import { sealZip } from '../../contracts/zip-seal';
import { type Codec, onlyFile } from '../../contracts/codec';
import { textsToMaster } from '../texts/bring-in';
import { epubDeclaration } from './declare';
import { readEpub } from './read';
import { PACKAGE_ENTRY, writeEpub } from './write';

export const epubCodec = {
  declaration: epubDeclaration,
  write: ({ leaves }, _options, mark) => onlyFile(writeEpub(leaves, mark)),
  seal: (files, says) => sealZip(files, PACKAGE_ENTRY, says),
  read: (files, _hints, services) => readEpub(files[0]!.bytes, services),
  bringIn: async (bytes, file, services = {}) => {
    const { leaves, ...read } = await readEpub(bytes, services);
    const pictures = Object.assign({}, ...leaves.map(({ body }) => body.pictures)) as (typeof leaves)[number]['body']['pictures'];
    const texts = leaves.map(({ label, body: { language, blocks } }) => ({ name: label, language, blocks }));
    return textsToMaster(texts, pictures, bytes, file, read);
  },
} satisfies Codec;
