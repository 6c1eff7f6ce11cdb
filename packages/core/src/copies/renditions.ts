import type { Options, Rendition } from '../contracts/declaration';
import type { CopyFile, RenditionFile } from '../contracts/codec';
import type { CarryLines } from '../contracts/report';
import type { Services } from '../contracts/services';
import { PARTS, PART_LISTS } from '../contracts/schemas';
import { partScope } from '../contracts/scope';
import { Failure, asFailure } from '../base/failure/failure';
import { fileName, freeName } from '../base/naming';
import { isSaid, saidOf, saidOfPicture, writeSidecar } from '../evaluate/described';
import { encodeText } from '../base/bytes/text';
import type { Master } from '../document/schema';
import { allItems } from '../document/tree';
import { declarationOf, parseOptions } from '../formats/declarations';
import { type Recipe, recipeOf } from './recipe';
import type { RevisionOf } from './revision';

const partsIn = (master: Master, list: Rendition['of']): readonly { readonly id: string; readonly name: string }[] =>
  master[list] ?? [];

/**
 * Every part of a master, derived as it is to be kept, with its descriptions, and the files that were brought in.
 * @param derive makes a copy of a part
 * @throws Failure that names the part which could not be derived
 */
export async function renditionsOf(
  revision: RevisionOf,
  plans: readonly Rendition[],
  { originals }: Options,
  services: Services,
  derive: (
    revision: RevisionOf,
    recipe: Recipe,
    services: Services,
  ) => Promise<{ readonly files: readonly CopyFile[]; readonly defects: readonly unknown[] }>,
): Promise<RenditionFile[]> {
  const { master } = revision;
  const files: RenditionFile[] = [];
  const put = (folder: string, name: string, bytes: Uint8Array): void => {
    const taken = files.flatMap(({ path }) => (path.startsWith(`${folder}/`) ? [path.slice(folder.length + 1)] : []));
    files.push({ path: `${folder}/${freeName(name, taken)}`, bytes });
  };
  for (const { of, folder, target, options } of plans)
    for (const { id, name } of partsIn(master, of)) {
      services.signal?.throwIfAborted();
      const recipe = recipeOf(target, options, partScope(of, id));
      const extension = declarationOf(target).extension(recipe.options);
      const made = await derive(revision, recipe, services).catch((error: unknown) => {
        const { code, message, where } = asFailure(error);
        throw new Failure(code, `The ${PARTS[of]} “${name}”, as ${declarationOf(target).label}: ${message}`, where);
      });
      if (made.defects.length)
        throw new Failure('defect', `The ${PARTS[of]} “${name}” came out otherwise than said. This is a defect of ours.`);
      put(folder, fileName('{title}', { title: name }, extension), made.files[0]!.bytes);
    }
  for (const [name, said] of described(master))
    put('descriptions', fileName('{title}', { title: name }, 'xmp'), encodeText(writeSidecar(said, null)));
  if (originals === 'with')
    for (const { id, name } of master.resources) {
      const bytes = await services.resource?.(id);
      if (bytes) put('originals', plainFile(name), bytes);
    }
  return files.sort((a, b) => (a.path < b.path ? -1 : 1));
}

/** What is said of a master and of its pictures, with their corrections, under a name for each. */
const described = (master: Master) =>
  [
    ['master', saidOf(master)] as const,
    ...master.resources
      .filter(({ role }) => role !== 'original')
      .map((one) => [one.name.replace(/\.[^.]*$/, ''), saidOfPicture(master, one)] as const),
  ].filter(([, said]) => isSaid(said));

/** The name of a file that was brought in, as every file system takes it. */
function plainFile(name: string): string {
  const dot = name.lastIndexOf('.');
  const [stem, extension] = dot > 0 ? [name.slice(0, dot), name.slice(dot + 1)] : [name, 'bin'];
  return fileName('{title}', { title: stem }, /^[A-Za-z0-9]{1,8}$/.test(extension) ? extension : 'bin');
}

/** Says what arrives: the master as it is, and of each part what it can be read as without this program. */
export function reportRenditions(master: Master, plans: readonly Rendition[], lines: CarryLines): void {
  const whole = lines.line('native master', 'kept', 'The master itself', 'as it is: it opens again from here');
  const arrives = (id: string): void => {
    lines.take(id);
    whole(id);
  };
  for (const { items } of master.boards) for (const { id } of allItems(items)) arrives(id);
  for (const list of PART_LISTS) if (list !== 'boards') for (const { id } of partsIn(master, list)) arrives(id);
  for (const { of, target, options, folder, loses } of plans) {
    const declaration = declarationOf(target);
    const version = declaration.named?.(parseOptions(declaration, options));
    const becomes = `lies beside it as ${declaration.label}${version ? `, ${version}` : ''}${loses ? ', with loss: not for production' : ''}`;
    const line = lines.line(`${folder} ${of}`, loses ? 'approximated' : 'kept', wordsFor(of, folder), becomes);
    for (const { id } of partsIn(master, of)) line(id);
  }
}

const wordsFor = (of: Rendition['of'], folder: string): string =>
  folder.startsWith('previews')
    ? `Previews of ${PARTS[of]}s, ${folder.slice('previews/'.length)} pixels wide`
    : `Each ${PARTS[of]}`;
