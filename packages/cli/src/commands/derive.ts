import { existsSync, statSync } from 'node:fs';
import { join } from 'node:path';
import {
  declarationOf,
  fittedTo,
  fixedScope,
  type NativePackage,
  optionsByMaster,
  partName,
  type Recipe,
} from '@inkwell-twin/core';
import { readMaster } from '../files';
import type { Answer } from '../output';
import { type Arguments, differenceLines, need, recipeFrom, reportLines } from './shared';
import { deriveVariants } from './variants';
import { copyName, writeOne } from './write-copy';

export async function deriveCopy(args: Arguments): Promise<Answer> {
  need(args.files, 1, 'derive MASTER --to TARGET [--set option=value]... [--board NAME]... [--out FILE|DIR] [--variants ROWS]');
  const pkg = readMaster(args.files[0]!);
  const { master } = pkg;
  const names = args.to ? Object.keys(declarationOf(args.to).options.shape) : [];
  // Words, as if they had been given on the line.
  const options = Object.fromEntries(
    Object.entries(optionsByMaster(master, names, args.options)).map(([name, value]) => [name, String(value)]),
  );
  const asked = fittedTo(recipeFrom({ ...args, options }), master);
  // By their ids, so that the copy keeps to its parts when they get other names.
  const named = asked.scope.of !== 'master' && asked.scope.ids.length > 0;
  const recipe = named ? { ...asked, scope: fixedScope(master, asked.scope) } : asked;
  return args.variants === undefined ? deriveOne(pkg, recipe, args.out) : deriveVariants(pkg, recipe, args.variants, args.out);
}

async function deriveOne(pkg: NativePackage, recipe: Recipe, wanted: string | undefined): Promise<Answer> {
  const name = copyName(pkg, recipe);
  const out = wanted === undefined ? name : isFolder(wanted) ? join(wanted, name) : wanted;
  const { made, bytes } = await writeOne(pkg, recipe, out);
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
      `${out}: ${bytes} bytes, r${pkg.rev}${made.files.length > 1 ? `, in ${made.files.length} files` : ''}`,
      ...reportLines(made.report),
      ...(made.defects.length ? ['Read back, it came out otherwise than said:', ...differenceLines(made.defects)] : []),
    ],
  };
}

const isFolder = (out: string): boolean => out.endsWith('/') || (existsSync(out) && statSync(out).isDirectory());
