import { Failure, asFailure } from '@inkwell-twin/core';
import { readMaster } from '../files';
import type { Answer } from '../output';
import { MANY, type Told, checkMany, hasThreads } from './check-many';
import { checkArchive } from './check-bag';
import { type CheckedCopy, checkOne } from './check-one';
import { type Arguments, differenceLines, need } from './shared';

export async function check(args: Arguments): Promise<Answer> {
  need(args.files, 1, 'check MASTER COPY... [--tolerance MM], or twin check ARCHIVE');
  if (args.files.length === 1) return checkArchive(args.files[0]!);
  const [masterFile, ...copies] = args.files as [string, ...string[]];
  const pkg = readMaster(masterFile);
  const told: Told[] = [];
  if (copies.length >= MANY && hasThreads()) told.push(...(await checkMany({ masterFile, args, folder: process.cwd() }, copies)));
  else for (const file of copies) told.push(await checkOne(pkg, file, args).catch(asFailure));
  const results = told.filter((one): one is CheckedCopy => !(one instanceof Failure));
  const untold = told.flatMap((one, i) =>
    one instanceof Failure ? [{ file: copies[i]!, code: one.code, message: one.message }] : [],
  );
  const [first] = told;
  if (told.length === 1 && first instanceof Failure) throw first;
  const isReadable = !untold.length && results.every(({ verdict }) => verdict !== 'unreadable');
  return {
    code: !isReadable ? 2 : results.every(({ verdict }) => verdict === 'in step') ? 0 : 1,
    output: { command: 'check', copies: results, untold },
    lines: told.flatMap((one, i) => (one instanceof Failure ? [`${copies[i]!}: not told. ${one.message}`] : linesOf(one))),
  };
}

const linesOf = ({ file, by, verdict, remark, proof, differences }: CheckedCopy): string[] => [
  `${file}: ${verdict}${remark ? ` (${remark})` : ''}. ${proof}`,
  ...(by && by !== 'its mark of origin' ? [`  How it was made is taken from ${by}.`] : []),
  ...differenceLines(differences),
];
