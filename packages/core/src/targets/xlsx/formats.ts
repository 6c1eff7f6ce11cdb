import type { Tally } from '../../bytes/tally';
import { type Attributes, attributeOf, walkXml } from '../../bytes/walk-xml';

/** What a format of cells says of a number: a date, so many digits, or something that shows other than the number. */
export interface Format {
  readonly date: boolean;
  readonly decimals: number | null;
  /** Its code where it shows something else than the number, as with percent. */
  readonly odd: string | null;
  /** How its letters take away what they say; null where they do not. */
  readonly veiled?: string | null;
}
const GENERAL: Format = { date: false, decimals: null, odd: null };

/** Formats that need no code in a file (ECMA-376-1, 18.8.30). */
const BUILT_IN: Readonly<Record<number, string>> = {
  1: '0',
  2: '0.00',
  3: '#,##0',
  4: '#,##0.00',
  9: '0%',
  10: '0.00%',
  11: '0.00E+00',
  12: '# ?/?',
  13: '# ??/??',
  14: 'mm-dd-yy',
  15: 'd-mmm-yy',
  16: 'd-mmm',
  17: 'mmm-yy',
  18: 'h:mm AM/PM',
  19: 'h:mm:ss AM/PM',
  20: 'h:mm',
  21: 'h:mm:ss',
  22: 'm/d/yy h:mm',
  37: '#,##0 ;(#,##0)',
  38: '#,##0 ;[Red](#,##0)',
  39: '#,##0.00;(#,##0.00)',
  40: '#,##0.00;[Red](#,##0.00)',
  45: 'mm:ss',
  46: '[h]:mm:ss',
  47: 'mmss.0',
  48: '##0.0E+0',
  49: '@',
};

export function formatOf(code: string): Format {
  if (!code || /^general$/i.test(code) || code === '@') return GENERAL;
  // Words in quotes, escaped letters, colours and conditions are not of the pattern.
  const plain = code.replace(
    /"[^"]*"|\\.|_.|\*.|\[(?:red|blue|green|black|white|cyan|magenta|yellow|color\d+|\$[^\]]*|[<>=][^\]]*)\]/gi,
    '',
  );
  if (/[ymdhs]/i.test(plain) && !/[#?]/.test(plain)) return { date: true, decimals: null, odd: null };
  const [first = '', ...others] = plain.split(';');
  // A number below nothing, or nothing, that would not be shown as what it is.
  const [below, nothing] = others;
  const hides = below !== undefined && (!/[-(]/.test(below) || !/[0#?]/.test(below) || nothing?.trim() === '');
  const simple = /^-?[#,]*0*(?:\.(0+))?\s*$/.exec(first.trim());
  if (simple && !hides && !/^\s*$/.test(first) && !/,$/.test(first.trim()))
    return {
      date: false,
      decimals: simple[1]?.length ?? 0,
      odd: [...code.matchAll(/"([^"]*)"/g)].some(([, words]) => words!.trim()) ? code : null,
    };
  return { date: false, decimals: null, odd: code };
}

/** The formats of a workbook's cells, by their numbers. */
export function readStyles(bytes: Uint8Array | undefined, part: string): Format[] {
  if (!bytes) return [];
  const codes = new Map<number, string>();
  const cells: Format[] = [];
  const fonts: { struck: boolean; white: boolean; tiny: boolean }[] = [];
  /** Whether what lies behind letters is white, by number. */
  const grounds: boolean[] = [];
  let inCells = false;
  let within = '';
  const has = (attributes: Attributes, key: string) => attributeOf(attributes, key);
  const isWhite = (attributes: Attributes) =>
    /^(ff)?ffffff$/i.test(has(attributes, 'rgb') ?? '') || (has(attributes, 'theme') === '0' && !has(attributes, 'tint'));
  walkXml(bytes, part, {
    open: (name, attributes) => {
      if (name === 'fonts' || name === 'fills' || name === 'dxfs' || name === 'borders') within = name;
      if (within === 'fonts') {
        if (name === 'font') fonts.push({ struck: false, white: false, tiny: false });
        const font = fonts.at(-1);
        if (font && name === 'strike') font.struck = !/^(0|false)$/.test(has(attributes, 'val') ?? '1');
        if (font && name === 'color') font.white = isWhite(attributes);
        if (font && name === 'sz') font.tiny = Number(has(attributes, 'val')) < 3;
      }
      if (within === 'fills') {
        if (name === 'fill') grounds.push(true);
        if (name === 'patternFill' && has(attributes, 'patternType') === 'solid') grounds[grounds.length - 1] = false;
        if (name === 'gradientFill') grounds[grounds.length - 1] = false;
        if (name === 'fgColor' && isWhite(attributes)) grounds[grounds.length - 1] = true;
      }
      if (name === 'numFmt') codes.set(Number(attributeOf(attributes, 'numFmtId')), attributeOf(attributes, 'formatCode') ?? '');
      else if (name === 'cellXfs') inCells = true;
      else if (name === 'xf' && inCells) {
        const id = Number(attributeOf(attributes, 'numFmtId') ?? 0);
        const font = fonts[Number(has(attributes, 'fontId') ?? 0)];
        const ground = grounds[Number(has(attributes, 'fillId') ?? 0)] ?? true;
        const veiled = font?.struck
          ? 'struck out'
          : font?.tiny
            ? 'too small to be read'
            : font?.white && ground
              ? 'white on white'
              : null;
        const format = formatOf(codes.get(id) ?? BUILT_IN[id] ?? '');
        cells.push(veiled ? { ...format, veiled } : format);
      }
    },
    close: (name) => {
      if (name === 'cellXfs') inCells = false;
    },
  });
  return cells;
}

/** Counts what shows a number as something else. */
export const tellOdd = ({ odd, veiled }: Format, tally: Tally): void => {
  if (veiled) tally.add(`column with cells ${veiled}`);
  if (odd) tally.add(`number format “${odd.slice(0, 40)}”`);
};
