import { sealZip } from '../../contracts/zip-seal';
import type { ProseBody } from '../../content/prose/prose';
import { type Codec, onlyFile } from '../../contracts/codec';
import { CUSTOM_PART } from '../opc';
import { textsToMaster } from '../texts/bring-in';
import { docxDeclaration } from './declare';
import { readDocx } from './read';
import { writeDocx } from './write';

export const docxCodec = {
  declaration: docxDeclaration,
  write: ({ leaves: [leaf] }, options, mark) => onlyFile(writeDocx(leaf!.label, leaf!.body as ProseBody, options, mark)),
  seal: (files, says) => sealZip(files, CUSTOM_PART, says),
  read: async (files, _hints, services) => {
    const { name, body, mark, notUnderstood } = await readDocx(files[0]!.bytes, services);
    return { leaves: [{ kind: 'prose', key: '', label: name, body }], mark, notUnderstood };
  },
  bringIn: async (bytes, file, services = {}) => {
    const { name, body, ...read } = await readDocx(bytes, services);
    return textsToMaster([{ name, ...body }], body.pictures, bytes, file, read);
  },
} satisfies Codec;
