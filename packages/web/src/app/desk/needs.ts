import type { Attention, VerdictName } from '@inkwell-twin/api';
import { counted } from '../shared/words';

/** Something that a person should look at today. */
interface Need {
  readonly verdict: VerdictName;
  readonly copies: number;
  /** What is the matter, and where it begins. */
  readonly sentence: string;
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

/** The needs over all masters, one for each kind of trouble, the most pressing first. */
export function needsOf(attention: readonly Attention[]): Need[] {
  return WORDS.flatMap(({ verdict, one, many }): Need[] => {
    const found = attention.find((each) => each.verdict === verdict);
    if (!found) return [];
    const { copies, masters, first } = found;
    const label = first.label.charAt(0).toUpperCase() + first.label.slice(1);
    const lead = copies === 1 ? `${label} ${one}.` : `${copies} copies ${many}.`;
    const where = masters === 1 ? `${first.title}.` : `${counted(masters, 'master')}, ${first.title} first.`;
    return [{ verdict, copies, sentence: `${lead} ${where}`, master: first.master, copy: first.copy }];
  });
}
