import type { Services } from '../../contracts/services';
import { Failure } from '../../base/failure/failure';
import { isPicture } from '../../document/paint';
import type { ResolvedPart } from '../resolve';
import { correct } from './correct';
import { drawnPicture } from '../../contracts/pictures';
import type { DrawnPicture } from '../../contracts/drawn-picture';
import { pictureOf } from '../../document/picture-word';
import { type Saving, type Shrinking, pixelsNeeded, shrinkPicture } from './shrunk';

/** A picture made for a copy. */
export interface MadePicture {
  readonly drawn: DrawnPicture;
  /** Whether it is not the kept file, but one made of it. */
  readonly remade: boolean;
  /** What making it smaller saved and cost, where that was done. */
  readonly saving?: Saving;
}
/** By the words that a master has for them. */
export type MadePictures = ReadonlyMap<string, MadePicture>;

/** Formats that nearly everything shows. */
const SHOWN_EVERYWHERE = new Set(['image/png', 'image/jpeg']);

function wordsIn({ entries, cells }: ResolvedPart, found: Set<string>): Set<string> {
  for (const { style } of entries) if (isPicture(style.fill)) found.add(style.fill.picture);
  for (const cell of cells.values()) wordsIn(cell, found);
  return found;
}

/** The pictures that a board shows, corrected and ready to be put into a copy. @returns at once where there are none */
export function picturesFor(part: ResolvedPart, services: Services, shrinking?: Shrinking): MadePictures | Promise<MadePictures> {
  const words = wordsIn(part, new Set());
  if (!words.size || !services.pictures) return new Map();
  return (async () => {
    const made = new Map<string, MadePicture>();
    const needed = shrinking && pixelsNeeded(part, shrinking.ppi);
    for (const word of words) {
      const one = await makePicture(word, services);
      const need = needed?.get(word);
      made.set(word, need ? await smaller(word, one, need, shrinking!.quality, services) : one);
    }
    return made;
  })();
}

/** @throws Failure `resource-missing` */
export async function bytesOfResource(sha: string, { resource }: Services): Promise<Uint8Array> {
  const bytes = await resource?.(sha);
  if (bytes) return bytes;
  throw new Failure('resource-missing', `The picture ${sha.slice(0, 12)}… is not kept with this master. Bring it in again.`);
}

async function makePicture(word: string, services: Services): Promise<MadePicture> {
  const { resource, corrections } = pictureOf(word);
  const engine = services.pictures!;
  const bytes = await bytesOfResource(resource, services);
  const facts = await engine.facts(bytes);
  if (!corrections.length && SHOWN_EVERYWHERE.has(facts.mediaType) && facts.plain && !facts.turned)
    return { drawn: await drawnPicture(engine, bytes), remade: false };
  const known = remembered.get(word);
  if (known) return known;
  const pixels = await engine.pixels(bytes, corrections.length || facts.depth === 16 ? 16 : 8);
  const made = { drawn: await drawnPicture(engine, await engine.png(correct(pixels, corrections))), remade: true };
  remember(word, made);
  return made;
}

/** A picture made smaller, or the very same where that would not make it so. */
async function smaller(
  word: string,
  made: MadePicture,
  need: { readonly width: number; readonly height: number },
  quality: number,
  services: Services,
): Promise<MadePicture> {
  const key = `${word} ${need.width}×${need.height} ${quality}`;
  const known = remembered.get(key);
  if (known) return known;
  const found = await shrinkPicture(services.pictures!, made.drawn, need, quality);
  if (!found) return made;
  const less: MadePicture = { drawn: found.drawn, remade: true, saving: found.saving };
  remember(key, less);
  return less;
}

/** Bytes of made pictures that are kept for the next copy of the same master. */
const REMEMBERED = 96 * 1024 * 1024;
/** By their words, which say all that they are made of; what was made first goes first. */
const remembered = new Map<string, MadePicture>();
let size = 0;

function remember(word: string, made: MadePicture): void {
  const own = made.drawn.bytes.length;
  if (own > REMEMBERED || remembered.has(word)) return;
  remembered.set(word, made);
  size += own;
  for (const [oldest, { drawn }] of remembered) {
    if (size <= REMEMBERED) break;
    remembered.delete(oldest);
    size -= drawn.bytes.length;
  }
}
