import { readMaster } from '../files';
import type { Answer } from '../output';
import { MANY, checkMany, hasThreads } from './check-many';
import { type CheckedCopy, checkOne } from './check-one';
import { type Arguments, differenceLines, need } from './shared';

export async function check(args: Arguments): Promise<Answer> {
  need(args.files, 2, 'check MASTER COPY... [--tolerance MM]');
  const [masterFile, ...copies] = args.files as [string, ...string[]];
  const pkg = readMaster(masterFile);
  const results: CheckedCopy[] = [];
  if (copies.length >= MANY && hasThreads())
    results.push(...(await checkMany({ masterFile, args, folder: process.cwd() }, copies)));
  else for (const file of copies) results.push(await checkOne(pkg, file, args));
  const isReadable = results.every(({ verdict }) => verdict !== 'unreadable');
  return {
    code: !isReadable ? 2 : results.every(({ verdict }) => verdict === 'in step') ? 0 : 1,
    output: { command: 'check', copies: results },
    lines: results.flatMap(({ file, by, verdict, remark, proof, differences }) => [
      `${file}: ${verdict}${remark ? ` (${remark})` : ''}. ${proof}`,
      ...(by && by !== 'its mark of origin' ? [`  How it was made is taken from ${by}.`] : []),
      ...differenceLines(differences),
    ]),
  };
}
