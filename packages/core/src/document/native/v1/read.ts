import { Failure } from '../../../base/failure/failure';
import { digest } from '../../hash';
import { fits, parseJson } from '../checked';
import { Board1, INDEX_EXTENSION, Index1, PARTS_ENDING, type Project1 } from './schema';

const LIMIT = 512 * 1024 * 1024;

/** The files of a project by their paths from the folder that its index lies in. */
export type ProjectFiles = ReadonlyMap<string, Uint8Array>;

export const isIndexName = (name: string): boolean => name.toLowerCase().endsWith(`.${INDEX_EXTENSION}`);

/** The folder of a project's parts, by the name of its index: they go by their names. */
export const partsFolderOf = (indexName: string): string => `${indexName.slice(0, -(INDEX_EXTENSION.length + 1))}${PARTS_ENDING}`;

/**
 * Reads a folder project. Its index and its folder go by their names: `plaque.inkfolio` beside `plaque_parts/`.
 * @param indexName name of the index file among `files`
 * @throws Failure `newer-version`, `package-damaged` that names the part that is missing, misnamed or other than its checksum says
 */
export function readProject(indexName: string, files: ProjectFiles): Project1 {
  const index = files.get(indexName);
  if (!index) throw new Failure('package-damaged', `There is no ${indexName}.`, { file: indexName });
  const raw = parseJson(new TextDecoder().decode(index), indexName);
  const version = (raw as { version?: unknown } | null)?.version;
  if (typeof version === 'number' && version > 1)
    throw new Failure(
      'newer-version',
      `${indexName} says version ${version}; folder projects were written up to version 1. Nothing was changed.`,
      {
        file: indexName,
      },
    );
  const told = fits(Index1, raw, indexName);
  const folder = partsFolderOf(indexName);
  let total = 0;
  const part = (name: string, sha: string): Uint8Array => {
    const path = `${folder}/${name}`;
    const bytes = files.get(path);
    if (!bytes) throw new Failure('package-damaged', whyMissing(files, folder, name, indexName), { file: path });
    total += bytes.length;
    if (total > LIMIT)
      throw new Failure('package-too-large', `The parts of ${indexName} have more than 512 MB. It is not opened.`, {
        file: path,
      });
    if (digest(bytes) !== sha)
      throw new Failure('package-damaged', `${path} is not as its checksum in ${indexName} says: it was changed by itself.`, {
        file: path,
      });
    return bytes;
  };
  const boards = told.boards.map(({ file, sha256 }) =>
    fits(Board1, parseJson(new TextDecoder().decode(part(file, sha256)), `${folder}/${file}`), `${folder}/${file}`),
  );
  const pictures = new Map(told.pictures.map(({ file, sha256 }) => [file, part(file, sha256)]));
  const layers = new Set(told.layers.map(({ id }) => id));
  for (const { name, items } of boards)
    for (const item of items) {
      if (!layers.has(item.layer))
        throw new Failure(
          'package-damaged',
          `On “${name}”, ${item.id} is on the layer ${item.layer}, which ${indexName} does not have.`,
          { node: item.id },
        );
      if ('file' in item && !pictures.has(item.file))
        throw new Failure('package-damaged', `On “${name}”, ${item.id} shows ${item.file}, which ${indexName} does not list.`, {
          node: item.id,
        });
    }
  return { index: told, boards, pictures };
}

/** A part that is not there: because its folder is called otherwise, or the part itself is, or it is gone. */
function whyMissing(files: ProjectFiles, folder: string, name: string, index: string): string {
  const others = [...files.keys()].filter((path) => path.includes('/'));
  const folders = [...new Set(others.map((path) => path.slice(0, path.indexOf('/'))))];
  if (!folders.includes(folder)) {
    const like = folders.find((one) => others.includes(`${one}/${name}`));
    return like
      ? `The parts of ${index} should lie in ${folder}, but lie in ${like}. Index and folder go by their names: rename one of them.`
      : `The folder ${folder} of ${index} is missing or empty. Put it beside the index again.`;
  }
  const like = others.find((path) => path.startsWith(`${folder}/`) && path.toLowerCase() === `${folder}/${name}`.toLowerCase());
  return like
    ? `The part ${name} of ${index} is called ${like.slice(folder.length + 1)} in ${folder}: only its letters' case is another. Rename it.`
    : `The part ${name} of ${index} is missing from ${folder}. Put it back there.`;
}
