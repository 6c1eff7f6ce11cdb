import { existsSync } from 'node:fs';
import {
  allItems,
  countWithin,
  type CarryReport,
  type Codec,
  type CopyFile,
  type Difference,
  declarations,
  declarationOf,
  differenceInWords,
  Failure,
  type Mark,
  type NativePackage,
  partName,
  type Recipe,
  codecOf,
  recipeOf,
  recipeOfHow,
  type Scope,
} from '@inkwell-twin/core';
import { services, readBytes } from '../files';
import type { Kept } from '../preset';

/** What a command line gives to a command. */
export interface Arguments {
  readonly files: readonly string[];
  readonly to: string | undefined;
  readonly options: Readonly<Record<string, string>>;
  /** Boards by name, in order; none named is the first. */
  readonly boards: readonly string[];
  readonly allBoards: boolean;
  /** Tables by name, in order. */
  readonly tables: readonly string[];
  /** Solids by name, in order. */
  readonly solids: readonly string[];
  /** Texts by name, in order. */
  readonly texts: readonly string[];
  readonly all: boolean;
  /** Objects by id or name; nothing for all. */
  readonly objects: readonly string[];
  /** Features to leave out. */
  readonly without: readonly string[];
  readonly out: string | undefined;
  /** Largest size of a copy, bytes. */
  readonly most: number | undefined;
  /** A file with a row for each copy. */
  readonly variants: string | undefined;
  /** What the rows of that file are numbered from; empty where they are not. */
  readonly serial: string;
  /** What opens copies that are locked, or locks the one that is derived. */
  readonly password: string | undefined;
  readonly newPassword: string | undefined;
  /** Settings by their names, in order. */
  readonly presets: readonly Kept[];
  /** Where a summary of several copies goes. */
  readonly summary: string | undefined;
  /** Prints the page of all targets for the docs. */
  readonly page: boolean;
  readonly tolerance: number | undefined;
  /** How layers of a file that comes in are worked: each `LAYER=process`. */
  readonly processes: readonly string[];
  /** A machine by its id or name, or a file with its profile. */
  readonly machine: string | undefined;
  /** A reader of an older version. */
  readonly as: string | undefined;
  /** A file of house rules. */
  readonly rules: string | undefined;
}

/** What says nothing of how a copy is made. */
export type NotOfRecipe =
  | 'files'
  | 'out'
  | 'page'
  | 'variants'
  | 'serial'
  | 'most'
  | 'password'
  | 'newPassword'
  | 'presets'
  | 'summary'
  | 'machine'
  | 'as'
  | 'rules';

/** @throws Failure `usage` where files are missing on the command line */
export function need(files: readonly string[], count: number, usage: string): void {
  if (files.length < count) throw new Failure('usage', `Use: twin ${usage}`);
}

/** The recipe that --to, --set and --board name. */
export function recipeFrom(args: Omit<Arguments, NotOfRecipe>): Recipe {
  const { to, options, without } = args;
  if (!to)
    throw new Failure(
      'usage',
      `Name a target: --to ${declarations()
        .map(({ id }) => id)
        .join(' | ')}`,
    );
  const known = Object.values(declarationOf(to).carries(recipeOf(to, options).options)).flatMap((one) =>
    Object.keys(one as object),
  );
  for (const feature of without)
    if (!known.includes(feature))
      throw new Failure('usage', `There is no feature “${feature}” in ${to}. Known: ${known.join(', ')}.`);
  const choices = without.map((feature) => ({ feature, take: 'left out' as const }));
  return recipeOf(to, options, scopeFrom(args), undefined, choices);
}

/**
 * How a copy was made: as its mark of origin says, whatever a command line says beside it; without a mark, as the file shows,
 * with what --set says on top.
 * @param target what the file is
 * @returns the recipe, and in words what it was taken from
 */
export async function recipeOfFile(
  bytes: Uint8Array,
  mark: Mark | null,
  target: string,
  args: Omit<Arguments, NotOfRecipe>,
): Promise<{ readonly recipe: Recipe; readonly by: string }> {
  if (mark) {
    const recipe = recipeOfHow(mark.how, mark.recipe);
    const needless = args.to || Object.keys(args.options).length ? '; --to and --set say nothing beside it' : '';
    return { recipe, by: `its mark of origin${needless}` };
  }
  const stated = await (await codecOf(target)).stated?.(bytes, services());
  const recipe = recipeFrom({ ...args, to: target, options: { ...stated, ...args.options } });
  const words = Object.entries(stated ?? {}).map(([name, value]) => `${name} ${args.options[name] ?? value}`);
  const shown = words.length ? `the file itself (${words.join(', ')})` : 'the command line';
  return { recipe, by: `${shown}: it has no mark of origin` };
}

/** The parts that --board, --table, --solid, --text, --all-boards and --all name. */
const scopeFrom = ({
  boards,
  allBoards,
  tables,
  solids,
  texts,
  all,
  objects,
}: Pick<Arguments, 'objects' | 'boards' | 'allBoards' | 'tables' | 'solids' | 'texts' | 'all'>): Scope => {
  if (allBoards || all) return { of: 'master' };
  if (texts.length) return { of: 'texts', ids: [...texts] };
  if (solids.length) return { of: 'solids', ids: [...solids] };
  return tables.length
    ? { of: 'tables', ids: [...tables] }
    : { of: 'boards', ids: [...boards], ...(objects.length ? { objects: [...objects], trimmed: true } : {}) };
};

/** Reads a file that is there; null where it is not. */
const readIfThere = (file: string): Uint8Array | null => (existsSync(file) ? readBytes(file) : null);

/**
 * A copy's files: the one named, and the further ones that stand beside it: those that it says itself, or numbered ones under
 * its name. One that is missing is for the comparison to find.
 */
export function filesBeside(file: string, bytes: Uint8Array, { beside }: Codec): CopyFile[] {
  const files: CopyFile[] = [{ part: '', bytes }];
  if (beside) {
    let named: readonly string[] = [];
    try {
      named = beside(bytes);
    } catch {
      // What can't be read names nothing; reading it says why.
    }
    return [
      ...files,
      ...named.flatMap((part) => {
        const found = readIfThere(partName(file, part));
        return found ? [{ part, bytes: found }] : [];
      }),
    ];
  }
  for (let number = 2; ; number++) {
    const next = readIfThere(partName(file, String(number)));
    if (!next) return files;
    files.push({ part: String(number), bytes: next });
  }
}

/** A carry-over report in lines. */
export const reportLines = (report: CarryReport): string[] => [
  report.sentence,
  ...report.lines.map(({ outcome, what, becomes, count, deviation }) => {
    const off = deviation === null ? '' : `, at most ${deviation.toFixed(4)} mm off`;
    return `  ${outcome.padEnd(12)} ${what} (${count}): ${becomes}${off}`;
  }),
];

/** Differences in lines, the first forty of them. */
export const differenceLines = (differences: readonly Difference[], indent = '  '): string[] => [
  ...differences.slice(0, 40).map((one) => indent + differenceInWords(one)),
  ...(differences.length > 40 ? [`${indent}… and ${differences.length - 40} more`] : []),
];

/** How many objects a master has, groups opened, rows of tables, features of solids and paragraphs of texts. */
export const objectsOf = ({ master }: NativePackage): number =>
  master.boards.reduce((sum, board) => sum + [...allItems(board.items)].length, 0) + countWithin(master);
