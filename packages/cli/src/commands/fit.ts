import { Failure, type Finding, type JobSize, machineFit } from '@inkwell-twin/core';
import { readMaster, services } from '../files';
import type { Answer } from '../output';
import { recipeFor } from './recipe-for';
import { type Arguments, need } from './shared';

const MOST = 40;

const lineOf = ({ kind, words, mends }: Finding): string[] => [
  `  ${kind}: ${words}`,
  ...mends.map(({ words: does, options }) => {
    const set = Object.entries(options).map(([name, value]) => `--set ${name}='${value}'`);
    return `      ${does}: ${set.join(' ')}`;
  }),
];

const inWords = ({ moves, worked, travelled, seconds, tools }: JobSize): string =>
  `${moves} moves, ${(worked / 1000).toFixed(2)} m worked, ${(travelled / 1000).toFixed(2)} m in between, ${Math.floor(seconds / 60)} min ${Math.round(seconds % 60)} s, tools ${tools.join(', ')}.`;

/** What keeps a master from being made on a machine, and what settles each. */
export async function fit(args: Arguments): Promise<Answer> {
  need(args.files, 1, 'fit MASTER --machine M [--board NAME] [--set option=value]...');
  if (!args.machine && !args.options['machine'])
    throw new Failure('usage', 'Name a machine: --machine M. `twin machines` lists them.');
  const pkg = readMaster(args.files[0]!);
  const recipe = recipeFor(pkg, args);
  const { findings, job } = await machineFit(pkg.master, recipe, services(pkg));
  const more = findings.length > MOST ? [`  … and ${findings.length - MOST} more`] : [];
  return {
    code: findings.length ? 1 : 0,
    output: { command: 'fit', machine: args.machine ?? null, target: recipe.target, fits: !findings.length, findings, job },
    lines: [
      job
        ? `It fits. ${inWords(job)}`
        : findings.length
          ? `${findings.length} ${findings.length === 1 ? 'thing' : 'things'} to settle:`
          : 'It fits.',
      ...findings.slice(0, MOST).flatMap(lineOf),
      ...more,
    ],
  };
}
