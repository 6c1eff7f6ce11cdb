import { existsSync } from 'node:fs';
import {
  type CheckInput,
  type Mark,
  type NativePackage,
  atRevision,
  checkCopy,
  codecOf,
  declarationOf,
  declarations,
  derive,
  Failure,
  parseMark,
  fittedTo,
  recipeOf,
  recipeOfHow,
  recognise,
} from '@inkwell-twin/core';
import { means, readBytes, readMaster } from '../files';
import type { Answer } from '../output';
import { type Arguments, differenceLines, filesBeside, need, recipeOfFile } from './shared';

/**
 * Whether a copy's bytes are those that were written: the same revision, recipe and writer give the same bytes, so writing them
 * again tells. Null where that can't be known: another version of the writer made it, or its revision is not at hand.
 */
async function isWhole(pkg: NativePackage, mark: Mark, files: NonNullable<CheckInput['files']>): Promise<boolean | null> {
  const { writer, ...recipe } = recipeOfHow(mark.how, mark.recipe);
  const then = atRevision(pkg, mark.rev);
  if (!then || writer !== declarationOf(recipe.target).writer) return null;
  const made = (await derive({ ...then, rev: mark.rev }, recipe, means(pkg))).files;
  return made.length === files.length && made.every(({ bytes }, i) => Buffer.compare(bytes, files[i]!.bytes) === 0);
}

export async function check(args: Arguments): Promise<Answer> {
  need(args.files, 2, 'check MASTER COPY... [--tolerance MM]');
  const [masterFile, ...copies] = args.files as [string, ...string[]];
  const pkg = readMaster(masterFile);
  const results = [];
  for (const file of copies) {
    const common = { now: pkg.master, tolerance: args.tolerance };
    if (!existsSync(file)) {
      const gone = {
        ...common,
        files: null,
        whole: false,
        says: '',
        recipe: recipeOf(args.to ?? declarations()[0]!.id, {}),
        then: null,
      };
      results.push({ file, by: '', ...(await checkCopy(gone, means())) });
      continue;
    }
    const bytes = readBytes(file);
    const target = recognise(bytes)?.id ?? args.to;
    if (!target) throw new Failure('not-known', `${file} is of no known kind. Say which with --to TARGET.`, { file });
    let mark: Mark | null = null;
    try {
      const codec = (await codecOf(target));
      mark = parseMark(
        (await codec.read(codec.beside ? filesBeside(file, bytes, codec) : [{ part: '', bytes }], {}, means())).mark,
      );
    } catch {
      // An unreadable copy is a verdict, not an error; the check below finds it and says where.
    }
    if (mark && mark.master !== pkg.master.id)
      throw new Failure('other-master', `${file} is a copy of another master (${mark.master}).`, { file });
    const { recipe: asked, by } = await recipeOfFile(bytes, mark, target, args);
    const recipe = fittedTo(asked, pkg.master);
    const many = declarationOf(recipe.target).holds.files(recipe.options) === 'many';
    const files = many ? filesBeside(file, bytes, (await codecOf(recipe.target))) : [{ part: '', bytes }];
    const then = mark ? atRevision(pkg, mark.rev) : null;
    const whole = mark ? await isWhole(pkg, mark, files) : null;
    const input = { ...common, files, whole, says: mark?.says ?? '', recipe, then: then?.master ?? null };
    const result = await checkCopy(input, means(pkg), true);
    if (!mark && !(await codecOf(target)).stated && !['in step', 'unreadable'].includes(result.verdict) && !args.to)
      throw new Failure(
        'no-mark',
        `${file} has no mark of origin. Say how it was made with --to ${target} and its --set options.`,
        { file },
      );
    results.push({ file, by, ...result });
  }
  return {
    code: results.some(({ verdict }) => verdict === 'unreadable')
      ? 2
      : results.every(({ verdict }) => verdict === 'in step')
        ? 0
        : 1,
    output: {
      command: 'check',
      copies: results.map(({ file, by, verdict, remark, whole, fresh, true: says, proof, off, differences }) => ({
        file,
        by,
        verdict,
        remark,
        whole,
        fresh,
        true: says,
        proof,
        off,
        differences: [...differences],
      })),
    },
    lines: results.flatMap(({ file, by, verdict, remark, proof, differences }) => [
      `${file}: ${verdict}${remark ? ` (${remark})` : ''}. ${proof}`,
      ...(by && by !== 'its mark of origin' ? [`  How it was made is taken from ${by}.`] : []),
      ...differenceLines(differences),
    ]),
  };
}
