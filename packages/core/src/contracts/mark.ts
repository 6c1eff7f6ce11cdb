/** The mark of origin inside a copy: where it came from, readable by anyone. */
export interface Mark {
  readonly master: string;
  readonly rev: number;
  readonly recipe: string;
  /** Digest of what the copy said when it was written. */
  readonly says: string;
  /** Time of the revision, ISO 8601. */
  readonly written: string;
  /** Target, options, scope and writer, so that the copy can be checked with nothing but the master at hand. */
  readonly how: string;
}

const FIELDS = ['master', 'rev', 'recipe', 'says', 'written', 'how'] as const;
const START = 'inkwell-twin;';

const BASE64 = 'b64.';

/** Text as base64url (RFC 4648, 5), without padding. */
const toBase64 = (text: string): string =>
  btoa(String.fromCharCode(...new TextEncoder().encode(text)))
    .replace(/\+/g, '-')
    .replace(/\//g, '_')
    .replace(/=+$/, '');

const fromBase64 = (text: string): string =>
  new TextDecoder('utf-8', { fatal: true }).decode(
    Uint8Array.from(atob(text.replace(/-/g, '+').replace(/_/g, '/')), (char) => char.charCodeAt(0)),
  );

/**
 * The mark as one line of plain characters. How the copy was made is base64url; other values are percent-encoded where they hold
 * anything but plain characters.
 */
export function formatMark(mark: Mark): string {
  const plain = (value: string) => encodeURIComponent(value).replace(/%3A/g, ':').replace(/%2F/g, '/');
  const text = (field: (typeof FIELDS)[number]) =>
    field === 'how' ? `${BASE64}${toBase64(mark.how)}` : plain(String(mark[field]));
  return `${START} ${FIELDS.map((field) => `${field}=${text(field)}`).join('; ')}`;
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
      const value = match[2]!;
      fields.set(match[1]!, value.startsWith(BASE64) ? fromBase64(value.slice(BASE64.length)) : decodeURIComponent(value));
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
