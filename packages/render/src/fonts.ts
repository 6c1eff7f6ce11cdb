import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { FontBook, type FontName } from '@inkwell-twin/core';

/** The files of each shipped font, latin first: the book asks them in this order. */
const FILES: Record<FontName, readonly string[]> = {
  Commissioner: ['latin', 'latin-ext', 'greek', 'cyrillic'].map(
    (part) => `commissioner/files/commissioner-${part}-400-normal.woff`,
  ),
  'Commissioner Bold': ['latin', 'latin-ext', 'greek', 'cyrillic'].map(
    (part) => `commissioner/files/commissioner-${part}-700-normal.woff`,
  ),
  'Spline Sans Mono': ['latin', 'latin-ext'].map((part) => `spline-sans-mono/files/spline-sans-mono-${part}-400-normal.woff`),
};

let book: FontBook | undefined;

/** The shipped fonts, read once from the installed packages. */
export function shippedFonts(): FontBook {
  if (book) return book;
  const require = createRequire(import.meta.url);
  const loaded = new FontBook();
  for (const [name, files] of Object.entries(FILES) as [FontName, readonly string[]][])
    for (const file of files) {
      const [owner, ...rest] = file.split('/');
      const home = dirname(require.resolve(`@fontsource/${owner}/package.json`));
      const bytes = readFileSync(join(home, ...rest));
      loaded.add(name, bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer);
    }
  return (book = loaded);
}
