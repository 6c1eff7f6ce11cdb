import { writeFileSync } from 'node:fs';
import { OLDER_READERS, type Seen } from '@inkwell-twin/standins';
import {
  Failure,
  type SeenCheck,
  asMeant,
  atRevision,
  codecOf,
  declarationOf,
  parseMark,
  project,
  recipeOfHow,
  recognise,
} from '@inkwell-twin/core';
import { readBytes, readMaster, services } from '../files';
import type { Answer } from '../output';
import { type Arguments, need } from './shared';

const USE = 'open FILE [MASTER.inkwell] --as READER [--out PICTURE.svg]';

/** What the copy was to say, held against what a reader sees; null where the file is no copy of one board of that master. */
async function againstMaster(bytes: Uint8Array, path: string, seen: Seen): Promise<SeenCheck | null> {
  const pkg = await readMaster(path);
  const target = recognise(bytes)?.id;
  if (!target) return null;
  const mark = parseMark((await (await codecOf(target)).read([{ part: '', bytes }], {}, services(pkg))).mark);
  if (!mark) throw new Failure('no-mark', 'The file has no mark of origin: nobody can tell what it was to say.');
  if (mark.master !== pkg.master.id) throw new Failure('other-master', `The file is a copy of another master (${mark.master}).`);
  const then = atRevision(pkg, mark.rev);
  if (!then) throw new Failure('revision-unknown', `Revision ${mark.rev} of the master is not in its file.`);
  const recipe = recipeOfHow(mark.how, mark.recipe);
  const { projection } = await project(then.master, recipe, services(pkg));
  return asMeant(projection, seen, declarationOf(target).tolerance);
}

/** Opens a file as an older program would, and tells what that sees. With a master, whether it is what the copy was to say. */
export async function openAs({ files, as, out }: Pick<Arguments, 'files' | 'as' | 'out'>): Promise<Answer> {
  need(files, 1, USE);
  const known = Object.keys(OLDER_READERS).join(', ');
  if (!as) throw new Failure('usage', `Name a reader: --as ${known}.`);
  const open = Object.hasOwn(OLDER_READERS, as) ? OLDER_READERS[as] : undefined;
  if (!open) throw new Failure('usage', `There is no reader “${as}”. There are ${known}.`);
  const bytes = readBytes(files[0]!);
  const seen = open(bytes);
  const held = files[1] && seen.opens ? await againstMaster(bytes, files[1], seen) : null;
  const isMeant = held ? !held.missing.length && !held.more.length : null;
  const { lines, texts, picture, ...said } = seen;
  const { refused, dropped, opens, pictures } = said;
  if (out) writeFileSync(out, picture);
  const sides = held
    ? [
        ...held.missing.map((one) => ({ ...one, side: 'does not see' })),
        ...held.more.map((one) => ({ ...one, side: 'sees, but was not meant:' })),
      ]
    : [];
  return {
    code: opens && isMeant !== false && !dropped.length ? 0 : 1,
    output: { command: 'open', ...said, lines: lines.length, texts: texts.length, held, isMeant },
    lines: [
      refused
        ? `${files[0]!}: ${as} does not open it: ${refused.words}, at ${refused.at}`
        : `${files[0]!}: ${as} opens it and sees ${lines.length} lines, ${texts.length} texts, ${pictures} pictures`,
      ...dropped.map(({ what, count }) => `  passes over ${what} (${count})`),
      ...(held
        ? [isMeant ? `  all of it as it was meant, at most ${held.furthest.toFixed(4)} mm off` : '  not as it was meant:']
        : []),
      ...sides
        .slice(0, 20)
        .map(({ side, what, layer, at: [x, y], words }) =>
          `    ${side} a ${what} on ${layer} at ${x.toFixed(2)}, ${y.toFixed(2)} ${words}`.trimEnd(),
        ),
    ],
  };
}
