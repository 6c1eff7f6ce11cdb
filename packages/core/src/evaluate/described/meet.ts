import { correctionsInWords, correctionsKey } from './corrections';
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
const saidWords = (said: Said, field: SaidField): string => {
  if (field === 'corrections') return correctionsInWords(said.corrections ?? []);
  return field === 'keywords' ? [...said.keywords].sort((a, b) => a.localeCompare(b)).join(', ') : said[field];
};
/** A thing that is said, equal where it is the same. */
const saidKey = (said: Said, field: SaidField): string =>
  field === 'corrections' ? correctionsKey(said.corrections ?? []) : saidWords(said, field);
const NOTHING: Said = { keywords: [], caption: '', rights: '' };

/**
 * Field by field, what is not the same on both sides.
 * @param base null where they were never the same: then what only one side says is that side's
 */
export function meetingOf(base: Said | null, inside: Said, outside: Said): FieldMeeting[] {
  const sides = [base ?? NOTHING, inside, outside] as const;
  return SAID_FIELDS.flatMap((field): FieldMeeting[] => {
    // Of what has no single answer here, what stands outside is neither other nor the same.
    if (field === 'corrections' && !inside.corrections) return [];
    const [before, here, there] = sides.map((said) => saidKey(said, field));
    if (here === there) return [];
    const changed = here === before ? 'outside' : there === before ? 'inside' : 'both';
    const words = (side: 0 | 1 | 2): string => saidWords(sides[side], field);
    return [{ field, base: words(0), inside: words(1), outside: words(2), changed }];
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
  const { corrections } = of('corrections');
  return {
    keywords: of('keywords').keywords,
    caption: of('caption').caption,
    rights: of('rights').rights,
    // A file without any says that there are none.
    ...(inside.corrections ? { corrections: corrections ?? [] } : {}),
  };
}
