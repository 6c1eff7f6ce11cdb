import { Failure } from '../base/failure/failure';
import type { Codec, LazyCodec } from '../contracts/codec';
import type { Declaration } from '../contracts/declaration';
import { gathered } from './gathered/codecs';
import { addDeclaration, declarationOf } from './declarations';
/** A target and its reader and writer, which are loaded when they are first asked for. */
export interface Format {
  readonly declaration: Declaration;
  readonly codec: LazyCodec;
}

const known = new Map<string, Format>();

/** Adds targets. Programs add those that need libraries of their own at their entry. */
export function addFormats(formats: readonly Format[]): void {
  for (const format of formats) {
    addDeclaration(format.declaration);
    known.set(format.declaration.id, format);
  }
}
addFormats(Object.entries(gathered).map(([id, codec]) => ({ declaration: declarationOf(id), codec })));

/** Reader and writer of a target. @throws Failure `target-unknown` */
export async function codecOf(target: string): Promise<Codec> {
  const format = known.get(target);
  if (format) return format.codec();
  throw new Failure('target-unknown', `There is no target “${target}”. Known: ${[...known.keys()].join(', ')}.`);
}
