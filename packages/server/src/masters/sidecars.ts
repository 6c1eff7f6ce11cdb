import {
  Failure,
  type FieldMeeting,
  type Said,
  type SaidField,
  THE_MASTER,
  asFailure,
  isSaid,
  linkedIn,
  meetingOf,
  readSidecar,
  saidOf,
  saidOfPicture,
  sayAbout,
  settled,
  standOf,
  writeSidecar,
} from '@inkwell-twin/core';
import type { OutsideDescription } from '@inkwell-twin/api';
import { sha256 } from '../blobs/blobs';
import type { Engine } from '../compute/engine';
import { type Queryable, lockInTransaction } from '../database/database';
import type { Shelf } from '../shelf/shelf';
import { lookFor } from './links';
import { reviseMaster } from './updates';

type SidecarState = OutsideDescription['state'];
type Choices = Partial<Record<SaidField, 'inside' | 'outside'>>;

/** What is described in a file of its own: a master, or a picture that it links to. */
interface Subject {
  readonly about: string;
  /** What a picture is called. */
  readonly name: string;
  readonly inside: Said;
  /** Folder and file of the description on the shelf; null where the picture itself is not there. */
  readonly at: { readonly folder: string; readonly file: string } | null;
}

interface Row {
  readonly about: string;
  readonly base: Said | null;
  readonly standing: boolean;
  readonly file: string;
}

interface Standing extends Subject {
  readonly base: Said | null;
  readonly standing: boolean;
  /** What the file says; null where there is none or it can't be read. */
  readonly outside: Said | null;
  readonly text: string | null;
  readonly sha: string | null;
  readonly state: SidecarState;
  readonly fields: readonly FieldMeeting[];
  readonly trouble: string | null;
}

/**
 * The file that describes a picture: of the same name with another ending, as ISO 16684 has it; with both endings where another
 * file would share it, or where that is what stands there already.
 */
function besidePicture(shelf: Shelf, folder: string, picture: string): string {
  const dot = picture.lastIndexOf('.');
  const stem = dot > 0 ? picture.slice(0, dot) : picture;
  const files = shelf.files(folder);
  if (files.includes(`${picture}.xmp`)) return `${picture}.xmp`;
  const shared = files.some((file) => file !== picture && file.startsWith(`${stem}.`) && !file.endsWith('.xmp'));
  return shared || `${stem}.xmp` === shelf.sidecarFile(folder) ? `${picture}.xmp` : `${stem}.xmp`;
}

/** All that a master describes in files outside, itself first. */
async function subjectsOf({ masters, shelf }: Engine, client: Queryable, id: string): Promise<Subject[]> {
  const { rows } = await client.query<{ folder: string }>('select folder from master where id = $1', [id]);
  if (!rows[0]) throw new Failure('not-found', 'There is no such master on this Desk.');
  const [{ folder }] = rows as [{ folder: string }];
  const { master } = (await masters.load(id, client)).head;
  const pictures = linkedIn(master)
    .filter(({ role }) => role === 'picture')
    .map((one): Subject => {
      const { state, path } = lookFor(shelf, folder, { resource: one.id, link: one.link, size: one.size });
      const lies = (state === 'here' || state === 'changed') && path.includes('/');
      const within = path.slice(0, path.lastIndexOf('/'));
      const file = lies ? besidePicture(shelf, within, path.slice(within.length + 1)) : '';
      return { about: one.id, name: one.name, inside: saidOfPicture(master, one), at: lies ? { folder: within, file } : null };
    });
  const itself = { about: THE_MASTER, name: '', inside: saidOf(master), at: { folder, file: shelf.sidecarFile(folder) } };
  return [itself, ...pictures];
}

const pathOf = ({ at }: Subject): string => (at ? `${at.folder}/${at.file}` : '');

