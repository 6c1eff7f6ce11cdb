import { parseMark } from '../../contracts/mark';
import type { Pair } from './pairs';
import type { DxfFile } from './records';

/** R12 symbol names: capitals, digits, $ - and _, at most 31 of them. */
const plain = (name: string): string =>
  name
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .toUpperCase()
    .replace(/[^A-Z0-9$_-]+/g, '_');
const allowed = (name: string): string => name.replace(/[<>/\\":;?*|=`,]/g, '_');

/** A layer's name as a version of the format allows it. */
export const layerName = (name: string, r12: boolean): string =>
  r12 ? plain(name).slice(0, 31) || '0' : allowed(name).slice(0, 255);

/** A board's name as it stands in the name of its block, after the number of the sheet. */
export const blockName = (name: string, r12: boolean): string =>
  r12 ? plain(name).slice(0, 20) : allowed(name).trim().slice(0, 200);

/** The block that a sheet stands in. */
export const sheetBlock = (number: number, label: string): string => `SHEET_${number}_${label}`;

/** The name of the sheet that a block is; undefined for any other block. */
export const labelOfBlock = (block: string): string | undefined => /^SHEET_\d+_(.*)$/s.exec(block)?.[1];

/** The longest line that a comment may have; readers of R12 take 255 characters. */
const LINE = 240;
const GOES_ON = 'inkwell-twin+';

/** A mark of origin as comment lines, none too long. */
export function markLines(mark: string): string[] {
  const lines: string[] = [];
  for (let at = 0; at < mark.length; at += LINE) lines.push(`${at ? GOES_ON : ''}${mark.slice(at, at + LINE)}`);
  return lines;
}

/** Under which name the mark stands in the data of a layer. */
export const APPLICATION = 'INKWELL_TWIN';

/** A mark as data of a record: other programs drop comments when they save a file anew, and keep those. */
export const markData = (mark: string): Pair[] => [[1001, APPLICATION], ...markLines(mark).map((line): Pair => [1000, line])];

/** The mark of a file: in its comments, or else in the data of a layer. */
export function markOf({ comments, sections }: DxfFile): string | null {
  const said = joinedMark(comments);
  if (parseMark(said)) return said;
  for (const record of sections.get('TABLES') ?? []) {
    if (record.type !== 'LAYER') continue;
    const lines: string[] = [];
    let own = false;
    record.each((code, _number, text) => {
      if (code === 1001) own = text().trim() === APPLICATION;
      else if (own && code === 1000) lines.push(text());
    });
    const found = joinedMark(lines);
    if (parseMark(found)) return found;
  }
  return said;
}

/** The mark that begins in one of several lines and goes on in the next. */
function joinedMark(lines: readonly string[]): string | null {
  const first = lines.findIndex((line) => line.includes('inkwell-twin;'));
  if (first < 0) return null;
  let mark = lines[first]!;
  for (let i = first + 1; lines[i]?.startsWith(GOES_ON); i++) mark += lines[i]!.slice(GOES_ON.length);
  return mark;
}
