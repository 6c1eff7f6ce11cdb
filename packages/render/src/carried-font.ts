import { type CarriedFont, type OpenFont, type Outline, type Point, glyphOutlines } from '@inkwell-twin/core';
import type { Font, Glyph } from 'fontkit';
import { fontLibrary } from './font-library';
import { PLAIN_LETTERS } from './plain-letters';

/** How large a font may be that a file carries, bytes. */
const LARGEST = 20_000_000;

type Command = { readonly command: string; readonly args: readonly number[] };
const LETTERS: Readonly<Record<string, 'M' | 'L' | 'C' | 'Q' | 'Z'>> = {
  moveTo: 'M',
  lineTo: 'L',
  bezierCurveTo: 'C',
  quadraticCurveTo: 'Q',
  closePath: 'Z',
};

/** A glyph's outlines, ems, put somewhere. */
function outlinesOf(glyph: Glyph, em: number, x: number, y: number): Outline[] {
  const commands = (glyph.path as { commands: Command[] }).commands;
  return glyphOutlines(
    commands.map(({ command, args }) => {
      const at = (i: number): Point => [args[i]! / em + x, args[i + 1]! / em + y];
      const points = Array.from({ length: args.length / 2 }, (_, i) => at(2 * i));
      return { type: LETTERS[command]!, points };
    }),
  );
}

/** Opens a font that a file carries: TrueType, OpenType, WOFF or WOFF2. Null for anything else, or what is broken. */
export const openFont: OpenFont = (bytes) => {
  if (bytes.length > LARGEST) return null;
  let font: Font;
  try {
    font = fontLibrary().create(Buffer.from(bytes)) as Font;
    // One that can't set a letter is none.
    if (!(font.unitsPerEm > 0) || !font.numGlyphs) return null;
    font.layout('a', PLAIN_LETTERS);
  } catch {
    return null;
  }
  const em = font.unitsPerEm;
  const letters = new Map<string, readonly Outline[]>();
  return {
    covers: (text) => [...text].every((one) => !one.trim() || font.hasGlyphForCodePoint(one.codePointAt(0)!)),
    set: (text, spacing) => {
      const { glyphs, positions } = font.layout(text, spacing ? PLAIN_LETTERS : undefined);
      const outlines: Outline[] = [];
      let at = 0;
      glyphs.forEach((glyph, i) => {
        const { xAdvance, xOffset, yOffset } = positions[i]!;
        outlines.push(...outlinesOf(glyph, em, at + xOffset / em, yOffset / em));
        at += xAdvance / em + spacing;
      });
      return { outlines, advance: at };
    },
    letter: (character) => {
      let outlines = letters.get(character);
      if (!outlines) {
        const code = character.codePointAt(0);
        const known = code !== undefined && font.hasGlyphForCodePoint(code);
        letters.set(character, (outlines = known ? outlinesOf(font.glyphForCodePoint(code), em, 0, 0) : []));
      }
      return outlines;
    },
  } satisfies CarriedFont;
};
