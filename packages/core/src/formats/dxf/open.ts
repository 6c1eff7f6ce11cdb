import { decodeText } from '../../base/bytes/text';
import { binaryAsText, isBinary } from './binary';
import { type DxfFile, parseRecords } from './records';
import { variable } from './units';

/** Encodings by the number of an ANSI code page (WHATWG Encoding, 4.2, which every runtime has). */
const ENCODINGS: Readonly<Record<string, string>> = {
  '874': 'windows-874',
  '932': 'shift_jis',
  '936': 'gbk',
  '949': 'euc-kr',
  '950': 'big5',
  ...Object.fromEntries([1250, 1251, 1252, 1253, 1254, 1255, 1256, 1257, 1258].map((page) => [String(page), `windows-${page}`])),
};

/** A file as text and as records. */
export interface OpenedDxf {
  readonly text: string;
  readonly file: DxfFile;
  /** What could not be read of its letters, in words; empty where all could. */
  readonly told: string;
}

/**
 * Opens a DXF file: text, or the binary form of the same groups. Letters are UTF-8, as from version 2007 on, where that is what they
 * can be; else they are of the code page that the header states (DXF reference, HEADER section).
 * @throws Failure of `decodeText` and `parseRecords`
 */
export function openDxf(bytes: Uint8Array): OpenedDxf {
  const written = isBinary(bytes) ? binaryAsText(bytes) : bytes;
  const text = decodeText(written);
  const file = parseRecords(text);
  const stated = variable(file, '$DWGCODEPAGE') ?? '';
  const encoding = ENCODINGS[/^ansi_(\d+)$/i.exec(stated)?.[1] ?? ''];
  // Where all letters are those of ASCII or of UTF-8, nothing comes out otherwise.
  const decoded = decodeText(written, encoding ?? 'utf-8');
  if (decoded === text) return { text, file, told: '' };
  if (encoding) return { text: decoded, file: parseRecords(decoded), told: '' };
  return { text, file, told: `letters of the code page ${stated.slice(0, 40) || 'that is not stated'}` };
}
