import { digestOf, looksNative, parseMark, readPackage, recognise, TARGETS } from '@inkwell-twin/core';
import { inFile, readBytes } from '../files';
import type { Answer } from '../output';
import { type Arguments, need, objectsOf } from './shared';

export function info({ files }: Arguments): Answer {
  need(files, 1, 'info FILE');
  const file = files[0]!;
  const bytes = readBytes(file);
  if (looksNative(bytes)) {
    const pkg = inFile(file, () => readPackage(bytes));
    const { master, rev } = pkg;
    const boards = master.boards.map(
      ({ name, width, height }) => `${name}, ${Number(width.toFixed(2))} × ${Number(height.toFixed(2))} mm`,
    );
    return {
      code: 0,
      output: {
        command: 'info',
        file,
        kind: 'master',
        target: null,
        master: { id: master.id, title: master.title, rev, boards, objects: objectsOf(pkg) },
        mark: null,
        notUnderstood: [],
      },
      lines: [
        `${file}: a master, “${master.title}”, r${rev}`,
        `  id ${master.id}`,
        ...boards.map((board) => `  board ${board}`),
        `  ${objectsOf(pkg)} objects, ${pkg.resources.size === 1 ? '1 file' : `${pkg.resources.size} files`} kept inside`,
      ],
    };
  }
  const target = recognise(bytes);
  if (!target) {
    const output = {
      command: 'info' as const,
      file,
      kind: 'unknown' as const,
      target: null,
      master: null,
      mark: null,
      notUnderstood: [],
    };
    return {
      code: 1,
      output,
      lines: [`${file}: unknown. It is neither a master nor one of: ${TARGETS.map(({ label }) => label).join(', ')}`],
    };
  }
  const read = inFile(file, () => target.read(bytes));
  const mark = parseMark(read.mark);
  const says = mark
    ? digestOf(read.list) === mark.says
      ? 'says what it said when it was written'
      : 'was changed since it was written'
    : '';
  return {
    code: 0,
    output: {
      command: 'info',
      file,
      kind: mark ? 'copy' : 'file',
      target: target.id,
      master: null,
      mark,
      notUnderstood: [...read.notUnderstood],
    },
    lines: [
      mark
        ? `${file}: a copy (${target.label}) of master ${mark.master}, r${mark.rev}, written ${mark.written}; it ${says}`
        : `${file}: ${target.label}, without a mark of origin`,
      ...read.notUnderstood.map(({ kind, count }) => `  not understood: ${kind} (${count})`),
    ],
  };
}
