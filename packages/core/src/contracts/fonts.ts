import type { Outline } from '../base/geometry/outline';
import type { Words } from './drawing';
import type { FontName } from '../document/schema';
import type { OpenFont } from './carried-font';

/** A line of text as outlines. */
export interface OutlinedText {
  readonly outlines: readonly Outline[];
  /** Characters for which the font has no shape. */
  readonly missing: readonly string[];
}

/** A letter as it is inked: its outlines from where it stands, and where that is from the start of the line; ems. */
export interface InkedLetter {
  readonly outlines: readonly Outline[];
  readonly x: number;
  readonly y: number;
}

/** Fonts by name: how far texts run in them, and what they ink. */
export interface Fonts {
  /** Opens fonts that files bring with them. */
  readonly carried: OpenFont;
  /** Characters of a line for which a font has no shape. */
  missing(name: FontName, text: string): string[];
  /** A line as pieces that one file each has the letters of: files by number, and their bytes. */
  pieces(name: FontName, text: string): { file: number; bytes: () => ArrayBuffer; text: string }[];
  /**
   * How far a line of live text runs where a program sets it with all of its font's kerning, mm.
   * @param spacing after each letter, mm
   */
  advance(name: FontName, text: string, size: number, spacing?: number): number;
  /** A line of text as outlines on the board. */
  outline(text: Words): OutlinedText;
  /**
   * What the letters of a line ink, one by one and kerned, where each stretch that one file has the letters of is set by itself.
   * @returns null where a letter has no shape
   */
  inked(name: FontName, text: string): InkedLetter[] | null;
}
