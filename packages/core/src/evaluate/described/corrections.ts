import * as z from 'zod';
import { canonical } from '../../document/hash';
import { Correction } from '../../document/corrections';
import { usesOfResource } from '../../document/links';
import type { Patch } from '../../document/patches';
import type { Master, PictureItem } from '../../document/schema';

/** Most that one picture has. */
const MOST = 50;
const isPicture = (node: object): node is PictureItem => 'kind' in node && node.kind === 'picture';

const picturesShowing = (master: Master, resource: string): PictureItem[] =>
  usesOfResource(master, resource).flatMap(({ node }) => (isPicture(node) ? [node] : []));

/** Corrections as a word that is equal for equal ones. */
export const correctionsKey = (corrections: readonly Correction[]): string => canonical(corrections);

/**
 * The corrections of a kept picture: those that it has wherever it is shown.
 * @returns undefined where it is shown nowhere, or here with some and there with others, so that there is no single answer
 */
export function correctionsOf(master: Master, resource: string): readonly Correction[] | undefined {
  const [first, ...others] = picturesShowing(master, resource).map(({ corrections = [] }) => corrections);
  return first && others.every((one) => correctionsKey(one) === correctionsKey(first)) ? first : undefined;
}

/** Patches that give a kept picture these corrections wherever it is shown. */
export const correctEverywhere = (master: Master, resource: string, corrections: readonly Correction[]): Patch[] =>
  picturesShowing(master, resource).flatMap(({ id, corrections: before = [] }): Patch[] =>
    correctionsKey(before) === correctionsKey(corrections)
      ? []
      : [{ op: 'set', node: id, attribute: 'corrections', value: corrections.length ? [...corrections] : undefined }],
  );

function inWords({ kind, off, ...amounts }: Correction): string {
  const words = Object.entries(amounts).map(([name, value]) => `${name} ${Array.isArray(value) ? value.length : value}`);
  return `${kind}: ${words.join(', ')}${off ? ' (lifted off)' : ''}`;
}
/** Corrections in words, in the order in which they act. */
export const correctionsInWords = (corrections: readonly Correction[]): string => corrections.map(inWords).join('; ');

/** Corrections as a file outside says them, one JSON text each. @returns what is wrong with them, in words, where they are not understood */
export function correctionsFrom(texts: readonly string[]): Correction[] | string {
  if (texts.length > MOST) return `It holds ${texts.length} corrections; a picture has ${MOST} at most.`;
  const found: Correction[] = [];
  for (const [i, text] of texts.entries()) {
    let value: unknown;
    try {
      value = JSON.parse(text);
    } catch {
      return `Its correction no. ${i + 1} is no JSON.`;
    }
    const read = Correction.safeParse(value);
    if (!read.success)
      return `Its correction no. ${i + 1} is not one that is known here: ${z.prettifyError(read.error).slice(0, 200)}`;
    found.push(read.data);
  }
  return found;
}
