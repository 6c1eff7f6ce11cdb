import { existsSync, mkdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { Failure, asFailure, freeName, type NativePackage, type Recipe } from '@inkwell-twin/core';
import { writeWhole } from '@inkwell-twin/render';
import { readMaster } from '../files';
import type { Answer, Output } from '../output';
import { recipeFor } from './recipe-for';
import type { Arguments } from './shared';
import { copyName, writeOne } from './write-copy';

type Summary = Extract<Output, { command: 'several' }>;

/** A copy that is to be written, under a name that is settled. */
interface Wanted {
  readonly file: string;
  readonly settings: string;
  readonly pkg: NativePackage;
  readonly recipe: Recipe;
  readonly name: string;
}

/**
 * Several masters by several settings: all names are settled before anything is written, and what fails does not keep the rest.
 * @throws Failure `usage` where there is no folder to write to
 */
export async function deriveSeveral(args: Arguments): Promise<Answer> {
  const { files, presets, out = '.', password, summary } = args;
  if (args.variants !== undefined || args.most !== undefined)
    throw new Failure('usage', '--variants and --fit-size are for one master and one kind of copy.');
  if (existsSync(out) && !statSync(out).isDirectory())
    throw new Failure('usage', `Of several copies, --out is a folder, and ${out} is a file.`);
  const failed: Summary['failed'] = [];
  const wanted: Wanted[] = [];
  for (const file of files)
    for (const one of presets.length > 1 ? presets : [null]) {
      const settings = one?.name ?? presets[0]?.name ?? args.to ?? '';
      try {
        const pkg = readMaster(file);
        const own = one
          ? { ...args, to: one.target, options: { ...one.options, ...args.options }, without: [...one.without, ...args.without] }
          : args;
        const recipe = recipeFor(pkg, own);
        const name = freeName(
          copyName(pkg, recipe, presets.length > 1 ? settings : ''),
          wanted.map((before) => before.name),
        );
        wanted.push({ file, settings, pkg, recipe, name });
      } catch (error) {
        failed.push({ file, settings, message: asFailure(error).message });
      }
    }
  mkdirSync(out, { recursive: true });
  const copies: Summary['copies'] = [];
  for (const { file, settings, pkg, recipe, name } of wanted)
    try {
      const path = join(out, name);
      const { made, bytes } = await writeOne(pkg, recipe, path, password);
      if (made.defects.length)
        throw new Failure('defect', 'Read back, it came out otherwise than said: this is a defect of ours.');
      copies.push({ file, settings, out: path, bytes, says: made.says });
    } catch (error) {
      failed.push({ file, settings, message: asFailure(error).message });
    }
  const output: Summary = { command: 'several', copies, failed };
  if (summary !== undefined) writeWhole(summary, new TextEncoder().encode(`${JSON.stringify(output, null, 2)}\n`));
  const total = copies.reduce((sum, { bytes }) => sum + bytes, 0);
  return {
    code: failed.length ? 1 : 0,
    output,
    lines: [
      ...copies.map((one) => `${one.out}: ${one.bytes} bytes`),
      `${copies.length} of ${copies.length + failed.length} copies, ${total} bytes`,
      ...failed.map(({ file, settings, message }) => `  ${file}, ${settings}: ${message}`),
    ],
  };
}
