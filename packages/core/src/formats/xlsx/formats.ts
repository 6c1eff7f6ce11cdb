import type { Tally } from '../../contracts/tally';
import { type Attributes, attributeOf, walkXml } from '../../base/bytes/walk-xml';
import { isTold } from '../../evaluate/pictures/told';

/** What a format of cells says of a number: a date, so many digits, or something that shows other than the number. */
export interface Format {
  readonly date: boolean;
  /** A time of day without a day, or a stretch of time in hours. */
  readonly time?: 'of day' | 'long' | undefined;
  readonly decimals: number | null;
  /** Its code where it shows something else than the number, as with percent. */
  readonly odd: string | null;
  /** Whether a date is shown with its time of day. */
  readonly clock?: boolean;
  /** Its code where words show as something else. */
  readonly oddWords?: string | null;
  /** How its letters take away what they say; null where they do not. */
  readonly veiled?: string | null;
}
/** Colours and conditions, and what a code leaves room for: none of it is what a number becomes. */
const ASIDE = /_.|\*.|\[(?:red|blue|green|black|white|cyan|magenta|yellow|color\d+|\$[^\]]*|[<>=][^\]]*)\]/gi;

/** A code whose words show as others, or not at all: the fourth part is theirs, or any part with their sign (ECMA-376-1, 18.8.31). */
function showsWordsOtherwise(code: string): boolean {
  // What stands in quotes, or is meant as it stands, is one sign here, which neither parts nor means anything.
  const parts = code
    .replace(/"[^"]*"|\\./g, '\u0001')
    .replace(ASIDE, '')
    .split(';');
  const theirs = parts[3] ?? parts.find((part) => part.includes('@'));
  return theirs !== undefined && theirs.replace(/^general$/i, '@').trim() !== '@';
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

/** What a code makes of numbers and words. */
export function formatOf(code: string): Format {
  if (!code || /^general$/i.test(code) || code === '@') return GENERAL;
  const format = ofNumbers(code);
  return showsWordsOtherwise(code) ? { ...format, oddWords: code } : format;
}

function ofNumbers(code: string): Format {
  // Words in quotes, escaped letters, colours and conditions are not of the pattern.
  const plain = code.replace(
    /"[^"]*"|\\.|_.|\*.|\[(?:red|blue|green|black|white|cyan|magenta|yellow|color\d+|\$[^\]]*|[<>=][^\]]*)\]/gi,
    '',
  );
  if (/[ymdhs]/i.test(plain) && !/[#?]/.test(plain)) {
    const elapsed = /\[(h+|m+|s+)\]/i.test(code);
    if (elapsed || (/[hs]/i.test(plain) && !/[yd]/i.test(plain.replace(/AM\/PM|A\/P/gi, ''))))
      return { date: false, time: elapsed ? 'long' : 'of day', decimals: null, odd: null };
    const [whole, clock] = [['y', 'm', 'd'].every((part) => plain.toLowerCase().includes(part)), /h/i.test(plain)];
    return { date: true, clock, decimals: null, odd: whole ? null : code };
  }
  const white = /\[(white|color\s*2)\]/i.test(code);
  const [first = '', ...others] = plain.split(';');
  // A number below nothing, or nothing, that would not be shown as what it is.
  const [below, nothing] = others;
  const hides = below !== undefined && (!/[-(]/.test(below) || !/[0#?]/.test(below) || nothing?.trim() === '');
  const simple = /^-?[#,]*0*(?:\.(0+))?\s*$/.exec(first.trim());
  if (simple && !hides && !white && !/^\s*$/.test(first) && !/,$/.test(first.trim()))
    return {
      date: false,
      decimals: simple[1]?.length ?? 0,
      odd: [...code.matchAll(/"([^"]*)"/g)].some(([, words]) => words!.trim()) ? code : null,
    };
  return { date: false, decimals: null, odd: code };
}

export const [BLACK, WHITE] = ['000000', 'ffffff'];

/** A colour as six digits where it says them, or what else it is called by (ECMA-376-1, 18.8.3). */
export function colourOf(attributes: Attributes, otherwise: string): string {
  const say = (key: string) => attributeOf(attributes, key);
  const [rgb, theme, indexed] = [say('rgb'), say('theme'), say('indexed')];
  const tint = Number(say('tint') ?? 0);
  if (rgb !== undefined) return rgb.slice(-6).toLowerCase();
  if (theme !== undefined) {
    // White darkened and black lightened are greys (ECMA-376-1, 18.3.1.15); what the others are is said elsewhere.
    const light = theme === '0' && tint <= 0 ? 1 + tint : theme === '1' && tint >= 0 ? tint : NaN;
    const grey = Math.round(255 * Math.min(1, Math.max(0, light)));
    return Number.isNaN(grey) ? `theme ${theme} ${tint}` : grey.toString(16).padStart(2, '0').repeat(3);
  }
  // The first eight stand there twice; two are those of the system.
  const names: Readonly<Record<string, string>> = { 0: BLACK, 8: BLACK, 64: BLACK, 1: WHITE, 9: WHITE, 65: WHITE };
  return indexed === undefined ? otherwise : (names[indexed] ?? `indexed ${indexed}`);
}

/** Whether letters can't be told from what lies behind them. */
export function isLost(colour: string, ground = WHITE): boolean {
  if (colour === ground) return true;
  const parts = (hex: string) => (/^[0-9a-f]{6}$/.test(hex) ? [0, 2, 4].map((i) => parseInt(hex.slice(i, i + 2), 16)) : null);
  const [a, b] = [parts(colour), parts(ground)];
  return a !== null && b !== null && !isTold(a, b);
}

/** The formats of a workbook's cells, by their numbers. */
export function readStyles(bytes: Uint8Array | undefined, part: string): Format[] {
  if (!bytes) return [];
  const codes = new Map<number, string>();
  const cells: Format[] = [];
  const fonts: { struck: boolean; colour: string; tiny: boolean }[] = [];
  /** The colour of what lies behind letters, by number. */
  const grounds: string[] = [];
  let inCells = false;
  let within = '';
  const has = (attributes: Attributes, key: string) => attributeOf(attributes, key);
  walkXml(bytes, part, {
    open: (name, attributes) => {
      if (name === 'fonts' || name === 'fills' || name === 'dxfs' || name === 'borders') within = name;
      if (within === 'fonts') {
        if (name === 'font') fonts.push({ struck: false, colour: BLACK, tiny: false });
        const font = fonts.at(-1);
        if (font && name === 'strike') font.struck = !/^(0|false)$/.test(has(attributes, 'val') ?? '1');
        if (font && name === 'color') font.colour = colourOf(attributes, BLACK);
        if (font && name === 'sz') font.tiny = Number(has(attributes, 'val')) < 3;
      }
      if (within === 'fills') {
        if (name === 'fill') grounds.push(WHITE);
        if (name === 'patternFill' && has(attributes, 'patternType') === 'solid') grounds[grounds.length - 1] = BLACK;
        if (name === 'gradientFill') grounds[grounds.length - 1] = 'gradient';
        if (name === 'fgColor') grounds[grounds.length - 1] = colourOf(attributes, BLACK);
      }
      if (name === 'numFmt') codes.set(Number(attributeOf(attributes, 'numFmtId')), attributeOf(attributes, 'formatCode') ?? '');
      else if (name === 'cellXfs') inCells = true;
      else if (name === 'xf' && inCells) {
        const id = Number(attributeOf(attributes, 'numFmtId') ?? 0);
        const font = fonts[Number(has(attributes, 'fontId') ?? 0)];
        const ground = grounds[Number(has(attributes, 'fillId') ?? 0)] ?? WHITE;
        const veiled = font?.struck
          ? 'struck out'
          : font?.tiny
            ? 'too small to be read'
            : font && isLost(font.colour, ground)
              ? 'in the colour of what lies behind them'
              : null;
        const format = formatOf(codes.get(id) ?? BUILT_IN[id] ?? '');
        cells.push(veiled ? { ...format, veiled } : format);
      } else if (name === 'alignment' && inCells && has(attributes, 'horizontal') === 'fill')
        cells.push({ ...cells.pop()!, veiled: 'repeated until they are full' });
    },
    close: (name) => {
      if (name === 'cellXfs') inCells = false;
    },
  });
  return cells;
}

/** Counts what shows a number as something else. */
export const reportOdd = ({ odd, oddWords, veiled, date, clock }: Format, tally: Tally): void => {
  if (veiled) tally.add(`column with cells ${veiled}`);
  const code = odd ?? oddWords;
  if (code) tally.add(`number format “${code.slice(0, 40)}”`);
  else if (date && !clock && !veiled) tally.add('times of day that are not shown');
};
