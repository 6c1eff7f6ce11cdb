import type { CopyDescription } from '../contracts/description';
import { type Difference, difference } from '../contracts/difference';
import type { LeafPrint } from '../contracts/kind';
import type { Master } from '../document/schema';
import { cleanText, saidOf } from '../evaluate/described/said';
import { canonical } from '../document/hash';
import { digest } from '../base/bytes/hasher';

/** What a master says of itself, as its copies do. */
export function descriptionOf(master: Pick<Master, 'title' | 'keywords' | 'description' | 'rights'>): CopyDescription {
  const { keywords, caption, rights } = saidOf(master);
  return { title: cleanText(master.title), keywords, caption, rights };
}

/** What a copy depends on that says what its master says of itself. */
export function printOfDescription(master: Master): LeafPrint {
  const said = descriptionOf(master);
  const parts = new Map(Object.entries(said).map(([field, value]) => [field, canonical(value)]));
  return { key: 'description', hash: digest(canonical(said)).slice(0, 32), parts: () => new Map([[master.id, parts]]) };
}

const FIELDS: readonly (readonly [field: keyof CopyDescription, words: string])[] = [
  ['title', 'Title'],
  ['caption', 'Caption'],
  ['keywords', 'Keywords'],
  ['rights', 'Rights'],
];

/** Keywords in an order that says nothing. */
const inWords = (value: CopyDescription[keyof CopyDescription] | undefined): string =>
  typeof value === 'string' ? value : [...(value ?? [])].sort().join(', ');

/** Where a copy says otherwise what its master says of itself. @param copy undefined where it says nothing */
export const descriptionDifferences = (master: CopyDescription, copy: CopyDescription | undefined): Difference[] =>
  FIELDS.flatMap(([field, words]) => {
    const [one, other] = [inWords(master[field]), inWords(copy?.[field])];
    return one === other ? [] : [difference('description changed', words, { master: one || 'none', copy: other || 'none' })];
  });

/** What there is to say, in words: "title, keywords and rights". */
export function descriptionInWords(said: CopyDescription): string {
  const there = FIELDS.filter(([field]) => said[field].length).map(([, words]) => words.toLowerCase());
  return there.length < 2 ? there.join('') : `${there.slice(0, -1).join(', ')} and ${there.at(-1)}`;
}
