import type { Attention, VerdictName } from '@inkwell-twin/api';
import { counted } from '../shared/words';

/** Something that a person should look at today, in a sentence. */
interface Need {
  readonly verdict: VerdictName;
  readonly lead: string;
  readonly rest: string;
  readonly master: string;
  readonly copy: string;
}

/** What is said of one copy and of several, the most pressing first. */
const WORDS: readonly { verdict: VerdictName; one: string; many: string }[] = [
  {
    verdict: 'crossed',
    one: 'was changed by someone, and the master moved on too',
    many: 'were changed by someone while the master moved on',
  },
  { verdict: 'touched', one: 'was changed on the shelf since it was written', many: 'were changed on the shelf' },
  { verdict: 'unreadable', one: 'can’t be read any more', many: 'can’t be read any more' },
  { verdict: 'gone', one: 'is gone from the shelf', many: 'are gone from the shelf' },
  { verdict: 'behind', one: 'fell behind', many: 'fell behind' },
];

/** The most pressing needs over all masters, at most three: one for each kind of trouble. */
export function needsOf(attention: readonly Attention[]): Need[] {
  return WORDS.flatMap(({ verdict, one, many }): Need[] => {
    const found = attention.find((each) => each.verdict === verdict);
    if (!found) return [];
    const { copies, masters, first } = found;
    const label = first.label.charAt(0).toUpperCase() + first.label.slice(1);
    return [
      {
        verdict,
        lead: copies === 1 ? `${label} ${one}.` : `${copies} copies ${many}.`,
        rest: masters === 1 ? `${first.title}.` : `${counted(masters, 'master')}, ${first.title} first.`,
        master: first.master,
        copy: first.copy,
      },
    ];
  }).slice(0, 3);
}
