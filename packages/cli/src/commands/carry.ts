import { forecastOf } from '@inkwell-twin/core';
import { services, readMaster } from '../files';
import type { Answer } from '../output';
import { recipeFor } from './recipe-for';
import { type Arguments, need, reportLines } from './shared';

export async function carry(args: Arguments): Promise<Answer> {
  need(args.files, 1, 'carry MASTER --to TARGET [--set option=value]...');
  const pkg = readMaster(args.files[0]!);
  const recipe = recipeFor(pkg, args);
  const { report, bytes } = await forecastOf(pkg, recipe, services(pkg));
  return {
    code: 0,
    output: { command: 'carry', target: recipe.target, report, forecast: { bytes } },
    lines: [...reportLines(report), `  ${bytes} bytes`],
  };
}
