import { existsSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { FACES, FontBook, type Shape } from '@inkwell-twin/core';
import type { Font } from 'fontkit';
import { openFont } from './carried-font';
import { fontLibrary } from './font-library';
import { PLAIN_LETTERS } from './plain-letters';
import { unpackedFont } from './unpacked-font';

/** Parts of the alphabet, latin first: the book asks them in this order. */
const PARTS = ['latin', 'latin-ext', 'greek', 'cyrillic'];

const opened = new Map<() => ArrayBuffer, Font>();
const shape: Shape = (file, text, joined) => {
  let font = opened.get(file);
  if (!font) opened.set(file, (font = fontLibrary().create(Buffer.from(file())) as Font));
  const { glyphs, positions, advanceWidth } = font.layout(text, joined ? undefined : PLAIN_LETTERS);
  const em = font.unitsPerEm;
  let at = 0;
  const placed = glyphs.map(({ id }, i) => {
    const { xAdvance, xOffset, yOffset } = positions[i]!;
    const x = at + xOffset;
    at += xAdvance;
    return { glyph: id, x: x / em, y: yOffset / em };
  });
  return { advance: advanceWidth / em, glyphs: placed };
};

let book: FontBook | undefined;

/** The shipped fonts, each read from the installed packages when it is first asked for. */
export function shippedFonts(): FontBook {
  if (book) return book;
  const require = createRequire(import.meta.url);
  book = new FontBook(shape, openFont);
  for (const { name, home, bold, italic } of FACES) {
    const folder = join(dirname(require.resolve(`@fontsource/${home}/package.json`)), 'files');
    for (const part of PARTS) {
      const file = join(folder, `${home}-${part}-${bold ? 700 : 400}-${italic ? 'italic' : 'normal'}.woff`);
      if (!existsSync(file)) continue;
      let plain: ArrayBuffer | undefined;
      book.add(name, () => (plain ??= Uint8Array.from(unpackedFont(readFileSync(file))).buffer));
    }
  }
  return book;
}
