import type { Fonts } from '../../contracts/fonts';
import { capHeight } from '../../document/faces';
import { type Matrix, meanScale } from '../../base/geometry/matrix';
import type { Point } from '../../base/geometry/point';
import type { FontName } from '../../document/schema';
import type { EmittingReader } from './telling';
import type { DxfRecord } from './records';
import { plainMtext, plainText } from './text';

/** Tells of one entity. @param following takes the next record, where entities have some behind them */
export type Reader = (groups: DxfRecord, reader: EmittingReader, following: () => DxfRecord | undefined) => void;

export const radians = (degrees: number): number => (degrees * Math.PI) / 180;
export const point = (groups: DxfRecord, code: number): Point => [groups.number(code, 0), groups.number(code + 10, 0)];

function words(
  groups: DxfRecord,
  reader: EmittingReader,
  plain: string,
  at: Point,
  height: number,
  turn: number,
  align: 'start' | 'middle' | 'end',
  font: FontName,
  own: Matrix | null = null,
): void {
  if (!plain.trim() || !(height > 0)) return;
  const size = (height * meanScale(reader.scale)) / capHeight(font);
  const shown = reader.fonts?.missing(font, plain).includes('⌀') ? plain.replaceAll('⌀', 'Ø') : plain;
  reader.text(groups, { text: shown, size, font, align }, at, turn, own);
}

/** How far a line of a font runs, as its capitals are high. */
const runOf = (fonts: Fonts, font: FontName, plain: string, height: number): number =>
  fonts.advance(font, plain, height / capHeight(font));

/** How the letters of a text are pulled (DXF reference, TEXT, groups 41, 51, 71, 72). */
interface Pulled {
  /** What is done to them before they are turned; null where nothing is. */
  readonly own: Matrix | null;
  /** How much higher they are than they say. */
  readonly higher: number;
  /** Where they begin and how they are turned, where they run between two points. */
  readonly between: { readonly at: Point; readonly turn: number } | null;
}

/** As a file becomes a master. @param plain what is set */
function pulled(groups: DxfRecord, fonts: Fonts, font: FontName, plain: string): Pulled {
  const across = groups.number(72, 0);
  let [wide, higher] = [groups.number(41, 1), 1];
  let between: Pulled['between'] = null;
  if ((across === 3 || across === 5) && groups.has(11)) {
    const [[x, y], [toX, toY]] = [point(groups, 10), point(groups, 11)];
    const run = runOf(fonts, font, plain, groups.number(40, 0));
    const share = run > 0 ? Math.hypot(toX - x, toY - y) / run : 1;
    // Aligned letters grow with the distance, fitted ones only get wider.
    if (across === 3) [wide, higher] = [1, share];
    else wide = share;
    between = { at: [x, y], turn: Math.atan2(toY - y, toX - x) };
  }
  const flags = groups.number(71, 0);
  const slant = Math.tan(radians(groups.number(51, 0)));
  const [x, y] = [flags & 2 ? -wide : wide, flags & 4 ? -1 : 1];
  const isPlain = Math.abs(x - 1) < 1e-6 && y === 1 && Math.abs(slant) < 1e-6;
  return { own: isPlain ? null : [x, 0, slant * y, y, 0, 0], higher, between };
}

