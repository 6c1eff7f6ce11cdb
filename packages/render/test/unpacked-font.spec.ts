import { readFileSync, readdirSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { judgedBy } from '../../core/test/judged-by';
import { python } from '../../core/test/python';
import { unpackedFont } from '../src/unpacked-font';

const folders = ['work-sans', 'source-serif-4']
  .map((home) => createRequire(import.meta.url).resolve(`@fontsource/${home}/package.json`))
  .map((path) => join(dirname(path), 'files'));
const files = folders.flatMap((folder) =>
  readdirSync(folder)
    .filter((name) => name.endsWith('-latin-400-normal.woff') || name.endsWith('-cyrillic-700-italic.woff'))
    .map((name) => join(folder, name)),
);

/** What a library that shares nothing with ours finds in a font: the kind, then each table with the digest of its bytes. */
const TABLES = `
import hashlib
from fontTools.ttLib import TTFont
font = TTFont('a.font', checkChecksums=2)
print(font.sfntVersion.encode().hex(), font.flavor)
for tag in sorted(font.reader.keys()):
    print(tag, hashlib.sha256(font.reader[tag]).hexdigest())
`;

describe('a font that is unpacked', () => {
  judgedBy('fontTools').it.each(files)('has the tables that it had: %s', (file) => {
    const packed = readFileSync(file);
    const [before, after] = [packed, unpackedFont(packed)].map((bytes) => python(TABLES, bytes, 'a.font').out.trim());
    expect(before).toMatch(/ woff\n/);
    expect(after).toBe(before!.replace(' woff\n', ' None\n'));
  });

  it('is left as it is where it was not packed', () => {
    const plain = unpackedFont(readFileSync(files[0]!));
    expect(unpackedFont(plain)).toBe(plain);
    const short = new Uint8Array(3);
    expect(unpackedFont(short)).toBe(short);
  });
});
