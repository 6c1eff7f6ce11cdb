import type { CopyView, DeskRow, VerdictName } from '@inkwell-twin/api';

/** Something that a person should look at today, in a sentence. */
export interface Need {
  readonly verdict: VerdictName;
  readonly lead: string;
  readonly rest: string;
  readonly master: string;
  readonly copy: string;
}

const WORDS: readonly {
  verdict: VerdictName;
  one: (copy: CopyView) => [string, string];
  many: (count: number) => string;
}[] = [
  {
    verdict: 'crossed',
    one: ({ label }) => [`${label} was changed by someone`, 'and the master moved on too'],
    many: (count) => `${count} copies were changed by others while the master moved on`,
  },
  {
    verdict: 'touched',
    one: ({ label }) => [`${label} was changed on the shelf`, 'since it was written'],
    many: (count) => `${count} copies were changed on the shelf`,
  },
  {
    verdict: 'unreadable',
    one: ({ label }) => [`${label} can’t be read any more`, ''],
    many: (count) => `${count} copies can’t be read any more`,
  },
  {
    verdict: 'gone',
    one: ({ label }) => [`${label} is gone`, 'from the shelf'],
    many: (count) => `${count} copies are gone from the shelf`,
  },
  {
    verdict: 'behind',
    one: ({ label, until }) => [`${label} fell behind`, `after r${until}`],
    many: (count) => `${count} copies fell behind`,
  },
];

/** The most pressing needs, at most three: one for each kind of trouble of each master. */
export function needsOf(rows: readonly DeskRow[]): Need[] {
  return WORDS.flatMap(({ verdict, one, many }) =>
    rows.flatMap((row): Need[] => {
      const copies = row.copies.filter((copy) => copy.verdict === verdict);
      const first = copies[0];
      if (!first) return [];
      const [lead, rest] = copies.length === 1 ? one(first) : [many(copies.length), ''];
      return [
        {
          verdict,
          lead: lead.charAt(0).toUpperCase() + lead.slice(1),
          rest: `${rest ? `${rest}: ` : 'of '}${row.title}.`,
          master: row.id,
          copy: first.id,
        },
      ];
    }),
  ).slice(0, 3);
}
