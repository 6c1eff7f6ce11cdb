import { decodeText } from '../../base/bytes/text';
import { isBinary, parseBinary } from './binary';
import { encodingOfPage } from './code-pages';
import { unescaped } from './text';
import { type DxfFile, parseRecords } from './records';
import { variable } from './units';

/** A file as records. */
export interface OpenedDxf {
  readonly file: DxfFile;
  /** What could not be read of its letters, in words; empty where all could. */
  readonly told: string;
}

/**
 * Opens a DXF file: text, or the binary form of the same groups. Letters are UTF-8, as from version 2007 on, where that is what they
 * can be; else they are of the code page that the header states (DXF reference, HEADER section).
 * @throws Failure of `decodeText`, `parseRecords` and `parseBinary`
 */
export function openDxf(bytes: Uint8Array): OpenedDxf {
  const { file, settled, again } = isBinary(bytes) ? openBinary(bytes) : openText(bytes);
  if (settled) return { file, told: '' };
  const stated = variable(file, '$DWGCODEPAGE') ?? '';
  const encoding = encodingOfPage(stated);
  if (encoding) return { file: again(encoding), told: '' };
  return { file, told: `letters of the code page ${stated.slice(0, 40) || 'that is not stated'}` };
}

interface Reading {
  readonly file: DxfFile;
  /** Whether its letters are those of ASCII or of UTF-8: then they don't depend on a code page. */
  readonly settled: boolean;
  readonly again: (encoding: string) => DxfFile;
}

function openText(bytes: Uint8Array): Reading {
  const text = decodeText(bytes);
  return {
    file: parseRecords(unescaped(text)),
    settled: decodeText(bytes, 'utf-8') === text,
    again: (encoding) => parseRecords(unescaped(decodeText(bytes, encoding))),
  };
}

function openBinary(bytes: Uint8Array): Reading {
  const { file, unicode } = parseBinary(bytes, 'latin1');
  return { file, settled: unicode, again: (encoding) => parseBinary(bytes, encoding).file };
}
