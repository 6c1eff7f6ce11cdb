import { Failure } from '../failure/failure';
import { DEVICE_NAMES } from './naming';

/** Folders within folders that the shelf goes, the master's own included. */
export const DEEPEST = 8;
const LONGEST = 80;
const FORBIDDEN = /[<>:"\\|?*\u0000-\u001f\u007f]/;

/** What keeps a name from being one on every common file system, in words, or null. */
export function nameTrouble(name: string): string | null {
  if (!name) return 'a folder without a name';
  if (name !== name.trim()) return `“${name}” begins or ends with a blank`;
  if (name.startsWith('.') || name.endsWith('.')) return `“${name}” begins or ends with a dot`;
  const letter = FORBIDDEN.exec(name)?.[0];
  if (letter)
    return `“${name}” holds ${letter < ' ' || letter === '\u007f' ? 'a control character' : letter}, which not every system takes`;
  if (DEVICE_NAMES.test(name.split('.')[0]!)) return `“${name}” is a name that some systems keep for a device`;
  if (name.length > LONGEST) return `“${name.slice(0, 24)}…” is longer than ${LONGEST} letters`;
  return null;
}

/**
 * A place on the shelf: folders within folders, the outermost first; none for the shelf itself.
 * @param text as it is written, with slashes between
 * @throws Failure `name-unsafe` that says which part is wrong and why
 */
export function placeOf(text: string): string[] {
  const parts =
    text.trim() === ''
      ? []
      : text
          .trim()
          .replace(/^\/+|\/+$/g, '')
          .split('/')
          .map((part) => part.normalize('NFC'));
  for (const part of parts) {
    const trouble = nameTrouble(part);
    if (trouble) throw new Failure('name-unsafe', `That can’t be a place on the shelf: ${trouble}. Nothing was moved.`);
  }
  if (parts.length >= DEEPEST)
    throw new Failure('name-unsafe', `The shelf goes ${DEEPEST} folders deep, and no deeper. Nothing was moved.`);
  return parts;
}
