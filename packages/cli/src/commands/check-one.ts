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
  markOutside,
  opened,
  parseMark,
  fittedTo,
  recipeOf,
  recipeOfHow,
  recognise,
} from '@inkwell-twin/core';
import { services, readBytes } from '../files';
import { type Arguments, type NotOfRecipe, filesBeside, recipeOfFile } from './shared';

/** What of a command line says how its copies are checked. */
export type CheckArguments = Omit<Arguments, Exclude<NotOfRecipe, 'password'>>;

/** A copy's file and what was found; plain data, so that a thread can hand it over. */
export type CheckedCopy = Awaited<ReturnType<typeof checkOne>>;

/**
 * Whether a copy's bytes are those that were written: the same revision, recipe and writer give the same bytes, so writing them
 * again tells. Null where that can't be known: another version of the writer made it, or its revision is not at hand.
 */
async function isIntact(pkg: NativePackage, mark: Mark, files: NonNullable<CheckInput['files']>): Promise<boolean | null> {
  const { writer, ...recipe } = recipeOfHow(mark.how, mark.recipe);
  const then = atRevision(pkg, mark.rev);
  if (!then || writer !== declarationOf(recipe.target).writer) return null;
  const made = (await derive({ ...then, rev: mark.rev }, recipe, services(pkg))).files;
  return made.length === files.length && made.every(({ bytes }, i) => Buffer.compare(bytes, files[i]!.bytes) === 0);
}

/** Checks one file against its master. @throws Failure where it is no copy of it, or does not say how it was made */
export async function checkOne(pkg: NativePackage, file: string, args: CheckArguments) {
  const { by, ...result } = await resultOf(pkg, file, args);
  const { verdict, remark, intact, unchanged, matches, proof, off, differences } = result;
  return { file, by, verdict, remark, intact, unchanged, matches, proof, off, differences: [...differences] };
}

async function resultOf(pkg: NativePackage, file: string, args: CheckArguments) {
  const common = { current: pkg.master, tolerance: args.tolerance, password: args.password };
  if (!existsSync(file)) {
    const recipe = recipeOf(args.to ?? declarations()[0]!.id, {});
    const gone = { ...common, files: null, intact: false, says: '', recipe, baseline: null };
    return { by: '', ...(await checkCopy(gone, services())) };
  }
  const bytes = readBytes(file);
  const target = recognise(bytes)?.id ?? args.to;
  if (!target) throw new Failure('not-known', `${file} is of no known kind. Say which with --to TARGET.`, { file });
  const codec = await codecOf(target);
  let mark: Mark | null = null;
  let isLocked = false;
  try {
    const named = codec.beside ? filesBeside(file, bytes, codec) : [{ part: '', bytes }];
    const open = await opened(codec, named, args.password);
    isLocked = open !== named;
    mark = parseMark((await codec.read(open, {}, services())).mark);
  } catch {
    // An unreadable copy is a verdict, not an error; the check below finds it and says where.
    mark = parseMark(markOutside(codec, bytes));
  }
  if (mark && mark.master !== pkg.master.id)
    throw new Failure('other-master', `${file} is a copy of another master (${mark.master}).`, { file });
  const { recipe: asked, by } = await recipeOfFile(bytes, mark, target, args);
  const recipe = fittedTo(asked, pkg.master);
  const many = declarationOf(recipe.target).holds.files(recipe.options) === 'many';
  const files = many ? filesBeside(file, bytes, await codecOf(recipe.target)) : [{ part: '', bytes }];
  const then = mark ? atRevision(pkg, mark.rev) : null;
  // A lock is another each time that it is made: such a copy is judged by what it says.
  const intact = mark && !isLocked ? await isIntact(pkg, mark, files) : null;
  const input = { ...common, files, intact, says: mark?.says ?? '', recipe, baseline: then?.master ?? null };
  const result = await checkCopy(input, services(pkg), true);
  if (!mark && !codec.stated && !['in step', 'unreadable'].includes(result.verdict) && !args.to)
    throw new Failure(
      'no-mark',
      `${file} has no mark of origin. Say how it was made with --to ${target} and its --set options.`,
      { file },
    );
  return { by, ...result };
}
