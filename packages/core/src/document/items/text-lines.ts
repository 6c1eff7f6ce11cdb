import type { FontName } from '../faces';
import type { Measure, TextLine } from './text-line';
import type { TextItem, TextRun } from './text-item';

/** Where no fonts are at hand: a fair mean width of a letter. Enough to count lines by, not to place them. */
export const roughly: Measure = (_font, text) => 0.56 * text.length;

/** Distance between the baselines of a text's lines, in ems, where nothing else is said. */
export const LEADING = 1.25;

/** How the letters of a stretch look; `spacing` in ems. */
interface RunStyle {
  readonly font: FontName;
  readonly size: number;
  readonly spacing: number;
  readonly colour: string | undefined;
}

interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly look: RunStyle;
}

/** The wording as stretches of one look each, without gaps. Of runs that overlap the earlier counts. */
function stretchesOf({ text, font, size, spacing = 0, runs = [] }: TextItem): Stretch[] {
  const base: RunStyle = { font, size, spacing, colour: undefined };
  const found: Stretch[] = [];
  let at = 0;
  const add = (to: number, look: RunStyle) => {
    if (to > at) found.push({ from: at, to, look });
    at = Math.max(at, to);
  };
  for (const run of [...runs].sort((a, b) => a.from - b.from)) {
    add(Math.min(run.from, text.length), base);
    add(Math.min(run.to, text.length), lookOf(run, base));
  }
  add(text.length, base);
  return found.length ? found : [{ from: 0, to: 0, look: base }];
}

const lookOf = (run: TextRun, base: RunStyle): RunStyle => ({
  font: run.font ?? base.font,
  size: run.size ?? base.size,
  spacing: run.spacing ?? base.spacing,
  colour: run.colour,
});

/** How many letters take space between them: characters, whatever their code takes. */
const letters = (text: string): number => [...text].length;

/** Lays out one text. */
class Setting {
  private readonly stretches: readonly Stretch[];

  constructor(
    private readonly item: TextItem,
    private readonly measure: Measure,
  ) {
    this.stretches = stretchesOf(item);
  }

  /** The stretches between two places of the wording. */
  private within(from: number, to: number): Stretch[] {
    // They lie one after the other: the first is found by halves, so that many looks in a long text cost little.
    let [low, high] = [0, this.stretches.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.stretches[middle]!.to > from) high = middle;
      else low = middle + 1;
    }
    const found: Stretch[] = [];
    for (let i = low; i < this.stretches.length && this.stretches[i]!.from < to; i++) {
      const one = this.stretches[i]!;
      const [first, end] = [Math.max(from, one.from), Math.min(to, one.to)];
      if (first < end) found.push({ from: first, to: end, look: one.look });
    }
    return found;
  }

  private runs({ from, to, look }: Stretch): number {
    const text = this.item.text.slice(from, to);
    return (this.measure(look.font, text) + look.spacing * letters(text)) * look.size;
  }

  private width(from: number, to: number): number {
    return this.within(from, to).reduce((sum, one) => sum + this.runs(one), 0);
  }

  /** A paragraph as lines no wider than the box, broken at blanks; a word that is wider stands out. */
  private *broken(from: number, to: number): Generator<readonly [from: number, to: number]> {
    const { text, width } = this.item;
    if (width === undefined) return yield [from, to];
    let [start, end, far] = [from, from, 0];
    for (const { 0: token, index } of text.slice(from, to).matchAll(/\s*\S+/g)) {
      const [first, last] = [from + index, from + index + token.length];
      const wide = this.width(first, last);
      if (end > start && far + wide > width + 1e-9) {
        yield [start, end];
        start = first + /^\s*/.exec(token)![0].length;
        far = this.width(start, last);
      } else far += wide;
      end = last;
    }
    yield [start, Math.max(end, start)];
  }

  *lines(): Generator<TextLine> {
    const { text, y, leading = LEADING } = this.item;
    let [paragraph, line, down] = [0, 0, 0];
    for (const words of text.split('\n')) {
      for (const [from, to] of this.broken(paragraph, paragraph + words.length)) {
        if (line) down += leading * this.tallest(from, to);
        yield* this.line(from, to, line, y - down);
        line++;
      }
      paragraph += words.length + 1;
    }
  }

  /** The largest letters of a line; of an empty one, those that would stand there. */
  private tallest(from: number, to: number): number {
    const some = this.within(from, to);
    const there = some.length ? some : this.within(Math.max(0, from - 1), from);
    return there.reduce((most, { look }) => Math.max(most, look.size), 0) || this.item.size;
  }

  private *line(from: number, to: number, line: number, y: number): Generator<TextLine> {
    const { text, x, align } = this.item;
    const pieces = this.within(from, to);
    const placed = (one: Stretch, at: number, words: string, by: TextLine['align'], piece: number): TextLine => {
      const { font, size, spacing, colour } = one.look;
      return {
        text: words,
        at: [at, y],
        size,
        font,
        align: by,
        line,
        piece,
        ...(spacing ? { spacing: spacing * size } : {}),
        ...(colour ? { colour } : {}),
      };
    };
    if (pieces.length < 2) {
      const words = text.slice(from, to);
      if (words.trim()) yield placed(pieces[0]!, x, words, align, 0);
      return;
    }
    const width = align === 'start' ? 0 : this.width(from, to);
    let at = x - (align === 'middle' ? width / 2 : width);
    let piece = 0;
    for (const one of pieces) {
      const words = text.slice(one.from, one.to);
      const trimmed = words.trim();
      if (trimmed) {
        const blank = words.length - words.trimStart().length;
        const lead = blank ? this.runs({ ...one, to: one.from + blank }) : 0;
        yield placed(one, at + lead, trimmed, 'start', piece++);
      }
      at += this.runs(one);
    }
  }
}

/**
 * The lines of a text, those without a letter left out; of a line with several looks, a piece each.
 * @param measure tells where lines break and pieces begin
 */
export const linesOf = (item: TextItem, measure: Measure): TextLine[] => [...new Setting(item, measure).lines()];
