import { type Whole, listed } from '../read/whole';
import type { Clause, Held, KeptFile } from './clause';
import { Unpacking } from '../read/unpacked';
import { drawingStreams } from './contents';
import { FONTS } from './fonts';
import { GRAPHICS } from './graphics';
import { METADATA } from './metadata';
import { STRUCTURE } from './structure';

/** The clauses of ISO 19005-2 and -3, level B, that are checked, in their order. */
export const CLAUSES: readonly Clause[] = [...STRUCTURE, ...GRAPHICS, ...FONTS, ...METADATA].sort((a, b) =>
  a.number.localeCompare(b.number, 'en', { numeric: true }),
);

/** Where a file breaks a clause. */
interface BrokenClause {
  readonly clause: string;
  readonly words: string;
}

/** All that draws, and profiles: more is in no file that anybody made, and is told of. */
const MOST_UNPACKED = 256 * 1024 * 1024;

/** Dictionaries within dictionaries that are looked into; deeper there is nothing that a clause asks of. */
const DEEPEST = 12;

/** All dictionaries of a file, each with the number of the object that it lies in. */
function allIn({ lib, context }: Whole): Held[] {
  const found: Held[] = [];
  const visit = (value: unknown, where: string, depth: number): void => {
    if (depth > DEEPEST) return;
    if (value instanceof lib.PDFStream) {
      found.push({ where, dict: value.dict, stream: value instanceof lib.PDFRawStream ? value : null });
      for (const [, inner] of value.dict.entries()) visit(inner, where, depth + 1);
    } else if (value instanceof lib.PDFDict) {
      found.push({ where, dict: value, stream: null });
      for (const [, inner] of value.entries()) visit(inner, where, depth + 1);
    } else if (value instanceof lib.PDFArray) for (const inner of value.asArray()) visit(inner, where, depth + 1);
  };
  for (const [{ objectNumber }, value] of context.enumerateIndirectObjects()) visit(value, `object ${objectNumber}`, 0);
  return found;
}

/**
 * Checks a PDF that is made for keeping, clause by clause (ISO 19005-2:2011 and ISO 19005-3:2012, level B). Widths of letters
 * (6.2.11.5) and what is inside of pictures by JPEG 2000 (6.2.8.3) are not checked.
 * @param part the part that it claims
 * @param most findings of one clause; more say nothing new
 */
export async function brokenClauses(bytes: Uint8Array, part: 2 | 3, most = 5): Promise<BrokenClause[]> {
  const whole = await listed(bytes);
  if (!whole) return [{ clause: '6.1', words: 'The parts of the file can’t be listed' }];
  const held = { ...whole, bytes, part, all: allIn(whole), unpacking: new Unpacking(whole.lib, MOST_UNPACKED) };
  const file: KeptFile = { ...held, drawings: drawingStreams(held) };
  return CLAUSES.flatMap(({ number, broken }) => {
    const found: BrokenClause[] = [];
    for (const words of broken(file)) {
      if (found.length === most) break;
      found.push({ clause: number, words });
    }
    return found;
  });
}
