import { existsSync, mkdirSync, statSync } from 'node:fs';
import { basename, join } from 'node:path';
import {
  Failure,
  asFailure,
  bringInAny,
  codecOf,
  declarations,
  freeName,
  type Master,
  type NativePackage,
  parseOptions,
  partWishes,
  type Recipe,
  recipeOf,
  variantColumns,
  variantValues,
  variantsOf,
} from '@inkwell-twin/core';
import { inFile, readBytes, services } from '../files';
import type { Answer } from '../output';
import type { Arguments } from './shared';
import { copyName, writeOne } from './write-copy';

/** A row of the file: its number as a person counts, what it is called, and the recipe of its copy. */
interface Variant {
  readonly row: number;
  readonly name: string;
  readonly recipe: Recipe;
  readonly file: string;
}

interface RowFailure {
  readonly row: number;
  readonly message: string;
}

/** What a file holds; one that its bytes don't tell, as rows of a single word, by its extension. */
async function tableIn(bytes: Uint8Array, name: string): Promise<{ readonly master: Master }> {
  const extension = name.slice(name.lastIndexOf('.') + 1).toLowerCase();
  const named = declarations().find((one) => one.extension(parseOptions(one, {})) === extension);
  const { bringIn } = named ? await codecOf(named.id) : {};
  return bringIn ? bringIn(bytes, name, services(), partWishes({})) : bringInAny(bytes, name, services());
}

/**
 * The rows of a file: what they give to parameters goes into the recipes, so that a copy can be checked without the file.
 * All names are settled before anything is written.
 * @throws Failure `variant-invalid` where it has no rows, or columns that are no parameters
 */
async function variantsIn(
  pkg: NativePackage,
  recipe: Recipe,
  file: string,
  serial: string,
): Promise<{ variants: Variant[]; wrong: RowFailure[] }> {
  const bytes = readBytes(file);
  const read = await inFile(file, () => tableIn(bytes, basename(file)));
  const { parameters = [] } = pkg.master;
  const table = read.master.tables?.[0];
  if (!table?.rows.length)
    throw new Failure(
      'variant-invalid',
      `${file} has no rows. Its first line names parameters, and each further line is a copy.`,
      { file },
    );
  const unknown = table.columns.filter((column) => !variantColumns(pkg.master, { columns: [column] }).length);
  if (unknown.length) {
    const names = unknown.map(({ name }) => `“${name}”`).join(', ');
    const known = parameters.map(({ name }) => name).join(', ') || 'none yet';
    throw new Failure('variant-invalid', `${file}: no parameter of this master is called ${names}. It has: ${known}.`, { file });
  }
  const rows = { ...table, name: '', key: undefined };
  const master = { ...pkg.master, tables: [rows] };
  const wrong: RowFailure[] = [];
  const files: string[] = [];
  const { target, options, scope, choices } = recipe;
  const variants = variantsOf(master, rows, serial).flatMap(({ name, problem }, at): Variant[] => {
    if (problem) {
      wrong.push({ row: at + 1, message: problem });
      return [];
    }
    const own = recipeOf(target, options, scope, undefined, choices, { values: variantValues(master, rows, at) });
    const free = freeName(copyName(pkg, own, name), files);
    files.push(free);
    return [{ row: at + 1, name, recipe: own, file: free }];
  });
  return { variants, wrong };
}

/**
 * One copy a row. A row that fails does not stop the others; its number and what is wrong are said at the end.
 * @param file rows as CSV, or any other format that comes in as a table
 * @param args the folder that the copies go to, the current one where nothing is said; what rows are numbered from; what locks them
 */
export async function deriveVariants(
  pkg: NativePackage,
  recipe: Recipe,
  file: string,
  { out = '.', serial, password }: Pick<Arguments, 'out' | 'serial' | 'password'>,
): Promise<Answer> {
  if (existsSync(out) && !statSync(out).isDirectory())
    throw new Failure('usage', `With --variants, --out is a folder, and ${out} is a file.`);
  const { variants, wrong } = await variantsIn(pkg, recipe, file, serial);
  mkdirSync(out, { recursive: true });
  const copies: { row: number; name: string; out: string; bytes: number; says: string }[] = [];
  for (const one of variants)
    try {
      const path = join(out, one.file);
      const { made, bytes } = await writeOne(pkg, one.recipe, path, password);
      copies.push({ row: one.row, name: one.name, out: path, bytes, says: made.says });
      if (made.defects.length)
        wrong.push({ row: one.row, message: 'Read back, it came out otherwise than said: this is a defect of ours.' });
    } catch (error) {
      wrong.push({ row: one.row, message: asFailure(error).message });
    }
  wrong.sort((a, b) => a.row - b.row);
  return {
    code: wrong.length ? 1 : 0,
    output: { command: 'variants', file, copies, failed: wrong },
    lines: [
      ...copies.map((one) => `${one.out}: ${one.bytes} bytes, r${pkg.rev}`),
      `${copies.length} of ${variants.length + wrong.filter(({ row }) => !variants.some((one) => one.row === row)).length} rows became copies`,
      ...wrong.map(({ row, message }) => `  row ${row}: ${message}`),
    ],
  };
}