/** Looks at both sides of one. */
function lookAt({ shelf }: Engine, subject: Subject, rows: readonly Row[]): Standing {
  // A picture that was taken as it is now is another file; its description is the same one.
  const row =
    rows.find(({ about }) => about === subject.about) ?? rows.find(({ file }) => file !== '' && file === pathOf(subject));
  // What is ordered of a master goes for pictures that come to it later.
  const standing = row?.standing ?? rows.find(({ about }) => about === THE_MASTER)?.standing ?? false;
  const found = { ...subject, base: row?.base ?? null, standing };
  const nothing = { outside: null, text: null, sha: null, fields: [], trouble: null };
  const wanted = found.base !== null || (standing && (subject.about === THE_MASTER || isSaid(subject.inside)));
  if (!subject.at) {
    const trouble = `${subject.name} itself is not on the shelf. Mend its link first.`;
    return { ...found, ...nothing, ...(wanted ? { state: 'unreadable' as const, trouble } : { state: 'none' as const }) };
  }
  const { folder, file } = subject.at;
  let bytes: Buffer | null;
  try {
    const seen = shelf.look(folder, file);
    if (seen.kind === 'other') return { ...found, ...nothing, state: 'unreadable', trouble: seen.words };
    bytes = seen.kind === 'file' ? seen.bytes : null;
  } catch (error) {
    return { ...found, ...nothing, state: 'unreadable', trouble: asFailure(error).message };
  }
  if (!bytes) return { ...found, ...nothing, state: wanted ? 'gone' : 'none' };
  const [text, sha] = [bytes.toString('utf8'), sha256(bytes)];
  try {
    const outside = readSidecar(text);
    const fields = meetingOf(found.base, subject.inside, outside);
    return { ...found, outside, text, sha, fields, state: standOf(fields), trouble: null };
  } catch (error) {
    return { ...found, ...nothing, text, sha, state: 'unreadable', trouble: asFailure(error).message };
  }
}

/** Looks at both sides of all that a master describes, or of some of it. @throws Failure `not-found` */
async function standingsOf(engine: Engine, client: Queryable, id: string, about?: readonly string[]): Promise<Standing[]> {
  const { rows } = await client.query<Row>('select about, base, standing, file from sidecar where master = $1', [id]);
  const all = await subjectsOf(engine, client, id);
  const some = about ? all.filter((one) => about.includes(one.about)) : all;
  if (!some.length) throw new Failure('not-found', 'The master links to no such picture any more.');
  return some.map((one) => lookAt(engine, one, rows));
}

async function keep(client: Queryable, id: string, standing: Standing): Promise<boolean> {
  const { about, name, state, fields, trouble, inside, base } = standing;
  // Where both say the same, that is what the next change on either side is held against.
  const now = state === 'in step' ? inside : base;
  const { rowCount } = await client.query(
    `insert into sidecar (master, about, name, file, standing, base, state, fields, trouble) values ($1, $2, $3, $4, $5, $6, $7, $8, $9)
     on conflict (master, about) do update set name = $3, file = $4, base = $6, state = $7, fields = $8, trouble = $9
       where (sidecar.state, sidecar.fields::text, sidecar.trouble, sidecar.base::text, sidecar.file)
         is distinct from ($7, $10, $9, $11, $4)`,
    [
      id,
      about,
      name,
      about === THE_MASTER ? '' : pathOf(standing),
      standing.standing,
      now && JSON.stringify(now),
      state,
      JSON.stringify(fields),
      trouble,
      JSON.stringify(fields),
      now && JSON.stringify(now),
    ],
  );
  return (rowCount ?? 0) > 0;
}

/** Puts a description into its file: all else that stands there stays, and what came there meanwhile is not written over. */
function put({ shelf }: Engine, { at, text, sha }: Standing, said: Said): void {
  const bytes = Buffer.from(writeSidecar(said, text));
  const aside = shelf.put(at!.folder, at!.file, bytes, (standing) => standing === sha);
  if (aside)
    throw new Failure('conflict', `The file changed in this very moment; what came there is kept as ${aside}. Look again.`);
}

/**
 * Finds again how the descriptions of a master and of its pictures stand to their files. By standing order, what changed here
 * alone is written out.
 * @returns whether that is news
 */
