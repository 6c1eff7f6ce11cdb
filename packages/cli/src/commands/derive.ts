import { existsSync, statSync } from 'node:fs';
import { join } from 'node:path';
import {
  Failure,
  declarationOf,
  fitSize,
  type NativePackage,
  partName,
  passwordWeakness,
  type Recipe,
  type SizedOptions,
} from '@inkwell-twin/core';
import { readMaster, services } from '../files';
import type { Answer } from '../output';
import { type Arguments, differenceLines, need, reportLines } from './shared';
import { deriveSeveral } from './derive-several';
import { recipeFor } from './recipe-for';
import { deriveVariants } from './variants';
import { copyName, writeOne } from './write-copy';

export async function deriveCopy(args: Arguments): Promise<Answer> {
  need(
    args.files,
    1,
    'derive MASTER --to TARGET [--set option=value]... [--board NAME]... [--out FILE|DIR] [--variants ROWS] [--password-file F]',
  );
  if (args.files.length > 1 || args.presets.length > 1) return deriveSeveral(args);
  const pkg = readMaster(args.files[0]!);
  const recipe = recipeFor(pkg, args);
  if (args.serial && args.variants === undefined) throw new Failure('usage', '--serial numbers the rows of --variants.');
  if (args.variants !== undefined && args.most !== undefined)
    throw new Failure('usage', '--fit-size is for one copy: say options with --set for variants.');
  if (args.variants !== undefined) return deriveVariants(pkg, recipe, args.variants, args);
  const fitted = args.most === undefined ? null : await fitSize(pkg, recipe, args.most, services(pkg));
  return deriveOne(pkg, fitted?.recipe ?? recipe, args.out, fitted?.tried, args.password);
}

async function deriveOne(
  pkg: NativePackage,
  recipe: Recipe,
  wanted: string | undefined,
  tried: readonly SizedOptions[] = [],
  password?: string,
): Promise<Answer> {
  const name = copyName(pkg, recipe);
  const out = wanted === undefined ? name : isFolder(wanted) ? join(wanted, name) : wanted;
  const { made, bytes } = await writeOne(pkg, recipe, out, password);
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
      ...(password === undefined ? [] : [lockedInWords(recipe, password)]),
      ...reportLines(made.report),
      ...(made.defects.length ? ['Read back, it came out otherwise than said:', ...differenceLines(made.defects)] : []),
    ],
  };
}

/** With what a copy is locked, and what is weak about it. */
const lockedInWords = ({ target, options }: Recipe, password: string): string =>
  `  locked with ${declarationOf(target).locks!(options)}. ${passwordWeakness(password)}`.trimEnd();

const stepInWords = ({ options, bytes }: SizedOptions): string =>
  `${
    Object.entries(options)
      .map(([name, value]) => `${name}=${value}`)
      .join(' ') || 'as asked for'
  }: ${bytes} bytes`;

const isFolder = (out: string): boolean => out.endsWith('/') || (existsSync(out) && statSync(out).isDirectory());
