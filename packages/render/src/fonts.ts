import { existsSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { FACES, FontBook } from '@inkwell-twin/core';

/** Parts of the alphabet, latin first: the book asks them in this order. */
const PARTS = ['latin', 'latin-ext', 'greek', 'cyrillic'];

let book: FontBook | undefined;

/** The shipped fonts, each read from the installed packages when it is first asked for. */
export function shippedFonts(): FontBook {
  if (book) return book;
  const require = createRequire(import.meta.url);
  book = new FontBook();
  for (const { name, home, bold, italic } of FACES) {
    const folder = join(dirname(require.resolve(`@fontsource/${home}/package.json`)), 'files');
    for (const part of PARTS) {
      const file = join(folder, `${home}-${part}-${bold ? 700 : 400}-${italic ? 'italic' : 'normal'}.woff`);
      if (!existsSync(file)) continue;
      book.add(name, () => {
        const bytes = readFileSync(file);
        return bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
      });
    }
  }
  return book;
}
