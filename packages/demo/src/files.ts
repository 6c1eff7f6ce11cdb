import { existsSync } from 'node:fs';
import { join } from 'node:path';
import {
  DEFAULT_PATTERN,
  Failure,
  type Master,
  type Services,
  type PictureEngine,
  NATIVE_EXTENSION,
  type Recipe,
  declarationOf,
  derive,
  fileName,
  fixedScope,
  idFrom,
  linkedIn,
  partName,
  recipeOf,
  partScope,
  type Scope,
  revisionsOf,
  scopeInWords,
  versionIn,
  writePackage,
  heldRows,
  wholeOf,
} from '@inkwell-twin/core';
import { writeWhole } from '@inkwell-twin/render';
import type { DemoCopy, DemoMaster, Mishap } from './story';

/** The recipe of a demo copy; its id is the same each time. */
export const recipeOfDemo = (master: Master, copy: DemoCopy): Recipe =>
  fixed(master, recipeOf(copy.target, copy.options, scopeOfDemo(copy), idFrom(`${master.id} ${copy.label}`)));
const scopeOfDemo = ({ all, of, part }: DemoCopy): Scope | string => (all ? { of: 'master' } : of ? partScope(of, part) : part);
const fixed = (master: Master, recipe: Recipe): Recipe => ({ ...recipe, scope: fixedScope(master, recipe.scope) });

/** What a mishap makes of a copy's bytes; null where it is deleted. @throws Failure when there is nothing to edit */
export async function afterMishap(
  bytes: Uint8Array,
  mishap: Mishap,
  services: Pick<Services, 'pictures'>,
): Promise<Uint8Array | null> {
  if (mishap.kind === 'delete') return null;
  if (mishap.kind === 'paint') return painted(bytes, mishap, services.pictures!);
  const text = new TextDecoder().decode(bytes);
  const changed = text.replace(mishap.find, mishap.replace as string);
  if (changed === text) throw new Failure('demo-broken', `The demo's edit found no “${String(mishap.find)}” to change.`);
  return new TextEncoder().encode(changed);
}

/** A picture with a rectangle painted over, saved again with all that it says of itself. */
async function painted(
  bytes: Uint8Array,
  { left, top, right, bottom, colour }: Mishap & { kind: 'paint' },
  pictures: PictureEngine,
): Promise<Uint8Array> {
  const { rows, facts, xmp } = await pictures.raster(bytes);
  const { width, height, data } = wholeOf(rows);
  const value = parseInt(colour.slice(1), 16);
  for (let y = Math.round(top * height); y < bottom * height; y++)
    for (let x = Math.round(left * width); x < right * width; x++)
      data.set([value >> 16, (value >> 8) & 255, value & 255, 255], 4 * (y * width + x));
  const like = { format: 'png', depth: 8, alpha: facts.alpha, profile: 'sRGB', quality: null, ppi: facts.ppi ?? 96 } as const;
  return pictures.withXmp(await pictures.encode(heldRows({ width, height, data }), like), 'png', xmp ?? '');
}

/** Writes the demo masters and their copies into a folder, each as it would lie on a shelf. @returns the paths written */
export async function writeDemo(masters: readonly DemoMaster[], folder: string, services: Services): Promise<string[]> {
  const written: string[] = [];
  const put = (path: string, bytes: Uint8Array) => {
    if (existsSync(path))
      throw new Failure('name-taken', `${path} exists already; nothing is written over. Choose an empty folder.`, {
        file: path,
      });
    writeWhole(path, bytes);
    written.push(path);
  };
  for (const { first, revisions, copies, kept = [], beside = [], place = '' } of masters) {
    const resources = new Map(kept.map(({ resource, bytes }) => [resource.id, bytes]));
    const own: Services = { ...services, resource: (sha) => resources.get(sha)! };
    const all = [...revisionsOf({ first, revisions })];
    const { master, rev, time } = all.at(-1)!;
    const home = join(folder, place, fileName('{title}', { title: master.title }, 'x').slice(0, -2));
    const name = fileName('{title}', { title: master.title }, NATIVE_EXTENSION);
    const inside = new Map(resources);
    for (const { id } of linkedIn(master)) inside.delete(id);
    put(join(home, name), writePackage({ master, rev, time, history: { first, revisions }, resources: inside }));
    for (const { path, bytes } of beside) put(join(folder, path), bytes);
    for (const copy of copies) {
      const recipe = recipeOfDemo(master, copy);
      const at = all[copy.rev - 1]!;
      const [file, ...beside] = (await derive(at, recipe, own)).files;
      const left = copy.mishap ? await afterMishap(file!.bytes, copy.mishap, services) : file!.bytes;
      const declaration = declarationOf(recipe.target);
      const board = scopeInWords(master, recipe.scope);
      const parts = { title: copy.label, board, rev: copy.rev, version: versionIn(declaration, recipe.options) };
      const path = join(home, fileName(DEFAULT_PATTERN, parts, declaration.extension(recipe.options)));
      if (left) put(path, left);
      for (const { part, bytes } of left ? beside : []) put(partName(path, part), bytes);
    }
  }
  return written;
}
