import type { FontName } from '../../../document/faces';
import type { Measure } from '../../../document/items';
import { type Emphasis, type Note, type Span, isNote } from '../../../document/texts/schema';
import { type RoleLook, SHIFTED, type TypeSetting, faceFor } from './looks';

/** Letters of one look on a line. */
export interface Piece {
  readonly text: string;
  readonly font: FontName;
  /** mm */
  readonly size: number;
  /** From the beginning of the line, and up from its baseline, mm. */
  readonly x: number;
  readonly up: number;
  readonly width: number;
  readonly underlined: boolean;
  readonly struck: boolean;
}
export interface Line {
  readonly pieces: readonly Piece[];
  readonly width: number;
  /** Whether a paragraph or a line ends with it by itself: it is not spread. */
  readonly last: boolean;
  /** How many words of its paragraph stand before it. */
  readonly from: number;
}

/** The numbers of the notes of a text, in order; they stand at its end. */
export type NoteNumbers = ReadonlyMap<Note, number>;

interface Token {
  readonly parts: Omit<Piece, 'x'>[];
  readonly width: number;
  /** Of the blank before it. */
  readonly gap: number;
  readonly breaks: boolean;
}

interface Setting {
  readonly look: RoleLook;
  readonly type: TypeSetting;
  readonly measure: Measure;
  readonly notes: NoteNumbers;
}

const shift = (marks: readonly Emphasis[]): number =>
  marks.includes('raised') ? SHIFTED.raised : marks.includes('lowered') ? SHIFTED.lowered : 0;

/** Words of a paragraph with how they look: what stands between blanks is one, however many looks it has. */
function tokensOf(spans: readonly Span[], { look, type, measure, notes }: Setting): Token[] {
  const tokens: Token[] = [];
  const size = type.size * look.size;
  let parts: Omit<Piece, 'x'>[] = [];
  let gap = 0;
  let breaks = false;
  const end = () => {
    if (parts.length || breaks) tokens.push({ parts, width: parts.reduce((sum, one) => sum + one.width, 0), gap, breaks });
    parts = [];
    gap = 0;
    breaks = false;
  };
  for (const span of spans) {
    const marks: readonly Emphasis[] = isNote(span) ? ['raised'] : (span.marks ?? []);
    const text = isNote(span) ? String(notes.get(span) ?? '') : span.text;
    const up = shift(marks);
    const own = up ? size * SHIFTED.size : size;
    const base = marks.includes('code') ? type.code : look.font === 'heading' ? type.heading : type.text;
    const font = faceFor(base, marks, look.italic);
    for (const part of text.split(/([ \t]+|\n)/)) {
      // A blank at which no line ends is a blank on paper.
      const piece = part.replaceAll('\u00a0', ' ');
      if (part === '') continue;
      if (part === '\n') {
        end();
        breaks = true;
      } else if (/^[ \t]/.test(part)) {
        if (parts.length) end();
        gap = measure(font, ' ') * own;
      } else
        parts.push({
          text: piece,
          font,
          size: own,
          up: up * size,
          width: measure(font, piece) * own,
          underlined: marks.includes('underlined'),
          struck: marks.includes('struck'),
        });
    }
  }
  end();
  return tokens;
}

const alike = (a: Piece, b: Omit<Piece, 'x'>): boolean =>
  a.font === b.font && a.size === b.size && a.up === b.up && a.underlined === b.underlined && a.struck === b.struck;

/** A line of words from its left; words of one look are one piece, but where gaps are spread each stands alone. */
function lineOf(tokens: readonly Token[], spread: number, last: boolean, from: number): Line {
  const pieces: Piece[] = [];
  let x = 0;
  tokens.forEach(({ parts, gap }, i) => {
    const blank = i ? gap + spread : 0;
    parts.forEach((part, k) => {
      const before = pieces.at(-1);
      if (before && !spread && alike(before, part) && !(k === 0 && blank === 0 && i > 0)) {
        const text = `${before.text}${k === 0 && i ? ' ' : ''}${part.text}`;
        const width = x + (k === 0 ? blank : 0) + part.width - before.x;
        pieces[pieces.length - 1] = { ...before, text, width };
      } else pieces.push({ ...part, x: x + (k === 0 ? blank : 0) });
      x += (k === 0 ? blank : 0) + part.width;
    });
  });
  return { pieces, width: x, last, from };
}

/** A word that is wider than a line, in parts that are not. */
function split(token: Token, width: number, measure: Measure): Token[] {
  const out: Token[] = [];
  let parts: Omit<Piece, 'x'>[] = [];
  let used = 0;
  for (const part of token.parts) {
    let text = '';
    const flush = () => {
      if (text) parts.push({ ...part, text, width: measure(part.font, text) * part.size });
      text = '';
    };
    for (const letter of part.text) {
      const wide = measure(part.font, letter) * part.size;
      if (used + wide > width && (text || parts.length)) {
        flush();
        out.push({ parts, width: used, gap: 0, breaks: out.length ? false : token.breaks });
        parts = [];
        used = 0;
      }
      text += letter;
      used += wide;
    }
    flush();
  }
  return [...out, { parts, width: used, gap: out.length ? 0 : token.gap, breaks: out.length ? false : token.breaks }];
}

/**
 * A paragraph as lines no wider than a width, each filled as far as it goes.
 * @param spreads whether lines but the last are spread to the width
 * @param after words of it that stand elsewhere already
 */
export function linesOf(spans: readonly Span[], width: number, spreads: boolean, setting: Setting, after = 0): Line[] {
  const lines: Line[] = [];
  let line: Token[] = [];
  let used = 0;
  const end = (last: boolean) => {
    const gaps = line.length - 1;
    const room = width - used;
    lines.push(lineOf(line, spreads && !last && gaps > 0 && room > 0 ? room / gaps : 0, last, begun));
    begun = at;
    line = [];
    used = 0;
  };
  let [begun, at] = [after, after];
  for (const whole of tokensOf(spans, setting).slice(after)) {
    if (whole.breaks && (line.length || (lines.length === 0 && !after))) end(true);
    for (const token of whole.width > width ? split(whole, width, setting.measure) : [whole]) {
      if (line.length && used + token.gap + token.width > width + 1e-9) end(false);
      used += token.width + (line.length ? token.gap : 0);
      line.push(token);
    }
    at++;
  }
  if (line.length) end(true);
  return lines;
}
