import { project } from '@inkwell-twin/core';
import { shippedFonts } from '@inkwell-twin/render';
import { readMaster } from '../files';
import type { Answer } from '../output';
import { type Arguments, need, recipeFrom, reportLines } from './shared';

export function carry(args: Arguments): Answer {
  need(args.files, 1, 'carry MASTER --to TARGET [--set option=value]...');
  const recipe = recipeFrom(args);
  const { report } = project(readMaster(args.files[0]!).master, recipe, shippedFonts());
  return {
    code: 0,
    output: { command: 'carry', target: recipe.target.id, report: report as never },
    lines: reportLines(report),
  };
}
