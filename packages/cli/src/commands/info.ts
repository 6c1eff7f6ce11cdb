import {
  type LinkState,
  NATIVE_VERSION,
  codecOf,
  declarations,
  digestOf,
  isIndexName,
  looksNative,
  opened,
  parseMark,
  recipeOfHow,
  recognise,
  unreadKind,
} from '@inkwell-twin/core';
import { followLinks, inFile, services, readBytes, readMaster } from '../files';
import type { Answer } from '../output';
import { type Arguments, filesBeside, need, objectsOf } from './shared';

const STANDING: Readonly<Record<LinkState, string>> = {
  here: 'as it was last seen',
  changed: 'changed since it was last seen',
  missing: 'missing',
  'not a file': 'no file any more',
};

export async function info({ files, password }: Arguments): Promise<Answer> {
  need(files, 1, 'info FILE');
  const file = files[0]!;
  const bytes = readBytes(file);
  if (isIndexName(file) || looksNative(bytes)) {
    const pkg = readMaster(file);
    const { master, rev, native = NATIVE_VERSION } = pkg;
    const { links } = followLinks(file, pkg);
    const boards = master.boards.map(
      ({ name, width, height }) => `${name}, ${Number(width.toFixed(2))} × ${Number(height.toFixed(2))} mm`,
    );
    const tables = (master.tables ?? []).map(
      ({ name, columns, rows }) => `${name}, ${rows.length} rows of ${columns.length} columns`,
    );
    const texts = (master.texts ?? []).map(({ name, blocks }) => `${name}, ${blocks.length} paragraphs`);
    const solids = (master.solids ?? []).map(({ name, features }) => `${name}, ${features.length} features`);
    return {
      code: 0,
      output: {
        command: 'info',
        file,
        kind: 'master',
        target: null,
        master: { id: master.id, title: master.title, rev, boards, tables, solids, texts, objects: objectsOf(pkg) },
        mark: null,
        notUnderstood: [],
      },
      lines: [
        `${file}: a master, “${master.title}”, r${rev}${native < NATIVE_VERSION ? `, of native version ${native}` : ''}`,
        `  id ${master.id}`,
        ...boards.map((board) => `  board ${board}`),
        ...tables.map((table) => `  table ${table}`),
        ...solids.map((solid) => `  solid ${solid}`),
        ...texts.map((text) => `  text ${text}`),
        `  ${objectsOf(pkg)} objects, ${pkg.resources.size === 1 ? '1 file' : `${pkg.resources.size} files`} kept inside`,
        ...links.map(({ name, link, state }) => `  linked ${name} at ${link}: ${STANDING[state]}`),
      ],
    };
  }
  const target = recognise(bytes);
  if (!target) {
    const kind = unreadKind(bytes);
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
      lines: [
        ...(kind ? [`${file}: ${kind.what}, which is not read here. Ask for it as ${kind.ask}.`] : []),
        `${kind ? '' : `${file}: unknown. `}It is neither a master nor one of: ${declarations()
          .map(({ label }) => label)
          .join(', ')}`,
      ],
    };
  }
  const codec = await codecOf(target.id);
  const named = await inFile(file, async () =>
    opened(codec, codec.beside ? filesBeside(file, bytes, codec) : [{ part: '', bytes }], password),
  );
  const first = await inFile(file, () => codec.read(named, {}, services()));
  const mark = parseMark(first.mark);
  const many = mark && target.holds.files(recipeOfHow(mark.how, mark.recipe).options) === 'many';
  const all = many ? filesBeside(file, bytes, codec) : [];
  const read = all.length > 1 ? await inFile(file, () => codec.read(all, {}, services())) : first;
  const says = mark
    ? mark.says.length !== digestOf(read).length
      ? 'was written by an older version, so its digest says nothing here; check it against its master'
      : digestOf(read) === mark.says
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
