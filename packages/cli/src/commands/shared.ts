import {
  allItems,
  type CarryReport,
  type Difference,
  differenceInWords,
  Failure,
  type NativePackage,
  type Recipe,
  recipeOf,
  TARGETS,
} from '@inkwell-twin/core';

/** What a command line gives to a command. */
export interface Arguments {
  readonly files: readonly string[];
  readonly to: string | undefined;
  readonly options: Readonly<Record<string, string>>;
  readonly board: string | undefined;
  readonly out: string | undefined;
  readonly tolerance: number | undefined;
}

/** @throws Failure `usage` where files are missing on the command line */
export function need(files: readonly string[], count: number, usage: string): void {
  if (files.length < count) throw new Failure('usage', `Use: twin ${usage}`);
}

/** The recipe that --to, --set and --board name. */
export function recipeFrom({ to, options, board }: Arguments): Recipe {
  if (!to) throw new Failure('usage', `Name a target: --to ${TARGETS.map(({ id }) => id).join(' | ')}`);
  return recipeOf(to, options, board);
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

/** How many objects a master has, groups opened. */
export const objectsOf = ({ master }: NativePackage): number =>
  master.boards.reduce((sum, board) => sum + [...allItems(board.items)].length, 0);
