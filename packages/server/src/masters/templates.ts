import { type Master, Failure, newId } from '@inkwell-twin/core';
import { sweepBlobs } from '../blobs/blobs';
import type { Engine } from '../compute/engine';
import type { Database } from '../database/database';
import { addMaster } from './keep';

/** Makes a template of a master as it is at its head: its own copy of the document, and of the list of files that it keeps. */
export async function makeTemplate({ database, masters }: Engine, master: string, name: string, by: string): Promise<string> {
  const id = newId();
  await database.transaction(async (client) => {
    const { head } = await masters.load(master, client);
    await client.query(
      'insert into template (id, name, made_by, document, png) values ($1, $2, $3, $4, (select png from picture where master = $5))',
      [id, name, by, JSON.stringify(head.master), master],
    );
    const shown = head.master.resources.map(({ id: sha }) => sha);
    await client.query(
      'insert into template_file (template, sha256, name, media_type) select $1, sha256, name, media_type from original where master = $2 and sha256 = any ($3)',
      [id, master, shown],
    );
  });
  return id;
}

/** Takes a template away. What was begun from it stays as it is. @throws Failure `not-found` */
export async function removeTemplate(database: Database, id: string): Promise<void> {
  await database.transaction(async (client) => {
    const { rowCount } = await client.query('delete from template where id = $1', [id]);
    if (!rowCount) throw new Failure('not-found', 'This template was taken away already.');
    await sweepBlobs(client);
  });
}

/** What a master is called that nobody has named yet. */
export const UNNAMED = 'Unnamed';

/**
 * Begins a master from a template: always a new one, with a history of its own.
 * @throws Failure `not-found` where somebody took the template away meanwhile; nothing was begun then
 */
export async function beginFrom(engine: Engine, template: string, title: string, owner: string): Promise<string> {
  const id = newId();
  await engine.database.transaction(async (client) => {
    // Held until the new master is there, so that its files are not swept away with the template.
    const { rows } = await client.query<{ name: string; document: Master }>(
      'select name, document from template where id = $1 for share',
      [template],
    );
    if (!rows[0])
      throw new Failure('not-found', 'Somebody took this template away meanwhile. Nothing was begun; choose another.');
    const first: Master = { ...rows[0].document, id, title: title || UNNAMED, owner };
    await addMaster(engine, client, first, `Begun from the template “${rows[0].name}”`);
    await client.query(
      'insert into original (master, sha256, name, media_type) select $1, sha256, name, media_type from template_file where template = $2',
      [id, template],
    );
  });
  await engine.jobs.event({ kind: 'master', master: id });
  return id;
}
