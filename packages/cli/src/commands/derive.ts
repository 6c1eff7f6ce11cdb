import { existsSync, statSync } from 'node:fs';
import { join } from 'node:path';
import {
  Failure,
  declarationOf,
  fitSize,
  fittedTo,
  fixedScope,
  type NativePackage,
  optionsByMaster,
  partName,
  type Recipe,
  type SizedOptions,
} from '@inkwell-twin/core';
import { readMaster, services } from '../files';
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
  if (args.variants !== undefined && args.most !== undefined)
    throw new Failure('usage', '--fit-size is for one copy: say options with --set for variants.');
  if (args.variants !== undefined) return deriveVariants(pkg, recipe, args.variants, args.out);
  const fitted = args.most === undefined ? null : await fitSize(pkg, recipe, args.most, services(pkg));
  return deriveOne(pkg, fitted?.recipe ?? recipe, args.out, fitted?.tried);
}

async function deriveOne(
  pkg: NativePackage,
  recipe: Recipe,
  wanted: string | undefined,
  tried: readonly SizedOptions[] = [],
): Promise<Answer> {
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
      tried: tried.map(({ options, bytes }) => ({ options, bytes })),
    },
    lines: [
      `${out}: ${bytes} bytes, r${pkg.rev}${made.files.length > 1 ? `, in ${made.files.length} files` : ''}`,
      ...tried.map((one) => `  tried ${stepInWords(one)}`),
      ...reportLines(made.report),
      ...(made.defects.length ? ['Read back, it came out otherwise than said:', ...differenceLines(made.defects)] : []),
    ],
  };
}

const stepInWords = ({ options, bytes }: SizedOptions): string =>
  `${
    Object.entries(options)
      .map(([name, value]) => `${name}=${value}`)
      .join(' ') || 'as asked for'
  }: ${bytes} bytes`;

const isFolder = (out: string): boolean => out.endsWith('/') || (existsSync(out) && statSync(out).isDirectory());
