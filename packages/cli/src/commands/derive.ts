import { existsSync, statSync } from 'node:fs';
import { join } from 'node:path';
import {
  codecOf,
  declarationOf,
  DEFAULT_PATTERN,
  derive,
  Failure,
  fileName,
  fixedScope,
  isNativeCopy,
  looksNative,
  NATIVE_EXTENSION,
  parseMark,
  partName,
  type Recipe,
  fittedTo,
  optionsByMaster,
  recognise,
  scopeInWords,
  versionIn,
} from '@inkwell-twin/core';
import { writeWhole } from '@inkwell-twin/render';
import { services, readBytes, readMaster } from '../files';
import type { Answer } from '../output';
import { type Arguments, differenceLines, filesBeside, need, recipeFrom, reportLines } from './shared';

export async function deriveCopy(args: Arguments): Promise<Answer> {
  need(args.files, 1, 'derive MASTER --to TARGET [--set option=value]... [--board NAME]... [--out FILE|DIR]');
  const pkg = readMaster(args.files[0]!);
  const { master, rev } = pkg;
  const names = args.to ? Object.keys(declarationOf(args.to).options.shape) : [];
  // Words, as if they had been given on the line.
  const options = Object.fromEntries(
    Object.entries(optionsByMaster(master, names, args.options)).map(([name, value]) => [name, String(value)]),
  );
  const asked = fittedTo(recipeFrom({ ...args, options }), master);
  // By their ids, so that the copy keeps to its parts when they get other names.
  const named = asked.scope.of !== 'master' && asked.scope.ids.length > 0;
  const recipe = named ? { ...asked, scope: fixedScope(master, asked.scope) } : asked;
  const made = await derive(pkg, recipe, services(pkg));
  const declaration = declarationOf(recipe.target);
  const parts = {
    title: master.title,
    board: scopeInWords(master, recipe.scope),
    rev,
    version: versionIn(declaration, recipe.options),
  };
  const name = fileName(DEFAULT_PATTERN, parts, declaration.extension(recipe.options));
  const isFolder =
    args.out !== undefined && (args.out.endsWith('/') || (existsSync(args.out) && statSync(args.out).isDirectory()));
  const out = args.out === undefined ? name : isFolder ? join(args.out, name) : args.out;
  for (const { part, bytes } of made.files) await protect(partName(out, part), bytes, master.id, recipe);
  for (const { part, bytes } of made.files) writeWhole(partName(out, part), bytes);
  const bytes = made.files.reduce((sum, file) => sum + file.bytes.length, 0);
  return {
    code: made.defects.length ? 1 : 0,
    output: {
      command: 'derive',
      out,
      parts: made.files.slice(1).map(({ part }) => partName(out, part)),
      bytes,
      says: made.says,
      report: made.report,
      defects: [...made.defects],
    },
    lines: [
      `${out}: ${bytes} bytes, r${rev}${made.files.length > 1 ? `, in ${made.files.length} files` : ''}`,
      ...reportLines(made.report),
      ...(made.defects.length ? ['Read back, it came out otherwise than said:', ...differenceLines(made.defects)] : []),
    ],
  };
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
    const files = codec?.beside ? filesBeside(out, bytes, codec) : [{ part: '', bytes }];
    // A file that stands beside a copy says its mark in plain text.
    mark = parseMark(
      codec ? (await codec.read(files, {}, services())).mark : new TextDecoder('latin1').decode(bytes.subarray(0, 65_536)),
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
