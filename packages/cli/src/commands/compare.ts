import {
  changesBetween,
  compare,
  type DisplayList,
  Failure,
  findNode,
  looksNative,
  namesIn,
  type NativePackage,
  type NotUnderstood,
  nodeInWords,
  parseMark,
  project,
  readPackage,
  type Recipe,
  recipeOf,
  recipeOfHow,
  recognise,
  unreadDifferences,
} from '@inkwell-twin/core';
import { shippedFonts } from '@inkwell-twin/render';
import { inFile, readBytes } from '../files';
import type { Answer } from '../output';
import { type Arguments, differenceLines, need } from './shared';

type Side = { pkg: NativePackage } | { list: DisplayList; recipe: Recipe; notUnderstood: readonly NotUnderstood[] };

export function compareTwo(args: Arguments): Answer {
  need(args.files, 2, 'compare A B');
  const [a, b] = args.files.slice(0, 2).map((file): Side => {
    const bytes = readBytes(file);
    if (looksNative(bytes)) return { pkg: inFile(file, () => readPackage(bytes)) };
    const target = recognise(bytes);
    if (!target) throw new Failure('not-known', `${file} is neither a master nor a copy of a known kind.`, { file });
    const { list, mark: text, notUnderstood } = inFile(file, () => target.read(bytes));
    const mark = parseMark(text);
    return {
      list,
      notUnderstood,
      recipe: mark ? recipeOfHow(mark.how, mark.recipe) : recipeOf(target.id, args.options, args.board),
    };
  }) as [Side, Side];
  if ('pkg' in a && 'pkg' in b) {
    const changes = changesBetween(a.pkg.master, b.pkg.master).map((patch) => {
      const id = patch.op === 'insert' ? (patch.node as { id: string }).id : patch.node;
      const node = findNode(b.pkg.master, id) ?? findNode(a.pkg.master, id);
      return `${node ? nodeInWords(node) : id}: ${patch.op === 'set' ? `${patch.attribute} changed` : patch.op === 'insert' ? 'added' : 'taken out'}`;
    });
    return {
      code: changes.length ? 1 : 0,
      output: { command: 'compare', same: !changes.length, differences: [], changes },
      lines: changes.length ? changes : ['The two masters are the same.'],
    };
  }
  const recipe = 'recipe' in a ? a.recipe : (b as { recipe: Recipe }).recipe;
  const sideOf = (side: Side): DisplayList =>
    'pkg' in side ? project(side.pkg.master, recipe, shippedFonts()).projection : side.list;
  const pkg = 'pkg' in a ? a.pkg : 'pkg' in b ? b.pkg : null;
  const unreadOf = (side: Side) => ('pkg' in side ? [] : side.notUnderstood);
  const differences = [
    ...compare(sideOf(a), sideOf(b), {
      tolerance: args.tolerance ?? recipe.target.tolerance,
      order: recipe.target.carries(recipe.options).order,
      nameOf: pkg ? namesIn(pkg.master) : undefined,
    }).differences,
    ...unreadDifferences(unreadOf(b), unreadOf(a)),
  ];
  return {
    code: differences.length ? 1 : 0,
    output: { command: 'compare', same: !differences.length, differences: differences as never, changes: [] },
    lines: differences.length ? differenceLines(differences, '') : ['They say the same.'],
  };
}
