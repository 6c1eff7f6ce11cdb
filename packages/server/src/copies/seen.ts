import type { SeenView } from '@inkwell-twin/api';
import { type CopyContent, Failure, type Recipe, asMeant, declarationOf } from '@inkwell-twin/core';
import { OLDER_READERS } from '@inkwell-twin/standins';

/** How many of what only one side has are told. */
const SOME = 40;

/** The programs of older versions that open a target's files, oldest first. */
const readersFor = (target: string): string[] => Object.keys(OLDER_READERS).filter((name) => name.startsWith(`${target}-`));

/** The one of the version that a copy is written in. */
const ownReader = ({ target, options }: Recipe): string => `${target}-${String(options['version']).toLowerCase()}`;

/**
 * What a program of an older version sees of a file, and how that stands to what the copy was to say.
 * @param named by its name, or `own`
 * @param says what the copy was to say; asked only where the file opens
 * @throws Failure `not-found` where there is no such reader
 */
export async function seenBy(
  named: string,
  bytes: Uint8Array,
  recipe: Recipe,
  says: () => Promise<CopyContent>,
): Promise<SeenView> {
  const readers = readersFor(recipe.target);
  const nothing = { opens: false, refused: null, dropped: [], lines: 0, texts: 0, pictures: 0, held: null, picture: '' };
  if (!readers.length) return { readers, reader: '', ...nothing };
  const reader = named === 'own' ? ownReader(recipe) : named;
  const open = readers.includes(reader) ? OLDER_READERS[reader] : undefined;
  if (!open) throw new Failure('not-found', `There is no reader “${named.slice(0, 40)}”. There are ${readers.join(', ')}.`);
  const { lines, texts, pictures, opens, refused, dropped, picture } = open(bytes);
  const seen = { opens, refused, dropped: [...dropped], lines: lines.length, texts: texts.length, pictures, picture };
  const check = opens ? asMeant(await says(), { lines, texts }, declarationOf(recipe.target).tolerance) : null;
  if (!check) return { readers, reader, ...seen, held: null };
  const { missing, more: added, ...held } = check;
  return { readers, reader, ...seen, held: { ...held, missing: missing.slice(0, SOME), more: added.slice(0, SOME) } };
}
