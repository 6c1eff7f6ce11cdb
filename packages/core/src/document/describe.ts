import type { Patch } from './patches';
import type { Master } from './schema';

/** What is to be said of masters: keywords to add and to take off; the rest replaces what was said, where it is given. */
export interface Description {
  readonly add?: readonly string[];
  readonly remove?: readonly string[];
  readonly caption?: string;
  readonly rights?: string;
  readonly owner?: string;
}

const same = (a: string, b: string): boolean => a.localeCompare(b, undefined, { sensitivity: 'accent' }) === 0;

/** Keywords as people list them: trimmed, none twice whatever the letters' case, in the order in which they came. */
export function keywordsOf(words: readonly string[]): string[] {
  const found: string[] = [];
  for (const word of words.map((one) => one.trim().replace(/\s+/g, ' ')).filter(Boolean))
    if (!found.some((one) => same(one, word))) found.push(word);
  return found;
}

/** Words without some of them, whatever the case of their letters. */
export const withoutWords = (words: readonly string[], remove: readonly string[]): string[] =>
  words.filter((word) => !remove.some((one) => same(one.trim(), word)));

/** What of a master changes when it is described so; nothing for what it says already. */
export function describe(master: Master, { add = [], remove = [], caption, rights, owner }: Description): Patch[] {
  const before = master.keywords ?? [];
  const keywords = withoutWords(keywordsOf([...before, ...add]), remove);
  const set = (attribute: string, value: unknown, old: unknown): Patch[] =>
    JSON.stringify(value) === JSON.stringify(old) ? [] : [{ op: 'set', node: master.id, attribute, value } as Patch];
  return [
    ...set('keywords', keywords, before),
    ...(caption === undefined ? [] : set('description', caption, master.description)),
    ...(rights === undefined ? [] : set('rights', rights, master.rights ?? '')),
    ...(owner === undefined ? [] : set('owner', owner, master.owner)),
  ];
}
