const ESCAPE = 27;
/** Letters that are looked at behind an escape: a job's own list of settings may be long. */
const REACH = 16_384;
/** What may follow an escape: how a machine is spoken to (nobody sees it), and what a printer is told, which may be anything. */
const ESCAPES: readonly (readonly [pattern: RegExp, words: string])[] = [
  [/^%-12345X(?:@PJL[^\n]*(?:\n|$))*/, ''],
  [/^\.[@HIMNPQST][\d;]*:/, ''],
  [/^\.[A-Z()]/, ''],
  [/^%-?\d*[AB]/, ''],
  [/^E/, ''],
  [/^[&*(][a-z]?-?\d*[A-Z@]/, 'instruction of a printer'],
];

/** What is said to the machine itself at a place of a text; null where it is no such word. @returns its end, and what to tell of it */
export function escapeAt(text: string, at: number): { readonly end: number; readonly words: string } | null {
  if (text.charCodeAt(at) !== ESCAPE) return null;
  const behind = text.slice(at + 1, at + 1 + (text.charAt(at + 1) === '%' ? REACH : 80));
  for (const [pattern, words] of ESCAPES) {
    const found = pattern.exec(behind);
    if (found) return { end: at + 1 + found[0].length, words };
  }
  return null;
}

/** A text without what a machine or a printer is told before its first instruction. */
export function withoutPrologue(text: string): string {
  let at = 0;
  for (;;) {
    while (text.charCodeAt(at) <= 32 && text.charCodeAt(at) !== ESCAPE) at++;
    const escaped = escapeAt(text, at);
    if (!escaped) return text.slice(at);
    at = escaped.end;
  }
}
