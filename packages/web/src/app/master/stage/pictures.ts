import { signal } from '@angular/core';
import { ROUTES } from '@inkwell-twin/api/light';
import { type DrawnPicture, pictureOf } from '@inkwell-twin/core/web';
import type { CorrectAnswer, CorrectQuestion } from '../../workers/correct.worker';

/** Pixels each way that a picture is shown with at most. */
const MOST = 2048;
/** Shown pictures that are kept, by number; what is not asked for longest goes first. */
const KEPT = 48;

/** Milliseconds after which a picture that did not come is asked for again. */
const AGAIN = 5000;

const shown = new Map<string, ImageBitmap>();
const underWay = new Set<string>();
const failed = new Set<string>();

/** Counts the pictures that have come: who paints reads it, and so paints again. */
export const picturesCome = signal(0);

function keep(word: string, bitmap: ImageBitmap): void {
  shown.set(word, bitmap);
  for (const [oldest, old] of shown) {
    if (shown.size <= KEPT) break;
    shown.delete(oldest);
    old.close();
  }
  picturesCome.update((count) => count + 1);
}

/** Fetches, opens or corrects a picture once. */
function ask(word: string, make: () => Promise<ImageBitmap>): void {
  if (underWay.has(word) || failed.has(word)) return;
  underWay.add(word);
  make()
    .then((bitmap) => keep(word, bitmap))
    .catch(() => {
      failed.add(word);
      // The server may only be away for a moment.
      setTimeout(() => failed.delete(word) && picturesCome.update((count) => count + 1), AGAIN);
    })
    .finally(() => underWay.delete(word));
}

let worker: Worker | undefined;
let asked = 0;
const waiting = new Map<number, (answer: CorrectAnswer) => void>();

/** Has a worker correct a picture: it keeps the pictures that it was given. */
async function corrected(question: Omit<CorrectQuestion, 'number' | 'picture'>, bitmap: ImageBitmap): Promise<ImageBitmap> {
  if (!worker) {
    worker = new Worker(new URL('../../workers/correct.worker', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<CorrectAnswer>) => {
      waiting.get(data.number)?.(data);
      waiting.delete(data.number);
    };
  }
  const number = ++asked;
  const picture = await createImageBitmap(bitmap);
  const answer = new Promise<CorrectAnswer>((resolve) => waiting.set(number, resolve));
  worker.postMessage({ ...question, number, picture } satisfies CorrectQuestion, [picture]);
  const { bitmap: made } = await answer;
  if (!made) throw new Error('The picture could not be corrected.');
  return made;
}

async function fetched(sha: string): Promise<ImageBitmap> {
  const known = shown.get(sha);
  if (known) return known;
  const answer = await fetch(`${ROUTES.picture.path.replace(':sha', sha)}?most=${MOST}`);
  if (!answer.ok) throw new Error(`${answer.status}`);
  const bitmap = await createImageBitmap(await answer.blob());
  keep(sha, bitmap);
  return bitmap;
}

/** Full widths of kept pictures, pixels: radii of corrections are in those. */
const widths = new Map<string, number>();
export const noteWidths = (resources: readonly { readonly id: string; readonly width?: number | undefined }[]): void => {
  for (const { id, width } of resources) if (width) widths.set(id, width);
};

/** A picture by the word that a drawing has for it, or undefined while it is not there. */
export function shownPicture(word: string): ImageBitmap | undefined {
  const found = shown.get(word);
  if (found) {
    shown.delete(word);
    shown.set(word, found);
    return found;
  }
  // A word with × in it is of a copy's own picture, which came with the copy.
  if (!word.includes('×')) {
    const { resource, corrections } = pictureOf(word);
    ask(word, async () => {
      const plain = await fetched(resource);
      if (!corrections.length) return plain;
      return corrected({ sha: resource, corrections, scale: plain.width / (widths.get(resource) ?? plain.width) }, plain);
    });
  }
  return undefined;
}

/** Takes in the pictures that came with a drawing. */
export function takePictures(pictures: Readonly<Record<string, DrawnPicture>>): void {
  for (const { word, bytes, mediaType } of Object.values(pictures))
    if (!shown.has(word)) ask(word, () => createImageBitmap(new Blob([bytes as Uint8Array<ArrayBuffer>], { type: mediaType })));
}
