import { Failure } from '../failure/failure';
import type { Codec } from './codec';
import { addDeclaration } from './declarations';
import { csvCodec } from './csv/codec';
import { gltfCodec } from './gltf/codec';
import { objCodec } from './obj/codec';
import { stlCodec } from './stl/codec';
import { threeMfCodec } from './3mf/codec';
import { dxfCodec } from './dxf/codec';
import { hpglCodec } from './hpgl/codec';
import { htmlCodec } from './html/codec';
import { jsonCodec } from './json/codec';
import { nativeCodec } from './native/codec';
import { svgCodec } from './svg/codec';
import { docxCodec } from './docx/codec';
import { epubCodec } from './epub/codec';
import { odtCodec } from './odt/codec';
import { txtCodec } from './txt/codec';
import { xlsxCodec } from './xlsx/codec';

const known = new Map<string, Codec>();

/** Adds targets. Programs add those that need libraries of their own at their entry. */
export function addCodecs(codecs: readonly Codec[]): void {
  for (const codec of codecs) {
    addDeclaration(codec.declaration);
    known.set(codec.declaration.id, codec);
  }
}
addCodecs([
  svgCodec,
  dxfCodec,
  hpglCodec,
  nativeCodec,
  csvCodec,
  xlsxCodec,
  htmlCodec,
  jsonCodec,
  stlCodec,
  threeMfCodec,
  objCodec,
  gltfCodec,
  odtCodec,
  docxCodec,
  epubCodec,
  txtCodec,
]);

/** Reader and writer of a target. @throws Failure `target-unknown` */
export function codecOf(target: string): Codec {
  const codec = known.get(target);
  if (codec) return codec;
  throw new Failure('target-unknown', `There is no target “${target}”. Known: ${[...known.keys()].join(', ')}.`);
}

/** All targets with their readers and writers. */
export const codecs = (): readonly Codec[] => [...known.values()];
