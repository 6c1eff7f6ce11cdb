/** Kinds of links that lead somewhere, and run nothing on the way. */
const SCHEMES: ReadonlySet<string> = new Set(['http', 'https', 'mailto', 'tel', 'sms', 'ftp', 'ftps', 'geo', 'urn']);

/** A link as programs take it: tabs, ends of lines and blanks about it say nothing (URL Standard, 4.4). */
const plainLink = (link: string): string => link.replace(/[\t\n\r]/g, '').replace(/^[\u0000-\u0020]+|[\u0000-\u0020]+$/g, '');

/** Where a link leads in a copy: within it, beside it, or by a scheme that only leads somewhere; empty where it would run something. */
export function liveLink(link: string): string {
  const plain = plainLink(link);
  const scheme = /^([a-z][a-z0-9+.-]*):/i.exec(plain)?.[1];
  return scheme === undefined || SCHEMES.has(scheme.toLowerCase()) ? plain : '';
}
