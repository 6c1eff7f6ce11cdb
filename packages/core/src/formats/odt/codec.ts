import { sealZip } from '../../contracts/zip-seal';
import type { ProseBody } from '../../content/prose/prose';
import { type Codec, onlyFile } from '../../contracts/codec';
import { textsToMaster } from '../texts/bring-in';
import { odtDeclaration } from './declare';
import { readOdt } from './read';
import { MARK_ENTRY, writeOdt } from './write';

export const odtCodec = {
  declaration: odtDeclaration,
  write: ({ leaves: [leaf] }, options, mark) => onlyFile(writeOdt(leaf!.label, leaf!.body as ProseBody, options, mark)),
  seal: (files, says) => sealZip(files, MARK_ENTRY, says),
  read: async (files, _hints, services) => {
    const { name, body, mark, notUnderstood } = await readOdt(files[0]!.bytes, services);
    return { leaves: [{ kind: 'prose', key: '', label: name, body }], mark, notUnderstood };
  },
  bringIn: async (bytes, file, services = {}) => {
    const { name, body, ...read } = await readOdt(bytes, services);
    return textsToMaster([{ name, ...body }], body.pictures, bytes, file, read);
  },
} satisfies Codec;
