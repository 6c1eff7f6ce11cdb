import { signal } from '@angular/core';
import { ROUTES } from '@inkwell-twin/api/light';
import { type DrawnPicture, pictureOf } from '@inkwell-twin/core/web';
import type { CorrectAnswer, CorrectQuestion } from '../../workers/correct.worker';
import { BUDGET, PictureStore, mostFor } from './picture-store';

/** Milliseconds after which a picture that did not come is asked for again. */
const AGAIN = 5000;

/** Counts the pictures that have come: who paints reads it, and so paints again. */
export const picturesCome = signal(0);

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
    // A worker that did not start, or ended, answers nobody: whoever waits asks another one.
    worker.onerror = () => {
      worker?.terminate();
      worker = undefined;
      for (const [number, answer] of waiting) answer({ number, bitmap: null });
      waiting.clear();
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

/** Full widths of the pictures that the master keeps, pixels: radii of corrections are in those. */
const widths = new Map<string, number>();
let most = mostFor(1);

/** Notes what pictures a master keeps, before they are shown. */
export function noteWidths(resources: readonly { readonly id: string; readonly width?: number | undefined }[]): void {
  most = mostFor(resources.length);
  for (const { id, width } of resources) if (width) widths.set(id, width);
}

/** Where the pictures of copies are, by word, as long as somebody holds their drawing. */
const ofCopies = new Map<string, WeakRef<DrawnPicture>>();

async function fetched(sha: string): Promise<ImageBitmap> {
  const answer = await fetch(`${ROUTES.picture.path.replace(':sha', sha)}?most=${most}`);
  if (!answer.ok) throw new Error(`${answer.status}`);
  return createImageBitmap(await answer.blob());
}

async function made(word: string, store: PictureStore<ImageBitmap>): Promise<ImageBitmap> {
  const own = ofCopies.get(word)?.deref();
  if (own) return createImageBitmap(new Blob([own.bytes as Uint8Array<ArrayBuffer>], { type: own.mediaType }));
  const { resource, corrections } = pictureOf(word);
  if (!corrections.length) return fetched(resource);
  const plain = await store.ready(resource);
  return corrected({ sha: resource, corrections, scale: plain.width / (widths.get(resource) ?? plain.width) }, plain);
}

const store = new PictureStore<ImageBitmap>({
  budget: BUDGET,
  make: made,
  came: () => picturesCome.update((count) => count + 1),
  later: (work) => setTimeout(work, AGAIN),
});

/** A picture by the word that a drawing has for it, or undefined while it is not there. */
export function shownPicture(word: string): ImageBitmap | undefined {
  // A word with × in it is of a copy’s own picture: nobody but its drawing has that.
  return word.includes('×') && !ofCopies.get(word)?.deref() ? undefined : store.get(word);
}

/** Takes in the pictures that came with a drawing. */
export function takePictures(pictures: Readonly<Record<string, DrawnPicture>>): void {
  for (const picture of Object.values(pictures)) {
    ofCopies.set(picture.word, new WeakRef(picture));
    store.get(picture.word);
  }
}
