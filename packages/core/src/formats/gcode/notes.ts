/** The longest line of a program that all controls take, in characters, and what a note of ours begins with. */
const [LONGEST, SIGN] = [110, '~'];

/** A mark of origin as notes, none longer than a control takes; the digest in it stays in one piece. */
export function markNotes(mark: string): string[] {
  const notes: string[] = [];
  let line = '';
  for (const field of mark.split(/(?<=; )/)) {
    if (line.length + field.length > LONGEST && line) {
      notes.push(line);
      line = '';
    }
    let rest = field;
    for (; rest.length > LONGEST; rest = rest.slice(LONGEST)) notes.push(rest.slice(0, LONGEST));
    line += rest;
  }
  if (line) notes.push(line);
  return notes.map((one) => `(${SIGN}${one})`);
}

/** The mark that notes of a program hold, in the order in which they stand; null where none does. */
export function markOfNotes(notes: readonly string[]): string | null {
  const mark = notes
    .filter((note) => note.startsWith(SIGN))
    .map((note) => note.slice(SIGN.length))
    .join('');
  return mark.includes('inkwell-twin;') ? mark : null;
}

/** Words as a note: plain letters, without the brackets that end it. */
export const plainNote = (words: string): string =>
  `(${words
    .normalize('NFKD')
    .replace(/[()]/g, ' ')
    .replace(/[^\x20-\x7e]/g, '')
    .replace(/\s+/g, ' ')
    .trim()
    .slice(0, LONGEST)})`;
