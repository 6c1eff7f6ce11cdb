import { SAID_FIELDS, type Said, type SaidField } from './said';

/** What a master and its sidecar say of one thing, and what both said when they were last the same. */
export interface FieldMeeting {
  readonly field: SaidField;
  readonly base: string;
  readonly inside: string;
  readonly outside: string;
  /** Which side changed it since: both to the same is neither. */
  readonly changed: 'inside' | 'outside' | 'both';
}

/** A thing that is said, in words; keywords in an order that says nothing. */
export const saidWords = (said: Said, field: SaidField): string =>
  field === 'keywords' ? [...said.keywords].sort((a, b) => a.localeCompare(b)).join(', ') : said[field];
const NOTHING: Said = { keywords: [], caption: '', rights: '' };

/**
 * Field by field, what is not the same on both sides.
 * @param base null where they were never the same: then what only one side says is that side's
 */
export function meetingOf(base: Said | null, inside: Said, outside: Said): FieldMeeting[] {
  return SAID_FIELDS.flatMap((field): FieldMeeting[] => {
    const [before, here, there] = [base ?? NOTHING, inside, outside].map((said) => saidWords(said, field)) as [
      string,
      string,
      string,
    ];
    if (here === there) return [];
    const changed = here === before ? 'outside' : there === before ? 'inside' : 'both';
    return [{ field, base: before, inside: here, outside: there, changed }];
  });
}

/** How the two stand as a whole. */
export function standOf(fields: readonly FieldMeeting[]): 'in step' | 'pending' | 'outside' | 'both' {
  if (!fields.length) return 'in step';
  if (fields.every(({ changed }) => changed === 'inside')) return 'pending';
  return fields.every(({ changed }) => changed === 'outside') ? 'outside' : 'both';
}

/**
 * What comes of both sides.
 * @param choices which side counts, by field; without one it is the side that changed, and inside where both did
 */
export function settled(
  fields: readonly FieldMeeting[],
  inside: Said,
  outside: Said,
  choices: Partial<Record<SaidField, 'inside' | 'outside'>>,
): Said {
  const of = (field: SaidField): Said => {
    const meeting = fields.find((one) => one.field === field);
    const side = choices[field] ?? (meeting?.changed === 'outside' ? 'outside' : 'inside');
    return meeting && side === 'outside' ? outside : inside;
  };
  return { keywords: of('keywords').keywords, caption: of('caption').caption, rights: of('rights').rights };
}
