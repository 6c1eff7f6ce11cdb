import { existsSync, statSync } from 'node:fs';
import { join } from 'node:path';
import {
  boardOf,
  DEFAULT_PATTERN,
  derive,
  Failure,
  fileName,
  looksNative,
  NATIVE_EXTENSION,
  parseMark,
  type Recipe,
  recognise,
} from '@inkwell-twin/core';
import { shippedFonts, writeWhole } from '@inkwell-twin/render';
import { readBytes, readMaster } from '../files';
import type { Answer } from '../output';
import { type Arguments, differenceLines, need, recipeFrom, reportLines } from './shared';

export function deriveCopy(args: Arguments): Answer {
  need(args.files, 1, 'derive MASTER --to TARGET [--set option=value]... [--board NAME] [--out FILE|DIR]');
  const pkg = readMaster(args.files[0]!);
  const { master, rev } = pkg;
  const asked = recipeFrom(args);
  // By its id, so that the copy keeps to its board when that gets another name.
  const recipe = { ...asked, board: asked.board && boardOf(master, asked.board).id };
  const made = derive(pkg, recipe, shippedFonts());
  const board = master.boards.length > 1 ? boardOf(master, recipe.board).name : '';
  const name = fileName(
    DEFAULT_PATTERN,
    { title: master.title, board, rev, version: recipe.target.version(recipe.options) },
    recipe.target.extension,
  );
  const isFolder =
    args.out !== undefined && (args.out.endsWith('/') || (existsSync(args.out) && statSync(args.out).isDirectory()));
  const out = args.out === undefined ? name : isFolder ? join(args.out, name) : args.out;
  protect(out, master.id, recipe);
  writeWhole(out, made.bytes);
  return {
    code: made.defects.length ? 1 : 0,
    output: {
      command: 'derive',
      out,
      bytes: made.bytes.length,
      says: made.says,
      report: made.report as never,
      defects: made.defects as never,
    },
    lines: [
      `${out}: ${made.bytes.length} bytes, r${rev}`,
      ...reportLines(made.report),
      ...(made.defects.length ? ['Read back, it came out otherwise than said:', ...differenceLines(made.defects)] : []),
    ],
  };
}

/** Nothing lands on a master, nor on a copy that another recipe made, nor on a file of unknown origin. */
function protect(out: string, master: string, recipe: Recipe): void {
  if (!existsSync(out)) return;
  const bytes = readBytes(out);
  if (out.endsWith(`.${NATIVE_EXTENSION}`) || looksNative(bytes))
    throw new Failure('name-taken', `${out} is a master; a copy is never written over one. Choose another name.`, {
      file: out,
    });
  const target = recognise(bytes);
  let mark = null;
  try {
    mark = parseMark(target?.read(bytes).mark ?? null);
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
