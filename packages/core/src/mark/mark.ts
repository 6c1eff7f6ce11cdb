/** The mark of origin inside a copy: where it came from, readable by anyone. */
export interface Mark {
  readonly master: string;
  readonly rev: number;
  readonly recipe: string;
  /** Digest of what the copy said when it was written. */
  readonly says: string;
  /** Time of the revision, ISO 8601. */
  readonly written: string;
  /** Target, board and options, so that the copy can be checked with nothing but the master at hand. */
  readonly how: string;
}

const FIELDS = ['master', 'rev', 'recipe', 'says', 'written', 'how'] as const;
const START = 'inkwell-twin;';

/** The mark as one line. Values are percent-encoded where they hold anything but plain characters. */
export function formatMark(mark: Mark): string {
  return `${START} ${FIELDS.map((field) => `${field}=${encodeURIComponent(String(mark[field])).replace(/%3A/g, ':').replace(/%2F/g, '/')}`).join('; ')}`;
}

/** Reads a mark out of any text that holds one; null where there is none or it is damaged. */
export function parseMark(text: string | null): Mark | null {
  const at = text?.indexOf(START) ?? -1;
  if (!text || at < 0) return null;
  const fields = new Map<string, string>();
  for (const part of text.slice(at + START.length).split(';')) {
    const match = /^\s*([a-z]+)=(\S*?)\s*$/.exec(part);
    if (!match) break;
    try {
      fields.set(match[1]!, decodeURIComponent(match[2]!));
    } catch {
      return null;
    }
  }
  const rev = Number(fields.get('rev'));
  if (!Number.isInteger(rev) || rev < 0 || FIELDS.some((field) => !fields.has(field))) return null;
  const get = (field: string) => fields.get(field)!;
  return {
    master: get('master'),
    rev,
    recipe: get('recipe'),
    says: get('says'),
    written: get('written'),
    how: get('how'),
  };
}
