import { Failure } from '../../base/failure/failure';
import type { Command } from '../../document/commands';
import { type Description, keywordsOf, withoutWords } from '../../document/describe';
import type { Patch } from '../../document/patches';
import type { Resource } from '../../document/resource-schema';
import type { Master } from '../../document/schema';
import { correctEverywhere, correctionsOf } from './corrections';
import { type Said, saidOf } from './said';

/** What a description can be about: the master itself, or a picture of it by its id. */
export const THE_MASTER = '';

/** Most that the master's own fields hold, letters. */
const LONGEST = { keywords: 64, word: 64, caption: 5000, rights: 1000 } as const;

const picture = (master: Master, about: string): Resource => {
  const found = master.resources.find(({ id }) => id === about);
  if (!found) throw new Failure('not-found', 'The master has no such picture any more.');
  return found;
};

/** What is said of a picture of a master. */
export function saidOfPicture(master: Master, { id, said }: Pick<Resource, 'id' | 'said'>): Said {
  const corrections = correctionsOf(master, id);
  const words = saidOf({ keywords: said?.keywords, description: said?.caption ?? '', rights: said?.rights });
  return { ...words, ...(corrections ? { corrections } : {}) };
}

/** What is said of a master or of a picture of it. @throws Failure `not-found` */
export const saidAbout = (master: Master, about: string): Said =>
  about === THE_MASTER ? saidOf(master) : saidOfPicture(master, picture(master, about));

/** As much of it as there is room for. */
const fitting = ({ keywords, caption, rights }: Said) => ({
  keywords: keywords.slice(0, LONGEST.keywords).map((word) => word.slice(0, LONGEST.word)),
  caption: caption.slice(0, LONGEST.caption),
  rights: rights.slice(0, LONGEST.rights),
});

/** What changes when a master or a picture of it says this; nothing for what it says already. @throws Failure `not-found` */
export function sayAbout(master: Master, about: string, said: Said): Patch[] {
  const [before, now] = [saidAbout(master, about), fitting(said)];
  const words = (some: Said): string => [...some.keywords].sort().join('\n');
  const differs = {
    keywords: words(before) !== words(now),
    caption: before.caption !== now.caption,
    rights: before.rights !== now.rights,
  };
  if (about !== THE_MASTER) {
    const value = isSaid(now) ? { ...now, keywords: [...now.keywords] } : undefined;
    return [
      ...(Object.values(differs).includes(true) ? [{ op: 'set', node: about, attribute: 'said', value } as const] : []),
      ...(said.corrections ? correctEverywhere(master, about, said.corrections) : []),
    ];
  }
  const set = (attribute: string, value: unknown): Patch => ({ op: 'set', node: master.id, attribute, value });
  return [
    ...(differs.keywords ? [set('keywords', now.keywords)] : []),
    ...(differs.caption ? [set('description', now.caption)] : []),
    ...(differs.rights ? [set('rights', now.rights)] : []),
  ];
}

/** Whether anything is said. */
export const isSaid = ({ keywords, caption, rights, corrections = [] }: Said): boolean =>
  keywords.length > 0 || caption !== '' || rights !== '' || corrections.length > 0;

/** Describes pictures of a master, several in one step: keywords are added and taken off, the rest is replaced where it is given. */
export function describePictures(master: Master, ids: readonly string[], what: Omit<Description, 'owner'>): Command {
  const { add = [], remove = [], caption, rights } = what;
  const patches = ids.flatMap((id) => {
    const before = saidAbout(master, id);
    return sayAbout(master, id, {
      keywords: withoutWords(keywordsOf([...before.keywords, ...add]), remove),
      caption: caption ?? before.caption,
      rights: rights ?? before.rights,
    });
  });
  const label = ids.length === 1 ? `${picture(master, ids[0]!).name}: described` : `${ids.length} pictures described`;
  return { label, patches };
}