export async function standSidecars(engine: Engine, id: string): Promise<boolean> {
  return engine.database.transaction(async (client) => {
    await lockInTransaction(client, `sidecar of ${id}`);
    const standings = await standingsOf(engine, client, id);
    let news = false;
    for (const one of standings) {
      const due = one.standing && one.at !== null && (one.state === 'pending' || one.state === 'gone');
      if (due) put(engine, one, one.inside);
      if (one.state === 'none') {
        const { rowCount } = await client.query(
          "update sidecar set state = 'none', fields = '[]' where master = $1 and about = $2 and state <> 'none'",
          [id, one.about],
        );
        news ||= (rowCount ?? 0) > 0;
      } else news = (await keep(client, id, due ? { ...one, state: 'in step', fields: [] } : one)) || news;
    }
    const { rowCount } = await client.query('delete from sidecar where master = $1 and about <> all($2)', [
      id,
      standings.map(({ about }) => about),
    ]);
    return news || (rowCount ?? 0) > 0;
  });
}

/**
 * Writes descriptions out, by hand.
 * @param about which: one, or several of which those are written that are due; without it the master's own and those of its
 *   pictures that say anything
 * @throws Failure `conflict` where a file was changed by someone: that is settled first
 */
export async function writeOut(engine: Engine, id: string, about?: readonly string[]): Promise<void> {
  await engine.database.transaction(async (client) => {
    await lockInTransaction(client, `sidecar of ${id}`);
    const all = await standingsOf(engine, client, id, about);
    const some = all.filter((one) => {
      if (about) return about.length === 1 || one.state === 'pending' || one.state === 'gone';
      return one.about === THE_MASTER || one.state !== 'none' || isSaid(one.inside);
    });
    for (const { state, trouble, at, name } of some) {
      if (state === 'unreadable' || !at)
        throw new Failure(
          'conflict',
          at
            ? `Its file can’t be read, and is not written over: ${trouble} Move it away first.`
            : `${name} itself is not on the shelf, so nothing can be written beside it. Mend its link first.`,
        );
      if (state === 'outside' || state === 'both')
        throw new Failure('conflict', 'Its file was changed by someone, too. Settle that first; nothing was written.');
    }
    for (const one of some) {
      put(engine, one, one.inside);
      await keep(client, id, { ...one, state: 'in step', fields: [] });
    }
  });
}

/**
 * Settles what is not the same on both sides: what counts outside becomes the next revision, and the files say all of it.
 * @param choices which side counts, by field; where none is said, the side that changed, and ours where both did
 * @param about of which: one, or several of which those are settled that changed; without it of all that changed
 */
export async function settleSidecars(
  engine: Engine,
  id: string,
  author: string,
  choices: Choices,
  about?: readonly string[],
): Promise<void> {
  const said = await engine.database.transaction(async (client) => {
    await lockInTransaction(client, `sidecar of ${id}`);
    const all = await standingsOf(engine, client, id, about);
    const some = all.filter(({ fields, outside }) => outside && (about?.length === 1 || fields.length > 0));
    if (!some.length)
      throw new Failure('conflict', all[0]!.trouble ?? 'There is no file of its description any more. Look again.');
    return new Map(some.map((one) => [one.about, settled(one.fields, one.inside, one.outside!, choices)]));
  });
  await reviseMaster(
    engine,
    id,
    author,
    said.size > 1 ? 'Descriptions taken from their files' : 'Description taken from its file',
    (now) => [...said].flatMap(([one, words]) => sayAbout(now, one, words)),
  );
  await engine.database.transaction(async (client) => {
    await lockInTransaction(client, `sidecar of ${id}`);
    for (const one of await standingsOf(engine, client, id)) {
      const words = said.get(one.about);
      if (words && one.at) put(engine, one, words);
    }
    for (const one of await standingsOf(engine, client, id)) if (said.has(one.about)) await keep(client, id, one);
  });
}

/** Says whether every update writes the descriptions out, or one of them. */
export async function orderSidecars(engine: Engine, id: string, on: boolean, about?: readonly string[]): Promise<void> {
  const abouts = about ?? (await subjectsOf(engine, engine.database, id)).map((one) => one.about);
  for (const one of abouts)
    await engine.database.query(
      'insert into sidecar (master, about, standing) values ($1, $2, $3) on conflict (master, about) do update set standing = $3',
      [id, one, on],
    );
  await standSidecars(engine, id);
}
