import type { Outline } from '../geometry/outline';

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

/** Opens the bytes of a font; null where they are none. */
export type OpenFont = (bytes: Uint8Array) => CarriedFont | null;
