import { Failure } from '@inkwell-twin/core';

/** A count of pixels in words. */
export const megapixels = (count: number): string => `${Math.round(count / 1e6)} million`;

/** What a library says is wrong, in one line. */
export const wordsOf = (error: unknown): string =>
  (error instanceof Error ? error.message : String(error))
    .split('\n')[0]!
    .replace(/^vips[a-z]*: /, '')
    .replace(/^Input buffer (has|contains) /, 'it $1 ')
    .slice(0, 160);

export const damaged = (error: unknown): Failure =>
  error instanceof Failure
    ? error
    : new Failure('picture-damaged', `The picture is damaged: ${wordsOf(error)}. Ask its sender for it again.`);
