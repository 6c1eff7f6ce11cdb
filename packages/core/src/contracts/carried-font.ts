import type { Outline } from '../base/geometry/outline';

/** A font that a file brings with it. */
export interface CarriedFont {
  /** Whether it has a letter for everything in a text. */
  readonly covers: (text: string) => boolean;
  /**
   * A text as outlines from its start on, kerned, at a size of 1, y upwards.
   * @param spacing after each letter, ems
   */
  readonly set: (text: string, spacing: number) => { readonly outlines: readonly Outline[]; readonly advance: number };
  /** One letter by the character that stands for it in the font, as `set` gives it. */
  readonly letter: (character: string) => readonly Outline[];
}

/** Letters of carried fonts that become outlines at most: a text of more is there to be read, and stays text. */
export const MOST_LETTERS = 8000;

/** There are more letters than become outlines: what is told is told again, as text. */
export class TooManyLetters extends Error {}

/** Counts letters that become outlines. @throws TooManyLetters */
export class LetterCount {
  private letters = 0;
  /** Texts that became outlines. */
  texts = 0;

  text(letters: number): void {
    this.texts++;
    this.letters += letters;
    if (this.letters > MOST_LETTERS) throw new TooManyLetters();
  }
}
/** What is said of a file that has more of them. */
export const TOO_MANY_LETTERS = `more than ${MOST_LETTERS.toLocaleString('en')} letters in fonts that the file carries, taken as text`;

/** Opens the bytes of a font; null where they are none. */
export type OpenFont = (bytes: Uint8Array) => CarriedFont | null;