export const emitText: Reader = (groups, reader) => {
  const font = reader.font(groups);
  const across = groups.number(72, 0);
  // In words of an insert that group is how many letters they may have (DXF reference, ATTRIB).
  const up = groups.number(groups.type === 'ATTRIB' ? 74 : 73, 0);
  const height = groups.number(40, 0);
  const second = groups.has(11) && (across !== 0 || up !== 0);
  const [x, y] = point(groups, second ? 11 : 10);
  const { fonts } = reader;
  if (!reader.keep || !fonts) {
    if (across === 3 || across === 5) reader.tally.add('text stretched between two points');
    if (Math.abs(groups.number(41, 1) - 1) > 1e-6) reader.tally.add('narrowed or widened text');
    if (Math.abs(groups.number(51, 0)) > 1e-6) reader.tally.add('slanted text');
    if (groups.number(71, 0) & 6) reader.tally.add('mirrored text');
  }
  if (!reader.keep && groups.number(230, 1) < 0) reader.tally.add('text seen from behind');
  if (/%%[uok]/i.test(groups.text(1) ?? '')) reader.tally.add('text with a line');
  const turn = radians(groups.number(50, 0));
  const lower = up === 3 ? -height : up === 2 ? -height / 2 : up === 1 ? height * 0.28 : across === 4 ? -height / 2 : 0;
  const at: Point = [x - lower * Math.sin(turn), y + lower * Math.cos(turn)];
  const plain = plainText(groups.text(1) ?? '');
  const align = across === 1 || across === 4 ? 'middle' : across === 2 ? 'end' : 'start';
  if (!reader.keep || !fonts) return words(groups, reader, plain, at, height, turn, align, font);
  const { own, higher, between } = pulled(groups, fonts, font, plain);
  // Mirrored letters run the other way from where they stand.
  const mirrored = own && own[0] < 0 && across === 0 && !between ? 'start' : align;
  if (between) words(groups, reader, plain, between.at, height * higher, between.turn, 'start', font, own);
  else words(groups, reader, plain, at, height, turn, mirrored, font, own);
};

/** Lines broken between words where they would not fit. */
function broken(text: string, fits: (line: string) => boolean): string {
  return text
    .split('\n')
    .flatMap((line) => {
      const lines = [''];
      for (const word of line.split(' ')) {
        const longer = lines.at(-1) ? `${lines.at(-1)} ${word}` : word;
        if (lines.at(-1) && !fits(longer)) lines.push(word);
        else lines[lines.length - 1] = longer;
      }
      return lines;
    })
    .join('\n');
}

/** How wide a letter is on the average, in heights of a capital. */
const WIDE = 0.85;

/** Where words of several lines stand. */
interface Stand {
  readonly at: Point;
  readonly height: number;
  /** Where they are broken; 0 where they are not. */
  readonly width: number;
  readonly align: 'start' | 'middle' | 'end';
  /** Whether they hang from that place (0), stand around it (1) or on it (2). */
  readonly row: number;
  /** Radians. */
  readonly axis: number;
}

/** Tells of words of several lines. @param coded with the codes for their formatting */
export function setLines(groups: DxfRecord, reader: EmittingReader, coded: string, stand: Stand): void {
  const { text: stated, formatted } = plainMtext(coded);
  if (formatted) reader.tally.add('formatting inside MTEXT');
  const { at, height, width, align, row, axis } = stand;
  const font = reader.font(groups);
  const { fonts } = reader;
  const widest = stated.split('\n').reduce((most, { length }) => Math.max(most, length), 0) * height * WIDE;
  const plain = reader.keep && fonts && width > 0 ? broken(stated, (line) => runOf(fonts, font, line, height) <= width) : stated;
  if (!(reader.keep && fonts) && width > 0 && widest > width && /\S\s+\S/.test(plain))
    reader.tally.add('lines of MTEXT that its width breaks');
  const lines = plain.split('\n').length;
  if (lines > 1 && Math.abs(groups.number(44, 1) - 1) > 1e-3 && groups.type === 'MTEXT')
    reader.tally.add('MTEXT with lines closer or wider');
  const step = (height / capHeight(font)) * 1.25;
  const whole = height + (lines - 1) * step;
  const drop = row === 0 ? height : row === 1 ? height - whole / 2 : height - whole;
  const place: Point = [at[0] + drop * Math.sin(axis), at[1] - drop * Math.cos(axis)];
  words(groups, reader, plain, place, height, axis, align, font);
}

export const emitMtext: Reader = (groups, reader) => {
  const parts: string[] = [];
  groups.each((code, _number, text) => {
    if (code === 3 || code === 1) parts.push(text());
  });
  const place = groups.number(71, 1);
  setLines(groups, reader, parts.join(''), {
    at: point(groups, 10),
    height: groups.number(40, 0),
    width: groups.number(41, 0),
    align: (['start', 'middle', 'end'] as const)[(place - 1) % 3] ?? 'start',
    row: Math.floor((place - 1) / 3),
    axis: groups.has(11) ? Math.atan2(groups.number(21, 0), groups.number(11, 1)) : radians(groups.number(50, 0)),
  });
};
