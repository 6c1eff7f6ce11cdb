import { type Scope, textsOf } from '../../contracts/scope';
import type { Master } from '../../document/schema';
import { declaration } from './index';
import type { ContentKind } from '../../contracts/kind';
import { packObject, unpackObject } from '../../contracts/packing';
import { type ProseSource, adaptProse } from './adapt';
import { compareProse } from './compare';
import { digestProse } from './digest';
import { type ProseCarries } from './features';
import type { ProseBody } from './prose';
import { sampleProse } from './sample';

/** Texts that flow: paragraphs, headings, lists, tables, pictures and notes. */
export const kind: ContentKind<ProseSource, ProseBody, ProseCarries> = {
  ...declaration,
  resolve: (master: Master, scope: Scope) => {
    const mediaTypes = new Map(master.resources.map(({ id, mediaType }) => [id, mediaType]));
    return textsOf(master, scope).map((text) => ({ key: text.id, label: text.name, source: { text, mediaTypes } }));
  },
  label: (name, { names }) => (names === 'left out' ? '' : name.replace(/\s+/g, ' ').trim()),
  namedAlone: true,
  withoutLengths: true,
  adapt: adaptProse,
  digest: digestProse,
  sample: sampleProse,
  compare: compareProse,
  pack: packObject,
  unpack: unpackObject,
};
