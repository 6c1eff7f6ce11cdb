import { existsSync } from 'node:fs';
import {
  codecOf,
  declarationOf,
  DEFAULT_PATTERN,
  type Derived,
  derive,
  Failure,
  fileName,
  isNativeCopy,
  locked,
  looksNative,
  markOutside,
  NATIVE_EXTENSION,
  type NativePackage,
  parseMark,
  partName,
  type Recipe,
  recognise,
  scopeInWords,
  versionIn,
} from '@inkwell-twin/core';
import { writeWhole } from '@inkwell-twin/render';
import { readBytes, services } from '../files';
import { filesBeside } from './shared';

/** The name of a copy by the usual pattern. @param variant what its row is called */
export function copyName({ master, rev }: NativePackage, recipe: Recipe, variant = ''): string {
  const declaration = declarationOf(recipe.target);
  const parts = {
    title: `${master.title} ${variant}`.trim(),
    board: scopeInWords(master, recipe.scope),
    rev,
    version: versionIn(declaration, recipe.options),
  };
  return fileName(DEFAULT_PATTERN, parts, declaration.extension(recipe.options));
}

/** Derives a copy and writes it under a name. @throws Failure `name-taken` and those of `derive` */
export async function writeOne(
  pkg: NativePackage,
  recipe: Recipe,
  out: string,
  password?: string,
): Promise<{ made: Derived; bytes: number }> {
  const plain = await derive(pkg, recipe, services(pkg));
  const made = password === undefined ? plain : await locked(plain, recipe, password, services(pkg));
  for (const { part, bytes } of made.files) await protect(partName(out, part), bytes, pkg.master.id, recipe);
  for (const { part, bytes } of made.files) writeWhole(partName(out, part), bytes);
  return { made, bytes: made.files.reduce((sum, file) => sum + file.bytes.length, 0) };
}

/** Nothing lands on a master, nor on a copy that another recipe made, nor on a file of unknown origin; what is there already may be. */
async function protect(out: string, made: Uint8Array, master: string, recipe: Recipe): Promise<void> {
  if (!existsSync(out)) return;
  const bytes = readBytes(out);
  if (Buffer.compare(bytes, made) === 0) return;
  if (looksNative(bytes) || (out.endsWith(`.${NATIVE_EXTENSION}`) && !isNativeCopy(bytes)))
    throw new Failure('name-taken', `${out} is a master; a copy is never written over one. Choose another name.`, {
      file: out,
    });
  const target = recognise(bytes);
  let mark = null;
  try {
    const codec = target && (await codecOf(target.id));
    const outside = codec && markOutside(codec, bytes);
    const files = codec?.beside ? filesBeside(out, bytes, codec) : [{ part: '', bytes }];
    // A file that stands beside a copy says its mark in plain text.
    mark = parseMark(
      outside ??
        (codec ? (await codec.read(files, {}, services())).mark : new TextDecoder('latin1').decode(bytes.subarray(0, 65_536))),
    );
  } catch {
    // What can't be read has no mark that would allow it to be replaced.
  }
  if (mark?.master !== master || mark.recipe !== recipe.id)
    throw new Failure(
      'name-taken',
      `${out} exists already and was not made by this recipe. Choose another name, or move it away.`,
      { file: out },
    );
}
