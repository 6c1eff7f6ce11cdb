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

/** The mark in a file's comments, its lines joined. */
export function markOf(comments: readonly string[]): string | null {
  const first = comments.findIndex((line) => line.includes('inkwell-twin;'));
  if (first < 0) return null;
  let mark = comments[first]!;
  for (let i = first + 1; comments[i]?.startsWith(GOES_ON); i++) mark += comments[i]!.slice(GOES_ON.length);
  return mark;
}
