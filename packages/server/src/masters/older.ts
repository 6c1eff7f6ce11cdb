import type { OlderView } from '@inkwell-twin/api';
import {
  Failure,
  INDEX_EXTENSION,
  NATIVE_EXTENSION,
  NATIVE_VERSION,
  type NativePackage,
  type ProjectFiles,
  asFailure,
  isIndexName,
  isNativeCopy,
  openProject,
  partsFolderOf,
  readPackage,
} from '@inkwell-twin/core';
import { sha256 } from '../blobs/blobs';
import type { Engine } from '../compute/engine';
import { lockInTransaction } from '../database/database';
import { keepOriginal } from './keep';

/** Files of an older version, by their paths from the master's folder. */
export interface Older {
  readonly version: number;
  readonly files: readonly { readonly file: string; readonly size: number; readonly sha256: string }[];
}

/** Files of a folder project or of a package, as they stand on the shelf. @throws Failure `not-found` */
function filesAt({ shelf }: Engine, folder: string, file: string): ProjectFiles {
  const read = (within: string, name: string): Uint8Array => {
    const bytes = shelf.read(within, name);
    if (!bytes) throw new Failure('not-found', `There is no file ${within}/${name} on the shelf.`, { file: name });
    return bytes;
  };
  const files = new Map<string, Uint8Array>([[file, read(folder, file)]]);
  if (!isIndexName(file)) return files;
  const parts = `${folder}/${partsFolderOf(file)}`;
  // What lies in other folders is not read: its names are enough to tell which one is called otherwise.
  for (const path of shelf.folders(folder, folder.split('/').length).filter((one) => !one.slice(folder.length + 1).includes('/')))
    for (const name of shelf.files(path)) {
      const bytes = path === parts ? shelf.read(path, name) : new Uint8Array();
      if (bytes) files.set(`${path.slice(folder.length + 1)}/${name}`, bytes);
    }
  return files;
}

const openAny = (file: string, files: ProjectFiles): NativePackage =>
  isIndexName(file) ? openProject(file, files) : readPackage(files.get(file)!);

/** What lies on the shelf and belongs to no master of the Desk: native files, older ones among them. */
export async function foundOnShelf(engine: Engine): Promise<OlderView[]> {
  const { database, shelf } = engine;
  const rows = await database.rows<{ folder: string; older: Older | null }>('select folder, older from master');
  const known = new Set(
    rows.flatMap(({ folder, older }) => [
      `${folder}/${shelf.masterFile(folder)}`,
      ...(older?.files ?? []).map(({ file }) => `${folder}/${file}`),
    ]),
  );
  const names = new RegExp(`\\.(${INDEX_EXTENSION}|${NATIVE_EXTENSION})$`, 'i');
  return shelf.folders().flatMap((folder) =>
    shelf.files(folder).flatMap((file): OlderView[] => {
      const path = `${folder}/${file}`;
      if (!names.test(file) || known.has(path) || /_set_aside(_\d+)?\./.test(file)) return [];
      try {
        // A copy in an older version is no master, wherever it lies.
        if (isNativeCopy(shelf.read(folder, file) ?? new Uint8Array())) return [];
        const { master, native } = openAny(file, filesAt(engine, folder, file));
        return [{ path, title: master.title, version: native ?? NATIVE_VERSION, newer: false, trouble: null }];
      } catch (error) {
        const { code, message } = asFailure(error);
        return [{ path, title: file, version: 0, newer: code === 'newer-version', trouble: message }];
      }
    }),
  );
}

/**
 * Opens a native file that lies on the shelf, as a master of the Desk. Nothing there is touched: one of an older version gets a
 * file of now beside it with its first update.
 * @returns the master's id
 * @throws Failure as reading it does, `name-taken` where the master is on the Desk already
 */
export async function openFromShelf(engine: Engine, path: string): Promise<string> {
  const { database, masters, shelf, jobs } = engine;
  const at = path.lastIndexOf('/');
  const [folder, file] = [path.slice(0, Math.max(0, at)), path.slice(at + 1)];
  if (!folder)
    throw new Failure('name-unsafe', 'Put it into a folder of its own on the shelf, so that what comes of it can lie beside it.');
  shelf.path(folder, file);
  const files = filesAt(engine, folder, file);
  if (isNativeCopy(files.get(file)!))
    throw new Failure('conflict', `${file} is a copy of a master, in an older version. Drop it on the Desk to see of which.`);
  const { master, rev, time, history, resources, native = NATIVE_VERSION } = openAny(file, files);
  if (native === NATIVE_VERSION)
    throw new Failure('conflict', `${file} is of the version of now: drop it on the Desk to bring it in.`);
  const used = isIndexName(file)
    ? [...files].filter(([name]) => name === file || name.startsWith(`${partsFolderOf(file)}/`))
    : [...files];
  const older: Older = {
    version: native,
    files: used.map(([name, bytes]) => ({ file: name, size: bytes.length, sha256: sha256(bytes) })),
  };
  await database.transaction(async (client) => {
    await lockInTransaction(client, 'folders');
    const { rows } = await client.query<{ title: string; folder: string }>(
      'select title, folder from master where id = $1 or folder = $2',
      [master.id, folder],
    );
    if (rows[0])
      throw new Failure('name-taken', `“${rows[0].title}” is on the Desk already, at ${rows[0].folder}. Nothing was changed.`);
    const first = {
      rev: 1,
      time,
      author: master.owner,
      message: `Opened from native version ${native}, r${rev} there`,
      patches: [],
    };
    await masters.add(client, folder, history ?? { first: master, revisions: [first] }, master);
    await client.query('update master set older = $2 where id = $1', [master.id, JSON.stringify(older)]);
    for (const { id, name, mediaType } of master.resources) {
      const bytes = resources.get(id);
      if (bytes) await keepOriginal(client, master.id, { bytes, name, mediaType });
    }
    await jobs.picture(master.id, client);
  });
  await jobs.event({ kind: 'master', master: master.id });
  return master.id;
}

/** Takes away the files of an older version, once there is one of now. What was changed since it was opened stays. @returns those that stayed */
export async function removeLeftovers(engine: Engine, id: string): Promise<string[]> {
  const { database, shelf } = engine;
  return database.transaction(async (client) => {
    await lockInTransaction(client, `shelf of ${id}`);
    const { rows } = await client.query<{ folder: string; older: Older | null; file_sha256: string | null }>(
      'select folder, older, file_sha256 from master where id = $1 for update',
      [id],
    );
    const row = rows[0];
    if (!row?.older) throw new Failure('not-found', 'Nothing of an older version is left of this master.');
    const now = row.file_sha256 && shelf.read(row.folder, shelf.masterFile(row.folder));
    if (!now || sha256(now) !== row.file_sha256)
      throw new Failure('conflict', 'Its file of now is not on the shelf yet, or was changed there. Nothing was taken away.');
    const stayed: string[] = [];
    for (const { file, sha256: sha } of row.older.files) {
      const cut = file.lastIndexOf('/');
      const within = cut < 0 ? row.folder : `${row.folder}/${file.slice(0, cut)}`;
      const standing = shelf.read(within, file.slice(cut + 1));
      if (standing && sha256(standing) !== sha) stayed.push(file);
      else if (standing) shelf.clear(within, file.slice(cut + 1), sha);
      if (cut >= 0) shelf.clearEmptyFolder(within);
    }
    await client.query('update master set older = null where id = $1', [id]);
    return stayed;
  });
}
