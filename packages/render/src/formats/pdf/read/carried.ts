import { type CarriedFont, LetterCount, type OpenFont, type Outline, type Point } from '@inkwell-twin/core';

/** A glyph as the library tells it: `fontChar` stands for it in the font that it makes of the one in the file. */
export interface Glyph {
  readonly unicode?: string;
  readonly fontChar?: string;
  readonly width?: number;
  /** A blank of one byte, which space between words is added to. */
  readonly isSpace?: boolean;
  /** Whether the font in the file has a shape for it: `fontChar` means another letter where it has none. */
  readonly isInFont?: boolean;
  /** Under which its instructions are, where it is drawn by some. */
  readonly operatorListId?: string | null;
}

/** Fonts that a PDF carries and that are not shipped: letters in them become outlines. */
export class CarriedFonts {
  private readonly opened = new Map<object, CarriedFont | null>();
  readonly count = new LetterCount();

  constructor(private readonly open: OpenFont) {}

  /** @param named what the library knows of a font */
  find(named: object | undefined): CarriedFont | null {
    const data = (named as { data?: Uint8Array } | undefined)?.data;
    if (!named || !data?.length) return null;
    let font = this.opened.get(named);
    if (font === undefined) this.opened.set(named, (font = this.open(data)));
    return font;
  }
}

/** What a font of the file draws for a letter of it. */
export const inkOf = (font: CarriedFont, { fontChar = '', isInFont = true, operatorListId }: Glyph): readonly Outline[] =>
  typeof operatorListId === 'string' ? font.letter(operatorListId) : isInFont ? font.letter(fontChar) : [];

const MOVE = 0;
const LINE = 1;
const CUBIC = 2;
const CLOSE = 4;

/** Outlines as the library packs paths. @param size of an em; @param x where they begin */
export function packOutlines(outlines: readonly Outline[], size: number, [x, y]: Point, into: number[]): void {
  for (const { start, segments } of outlines) {
    const put = (...points: (readonly [number, number])[]) => {
      for (const [px, py] of points) into.push(x + px * size, y + py * size);
    };
    into.push(MOVE);
    put(start);
    for (const segment of segments) {
      into.push(segment.kind === 'cubic' ? CUBIC : LINE);
      if (segment.kind === 'cubic') put(segment.c1, segment.c2, segment.to);
      else put(segment.to);
    }
    into.push(CLOSE);
  }
}
