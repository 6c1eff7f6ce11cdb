import {
  changesInWords,
  codecOf,
  compareAs,
  type CopyFile,
  declarationOf,
  Failure,
  looksNative,
  namesIn,
  pictureRegions,
  type NativePackage,
  type NotUnderstood,
  parseMark,
  project,
  readPackage,
  type Recipe,
  recognise,
  type CopyContent,
  unreadDifferences,
} from '@inkwell-twin/core';
import { inFile, services, readBytes } from '../files';
import type { Answer } from '../output';
import { type Arguments, differenceLines, filesBeside, need, recipeOfFile } from './shared';

type Side = { pkg: NativePackage } | { says: CopyContent; recipe: Recipe; notUnderstood: readonly NotUnderstood[] };

/** A master, or what a copy says with the recipe that it was made by. */
async function sideOf(file: string, args: Arguments): Promise<Side> {
  const bytes = readBytes(file);
  if (looksNative(bytes)) return { pkg: await inFile(file, () => readPackage(bytes)) };
  const target = recognise(bytes);
  if (!target) throw new Failure('not-known', `${file} is neither a master nor a copy of a known kind.`, { file });
  const codec = await codecOf(target.id);
  const read = (files: readonly CopyFile[]) => inFile(file, () => codec.read(files, {}, services()));
  const first = await read([{ part: '', bytes }]);
  const mark = parseMark(first.mark);
  const { recipe } = await recipeOfFile(bytes, mark, target.id, args);
  const many = declarationOf(target.id).holds.files(recipe.options) === 'many';
  const says = many ? await read(filesBeside(file, bytes, codec)) : first;
  return { says, notUnderstood: says.notUnderstood, recipe };
}

export async function compareTwo(args: Arguments): Promise<Answer> {
  need(args.files, 2, 'compare A B');
  const [a, b] = [await sideOf(args.files[0]!, args), await sideOf(args.files[1]!, args)];
  if ('pkg' in a && 'pkg' in b) {
    const changes = changesInWords(a.pkg.master, b.pkg.master).map(({ what, how }) => `${what}: ${how}`);
    return {
      code: changes.length ? 1 : 0,
      output: { command: 'compare', same: !changes.length, differences: [], changes },
      lines: changes.length ? changes : ['The two masters are the same.'],
    };
  }
  const recipe = 'recipe' in a ? a.recipe : (b as { recipe: Recipe }).recipe;
  const saysOf = async (side: Side): Promise<CopyContent> =>
    'pkg' in side ? (await project(side.pkg.master, recipe, services(side.pkg))).projection : side.says;
  const pkg = 'pkg' in a ? a.pkg : 'pkg' in b ? b.pkg : null;
  const unreadOf = (side: Side) => ('pkg' in side ? [] : side.notUnderstood);
  const nameOf = pkg ? namesIn(pkg.master) : undefined;
  const [one, other] = [await saysOf(a), await saysOf(b)];
  const compared = compareAs(recipe, one, other, nameOf, args.tolerance).differences;
  const differences = [
    ...(await pictureRegions(compared, one, other, services().pictures)),
    ...unreadDifferences(unreadOf(b), unreadOf(a)),
  ];
  return {
    code: differences.length ? 1 : 0,
    output: { command: 'compare', same: !differences.length, differences, changes: [] },
    lines: differences.length ? differenceLines(differences, '') : ['They say the same.'],
  };
}
