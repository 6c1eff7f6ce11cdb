import type { Correction } from './corrections';

/** A word for a kept picture with its corrections: equal words show the same. Those that are switched off are not in it. */
export const pictureWord = (resource: string, corrections: readonly Correction[]): string => {
  const acting = corrections.filter(({ off }) => !off);
  return acting.length ? JSON.stringify([resource, acting]) : resource;
};

/** What a word of `pictureWord` stands for. */
export function pictureOf(word: string): { readonly resource: string; readonly corrections: readonly Correction[] } {
  if (!word.startsWith('[')) return { resource: word, corrections: [] };
  const [resource, corrections] = JSON.parse(word) as [string, Correction[]];
  return { resource, corrections };
}
