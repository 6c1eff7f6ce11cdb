/// <reference lib="webworker" />
import { type Correction, correct } from '@inkwell-twin/core/pictures';

/** A picture to correct as it is shown. */
export interface CorrectQuestion {
  readonly number: number;
  readonly sha: string;
  readonly corrections: readonly Correction[];
  /** Pixels there are for one of the whole picture. */
  readonly scale: number;
  readonly picture: ImageBitmap;
}
export interface CorrectAnswer {
  readonly number: number;
  readonly bitmap: ImageBitmap | null;
}

/** The pixels of the picture that was corrected last: one correction is changed again and again. */
let last: { sha: string; width: number; height: number; data: Uint8Array } | undefined;

function pixelsOf({ sha, picture }: CorrectQuestion): NonNullable<typeof last> {
  const { width, height } = picture;
  if (last?.sha !== sha || last.width !== width) {
    const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
    context.drawImage(picture, 0, 0);
    last = { sha, width, height, data: new Uint8Array(context.getImageData(0, 0, width, height).data.buffer) };
  }
  picture.close();
  return last;
}

addEventListener('message', ({ data: question }: MessageEvent<CorrectQuestion>) => {
  const answer = async (): Promise<CorrectAnswer> => {
    const { data, width, height } = correct(pixelsOf(question), question.corrections, question.scale);
    const bytes = new Uint8ClampedArray(data.buffer as ArrayBuffer, data.byteOffset, data.byteLength);
    return { number: question.number, bitmap: await createImageBitmap(new ImageData(bytes, width, height)) };
  };
  void answer()
    .catch((): CorrectAnswer => ({ number: question.number, bitmap: null }))
    .then((made) => postMessage(made, made.bitmap ? [made.bitmap] : []));
});
