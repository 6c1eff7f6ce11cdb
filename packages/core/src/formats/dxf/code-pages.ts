import { decodeAs, encodeText, isUtf8 } from '../../base/bytes/text';

/** Encodings by the number of an ANSI code page (WHATWG Encoding, 4.2, which every runtime has). */
const SINGLE = [1252, 1250, 1251, 1253, 1254, 1257, 1255, 1256, 1258];
const ENCODINGS: Readonly<Record<string, string>> = {
  '874': 'windows-874',
  '932': 'shift_jis',
  '936': 'gbk',
  '949': 'euc-kr',
  '950': 'big5',
  ...Object.fromEntries(SINGLE.map((page) => [String(page), `windows-${page}`])),
};

/** The encoding of a code page as a header states it; undefined where nobody here knows it. */
export const encodingOfPage = (stated: string): string | undefined => ENCODINGS[/^ansi_(\d+)$/i.exec(stated)?.[1] ?? ''];

/** The bytes of letters in a code page of single bytes. */
function lettersOf(page: number): ReadonlyMap<string, number> {
  const upper = decodeAs(
    Uint8Array.from({ length: 128 }, (_, i) => 128 + i),
    `windows-${page}`,
  );
  return new Map([...upper].map((letter, i) => [letter, 128 + i]));
}

/** A letter that a code page has no byte for, as every reader takes it (DXF reference, group code value types). */
export const escaped = (unit: string): string => `\\U+${unit.charCodeAt(0).toString(16).toUpperCase().padStart(4, '0')}`;

/** The variable that a header begins with. */
const VERSION = /9\n\$ACADVER\n1\n\w+\n/; // term-guard: standard (DXF reference, HEADER section)

/**
 * A file of a version up to 2004: in the code page that holds all of its letters, which its header then states, or else as many
 * of them as the usual one holds. What is ASCII states none.
 */
export function inCodePage(bytes: Uint8Array): Uint8Array {
  if (bytes.every((byte) => byte < 128)) return bytes;
  const text = new TextDecoder().decode(bytes);
  const letters = new Set(text.match(/[\u0080-\uffff]/g));
  const pages = SINGLE.map((page) => ({ page, known: lettersOf(page) }));
  const { page, known } = pages.find((one) => [...letters].every((letter) => one.known.has(letter))) ?? pages[0]!;
  const named = text.replace(VERSION, `$&9\n$DWGCODEPAGE\n3\nANSI_${page}\n`);
  const ascii = named.replace(/[\u0080-\uffff]/g, (unit) => (known.has(unit) ? unit : escaped(unit)));
  const written = Uint8Array.from(ascii, (letter) => known.get(letter) ?? letter.charCodeAt(0));
  // Bytes that read as UTF-8 would come back as other letters.
  return isUtf8([written]) ? encodeText(named.replace(/[\u0080-\uffff]/g, escaped)) : written;
}
