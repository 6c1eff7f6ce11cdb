import type { MaybePromise } from '../contracts/services';
import { Failure } from '../base/failure/failure';
import type { Codec } from '../contracts/codec';
import type { Declaration } from '../contracts/declaration';
import { addDeclaration } from './declarations';
import { csvDeclaration } from './csv/declare';
import { docxDeclaration } from './docx/declare';
import { dxfDeclaration } from './dxf/declare';
import { epubDeclaration } from './epub/declare';
import { gltfDeclaration } from './gltf/declare';
import { hpglDeclaration } from './hpgl/declare';
import { htmlDeclaration } from './html/declare';
import { jsonDeclaration } from './json/declare';
import { nativeDeclaration } from './native/declare';
import { objDeclaration } from './obj/declare';
import { odtDeclaration } from './odt/declare';
import { stlDeclaration } from './stl/declare';
import { svgDeclaration } from './svg/declare';
import { threeMfDeclaration } from './3mf/declare';
import { txtDeclaration } from './txt/declare';
import { xlsxDeclaration } from './xlsx/declare';

/** A target and its reader and writer, which are loaded when they are first asked for. */
export interface Format {
  readonly declaration: Declaration;
  readonly codec: () => MaybePromise<Codec>;
}

const known = new Map<string, Format>();

/** Adds targets. Programs add those that need libraries of their own at their entry. */
export function addFormats(formats: readonly Format[]): void {
  for (const format of formats) {
    addDeclaration(format.declaration);
    known.set(format.declaration.id, format);
  }
}
addFormats([
  { declaration: svgDeclaration, codec: async () => (await import('./svg/codec')).svgCodec },
  { declaration: dxfDeclaration, codec: async () => (await import('./dxf/codec')).dxfCodec },
  { declaration: hpglDeclaration, codec: async () => (await import('./hpgl/codec')).hpglCodec },
  { declaration: nativeDeclaration, codec: async () => (await import('./native/codec')).nativeCodec },
  { declaration: csvDeclaration, codec: async () => (await import('./csv/codec')).csvCodec },
  { declaration: xlsxDeclaration, codec: async () => (await import('./xlsx/codec')).xlsxCodec },
  { declaration: htmlDeclaration, codec: async () => (await import('./html/codec')).htmlCodec },
  { declaration: jsonDeclaration, codec: async () => (await import('./json/codec')).jsonCodec },
  { declaration: stlDeclaration, codec: async () => (await import('./stl/codec')).stlCodec },
  { declaration: threeMfDeclaration, codec: async () => (await import('./3mf/codec')).threeMfCodec },
  { declaration: objDeclaration, codec: async () => (await import('./obj/codec')).objCodec },
  { declaration: gltfDeclaration, codec: async () => (await import('./gltf/codec')).gltfCodec },
  { declaration: odtDeclaration, codec: async () => (await import('./odt/codec')).odtCodec },
  { declaration: docxDeclaration, codec: async () => (await import('./docx/codec')).docxCodec },
  { declaration: epubDeclaration, codec: async () => (await import('./epub/codec')).epubCodec },
  { declaration: txtDeclaration, codec: async () => (await import('./txt/codec')).txtCodec },
]);

/** Reader and writer of a target. @throws Failure `target-unknown` */
export async function codecOf(target: string): Promise<Codec> {
  const format = known.get(target);
  if (format) return format.codec();
  throw new Failure('target-unknown', `There is no target “${target}”. Known: ${[...known.keys()].join(', ')}.`);
}
