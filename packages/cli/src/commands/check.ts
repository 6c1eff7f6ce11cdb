import { existsSync } from 'node:fs';
import { atRevision, checkCopy, derive, Failure, parseMark, recipeOf, recipeOfHow, recognise } from '@inkwell-twin/core';
import { shippedFonts } from '@inkwell-twin/render';
import { readBytes, readMaster } from '../files';
import type { Answer } from '../output';
import { type Arguments, differenceLines, need, recipeFrom } from './shared';

export function check(args: Arguments): Answer {
  need(args.files, 2, 'check MASTER COPY... [--tolerance MM]');
  const [masterFile, ...copies] = args.files as [string, ...string[]];
  const pkg = readMaster(masterFile);
  const fonts = shippedFonts();
  const results = copies.map((file) => {
    if (!existsSync(file))
      return {
        file,
        ...checkCopy({ bytes: null, whole: false, says: '', recipe: recipeOf('svg', {}), now: pkg.master, then: null }, fonts),
      };
    const bytes = readBytes(file);
    const target = args.to ? recipeFrom(args).target : recognise(bytes);
    if (!target) throw new Failure('not-known', `${file} is of no known kind. Say which with --to TARGET.`, { file });
    let mark = null;
    try {
      mark = parseMark(target.read(bytes).mark);
    } catch {
      // An unreadable copy is a verdict, not an error; the check below finds it and says where.
    }
    if (mark && mark.master !== pkg.master.id)
      throw new Failure('other-master', `${file} is a copy of another master (${mark.master}).`, { file });
    const recipe = args.to
      ? recipeFrom(args)
      : mark
        ? recipeOfHow(mark.how, mark.recipe)
        : recipeOf(target.id, {}, args.board ?? '');
    const then = mark ? atRevision(pkg, mark.rev) : null;
    // The same revision and recipe give the same bytes: writing the copy again tells whether these are they.
    const whole = mark && then ? sameBytes(bytes, derive({ ...then, rev: mark.rev }, recipe, fonts).bytes) : false;
    const result = checkCopy(
      {
        bytes,
        whole,
        says: mark?.says ?? '',
        recipe,
        now: pkg.master,
        then: then?.master ?? null,
        tolerance: args.tolerance,
      },
      fonts,
    );
    if (!mark && result.verdict !== 'in step' && result.verdict !== 'unreadable' && !args.to)
      throw new Failure(
        'no-mark',
        `${file} has no mark of origin. Say how it was made with --to ${target.id} and its --set options.`,
        { file },
      );
    return { file, ...result };
  });
  return {
    code: results.some(({ verdict }) => verdict === 'unreadable')
      ? 2
      : results.every(({ verdict }) => verdict === 'in step')
        ? 0
        : 1,
    output: {
      command: 'check',
      copies: results.map(({ file, verdict, remark, whole, fresh, true: says, proof, differences }) => ({
        file,
        verdict,
        remark,
        whole,
        fresh,
        true: says,
        proof,
        differences: differences as never,
      })),
    },
    lines: results.flatMap(({ file, verdict, remark, proof, differences }) => [
      `${file}: ${verdict}${remark ? ` (${remark})` : ''}. ${proof}`,
      ...differenceLines(differences),
    ]),
  };
}

const sameBytes = (a: Uint8Array, b: Uint8Array): boolean => a.length === b.length && Buffer.compare(a, b) === 0;
