import type * as z from 'zod';

/** What was typed as a value, or what is wrong with it, in words. */
export type Checked<T> = { readonly value: T } | { readonly wrong: string };

/** A number that is typed: how it is called, and in what unit it stands in its field. */
interface NumberField {
  readonly label: string;
  readonly unit?: string;
  /** How many of the schema's own units one of the field's is: 25.4 for inches of a length in mm. */
  readonly factor?: number;
  /** Whether nothing is a value, too: it is read as null. */
  readonly optional?: boolean;
}

const inWords = (value: number): string => Number(value.toPrecision(6)).toLocaleString('en', { maximumFractionDigits: 6 });

/** What of a schema's complaint is said, in the unit of the field. */
function complaint(issue: z.core.$ZodIssue, { label, unit = '', factor = 1 }: NumberField): string {
  const amount = (limit: number | bigint): string => `${inWords(Number(limit) / factor)} ${unit}`.trim();
  switch (issue.code) {
    case 'too_small':
      return `${label}: ${issue.inclusive === false ? 'more than' : 'at least'} ${amount(issue.minimum)}`;
    case 'too_big':
      return `${label}: ${issue.inclusive === false ? 'less than' : 'at most'} ${amount(issue.maximum)}`;
    case 'invalid_type':
      return `${label}: a whole number`;
    default:
      return `${label}: ${issue.message}`;
  }
}

/**
 * Reads a number as it is typed, with a decimal point or comma, and holds it against the schema that the server checks it by.
 * @param text as it stands in the field
 * @param schema of the value in its own unit
 * @returns the value in the schema's unit; null where nothing stands there and that is a value, too
 */
export function checkNumber(text: string, schema: z.ZodType<number | null>, field: NumberField): Checked<number | null> {
  const plain = text
    .trim()
    .replace(/^([+-]?\d*),(\d+)$/, '$1.$2')
    .replace('−', '-');
  if (!plain) return field.optional ? { value: null } : { wrong: `${field.label}: type a number` };
  const typed = Number(plain);
  if (!Number.isFinite(typed)) return { wrong: `${field.label}: “${text.trim()}” is not a number` };
  const value = typed * (field.factor ?? 1);
  const found = schema.safeParse(value);
  return found.success ? { value } : { wrong: complaint(found.error.issues[0]!, field) };
}

/**
 * Reads a list of numbers, parted by blanks, semicolons, or commas with a blank after them.
 * @param schema of the list
 * @param example what such a list looks like
 */
export function checkNumbers(
  text: string,
  schema: z.ZodType<readonly number[]>,
  label: string,
  example: string,
): Checked<readonly number[]> {
  const parts = text.split(/,?\s+|;/).filter(Boolean);
  const values = parts.map((part) => Number(part.replace(',', '.').replace(/(?<=\d)mm$/, '')));
  const odd = parts.find((_, at) => !Number.isFinite(values[at]));
  if (odd !== undefined) return { wrong: `${label}: “${odd}” is not a number. A list looks like ${example}` };
  const found = schema.safeParse(values);
  if (found.success) return { value: values };
  const issue = found.error.issues[0]!;
  const at = issue.path[0];
  return {
    wrong: typeof at === 'number' ? `${complaint(issue, { label, unit: 'mm' })}, not ${parts[at]}` : complaint(issue, { label }),
  };
}
