import type { Fonts, FontName, Matrix } from '@inkwell-twin/core';
import { invert, multiply } from '@inkwell-twin/core';
import type { Glyph } from './carried';
import type { GroupNode, TextNode } from './nodes';

/** Words that stand together, and where: from the start of what is shown, as the size is given. */
interface Piece {
  text: string;
  readonly from: number;
  to: number;
}

/** How glyphs follow each other. */
interface Setting {
  readonly size: number;
  readonly unit: number;
  readonly spacing: number;
  readonly wordSpacing: number;
}

/** Gaps in ems: what is wider than the first is a blank, than the second the start of something else; what goes back further than the third, too. */
const [BLANK, APART, BACK] = [0.15, 1.2, -0.3];
/** How far two lines may be off and still be one, ems. */
const SAME_LINE = 0.02;
/** Letters that were joined in one shape, apart again (Unicode, Alphabetic Presentation Forms). */
const LIGATURES: Readonly<Record<string, string>> = { ﬀ: 'ff', ﬁ: 'fi', ﬂ: 'fl', ﬃ: 'ffi', ﬄ: 'ffl', ﬅ: 'st', ﬆ: 'st' };
const lettersOf = (glyph: Glyph): string => (glyph.unicode ?? '').replace(/[ﬀ-ﬆ]/g, (one) => LIGATURES[one]!);

/** How much of a gap between letters is a blank: more than usual, where letters stand wide apart. */
function blankFrom(gaps: number[]): number {
  if (gaps.length < 4) return BLANK;
  const sorted = [...gaps].sort((a, b) => a - b);
  return Math.max(0, sorted[sorted.length >> 1]!) + BLANK;
}

/**
 * What glyphs say, put together to words and lines: many programs write no blanks, and move on instead.
 * @param glyphs letters, and by how many thousandths of the size to go back between them
 * @returns the pieces, and how far all of it runs
 */
export function piecesOf(
  glyphs: readonly (number | Glyph | null)[],
  { size, unit, spacing, wordSpacing }: Setting,
): { pieces: Piece[]; along: number } {
  const placed: { text: string; from: number; to: number; gap: number }[] = [];
  let [at, gap] = [0, 0];
  const em = Math.abs(size) || 1;
  for (const glyph of glyphs) {
    if (typeof glyph === 'number') {
      at -= (glyph / 1000) * size;
      gap -= (glyph / 1000) * Math.sign(size);
    } else if (glyph) {
      const after = spacing + (glyph.isSpace ? wordSpacing : 0);
      const width = ((glyph.width ?? 0) / 1000) * unit * size;
      placed.push({ text: lettersOf(glyph), from: at, to: at + width, gap });
      at += width + after;
      gap = (after * Math.sign(size)) / em;
    }
  }
  const blank = blankFrom(placed.slice(1).map((one) => one.gap));
  const pieces: Piece[] = [];
  for (const { text, from, to, gap: before } of placed) {
    const last = pieces.at(-1);
    if (!text) continue;
    if (!last || before > blank + APART || before < BACK) pieces.push({ text, from, to });
    else {
      last.text += between(last.text, before > blank, text) + text;
      last.to = to;
    }
  }
  return { pieces, along: at };
}

/** A blank where there is room for one, and none stands there. */
const between = (before: string, isApart: boolean, after: string): string =>
  isApart && !/\s$/.test(before) && !/^\s/.test(after) ? ' ' : '';

/** A line of words that may go on. */
export class OpenLine {
  /** @param at from the axes of its letters to the board's */
  constructor(
    private readonly node: TextNode,
    private readonly at: Matrix,
    private readonly holder: GroupNode,
  ) {}

  /**
   * Adds words that follow on the same line in the same look.
   * @returns false where they are something else
   */
  goesOn(piece: Piece, at: Matrix, like: Omit<TextNode, 'text' | 'at' | 'kind'>, holder: GroupNode): boolean {
    const { node } = this;
    const isSame =
      this.holder === holder &&
      node.font === like.font &&
      node.size === like.size &&
      node.style === like.style &&
      node.layer === like.layer;
    const back = isSame ? invert(this.at) : null;
    if (!back) return false;
    const [a, b, c, d, dx, dy] = multiply(back, at);
    const em = like.size;
    const isTurned = Math.abs(a - 1) + Math.abs(b) + Math.abs(c) + Math.abs(d - 1) > 1e-3;
    const gap = (dx + piece.from - node.along!) / em;
    if (isTurned || Math.abs(dy) > SAME_LINE * em || gap > BLANK + APART || gap < BACK) return false;
    node.text += between(node.text, gap > BLANK, piece.text) + piece.text;
    node.along = dx + piece.to;
    return true;
  }
}

/** Ems between letters that are not worth being said. */
const UNSEEN = 0.002;
/** A line that is this much off is not the same words in another font. */
const MOST = 0.5;

/**
 * Space between letters that makes words run as far in a shipped font as they do in the file, ems.
 * @param along how far they run there, ems
 */
export function fittedSpacing(fonts: Fonts, font: FontName, text: string, along: number): number {
  const count = [...text].length;
  if (count < 2) return 0;
  if (Math.abs(along - fonts.advance(font, text, 1)) <= UNSEEN * count) return 0;
  // Letters that stand apart are not kerned.
  const plain = fonts.advance(font, text, 1, 1) - count;
  const spacing = (along - plain) / (count - 1);
  return Math.abs(spacing) > MOST ? 0 : Math.round(spacing * 1e5) / 1e5;
}
