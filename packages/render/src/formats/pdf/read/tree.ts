import { Graphics } from './graphics';
import { type Glyph, inkOf, packOutlines } from './carried';
import { type Matrix, identity, multiply, translation } from '@inkwell-twin/core';
import { type Letters, fontCalled } from './fonts';
import type { PageLetter } from './inked';
import type { GroupNode, PathNode, TextNode } from './nodes';
import { type DrawnFont, DrawnFonts, unitOf } from './drawn-letters';
import { HANDLERS } from './handlers';
import { NEUTRAL, OF_LETTERS } from './neutral';
import type { RawInstructions } from './open';
import { OpenLine, piecesOf } from './words';
import type { Box } from './shaded';
import { freshPlace } from './state';

/** Makes a tree of what a list of instructions draws, in the axes of the board. */
export class TreeReader extends Graphics {
  private place = freshPlace();
  private readonly drawn = new DrawnFonts((list, at) => new TreeReader(this.around, at).letter(list));
  private isLetter = false;
  /** What is shown now, and how far from its start it has come, as the size is given. */
  private line: { readonly key: string; readonly node: TextNode; readonly rise: number; along: number } | null = null;

  read({ fnArray, argsArray }: RawInstructions): GroupNode {
    const { nameOf, tally } = this.around;
    for (let i = 0; i < fnArray.length; i++) {
      const name = nameOf(fnArray[i]!);
      const handle = HANDLERS[name];
      if (handle) handle(this, argsArray[i] ?? []);
      else if (!NEUTRAL.has(name) && !(this.isLetter && OF_LETTERS.has(name))) tally.add(`instruction ${name}`);
    }
    return this.root;
  }

  /** What draws a letter. */
  private letter(list: RawInstructions): GroupNode {
    this.isLetter = true;
    return this.read(list);
  }

  protected drawnApart(list: RawInstructions, start: Matrix, page: Box): GroupNode {
    return new TreeReader({ ...this.around, page }, start).read(list);
  }

  // Texts

  beginText(): void {
    this.place = freshPlace();
    this.line = null;
  }

  endText(): void {
    this.line = null;
  }

  font(name: string, size: number): void {
    const named = this.around.named.get(name) as ({ name?: string; vertical?: boolean } & Letters & DrawnFont) | undefined;
    const called = named?.name ?? '';
    const { font, exact } = fontCalled(called, named);
    const unit = unitOf(named ?? {});
    // Letters in units of their own are pictures of letters: no font has their size.
    const isDrawn = this.around.carried || Math.abs(unit - 1) > 1e-6;
    const drawn = isDrawn ? this.drawn.find(named) : null;
    const carried = exact ? null : (drawn ?? this.around.carried?.find(named) ?? null);
    if (!exact && !carried)
      this.around.tally.add(`font ${called.replace(/^[A-Z]{6}\+/, '') || 'without a name'}, taken as ${font}`);
    const letters = exact ? (this.around.letters?.find(named) ?? null) : null;
    if (exact && this.around.letters && !letters) this.around.tally.add(`font ${font}, whose letters are not in the file`);
    if (named?.vertical) this.around.tally.add('letters one below the other');
    this.set({ font, size, unit, carried, letters });
  }

  textMatrix(matrix: Matrix): void {
    this.place = { matrix, line: matrix };
    this.line = null;
  }

  moveText(x: number, y: number): void {
    const moved = multiply(this.place.line, translation(x, y));
    this.textMatrix(moved);
  }

  nextLine(): void {
    this.moveText(0, -this.state.leading);
  }

  show(glyphs: readonly (number | Glyph | null)[]): void {
    const { state } = this;
    if (!this.around.letters && !state.carried) return this.showWords(glyphs);
    let text = '';
    let [far, shown] = [0, 0];
    const letters: number[] = [];
    const drawn: PageLetter[] = [];
    let known = state.carried !== null;
    for (const glyph of glyphs) {
      if (typeof glyph === 'number') far -= glyph;
      else if (glyph) {
        text += glyph.unicode ?? '';
        if (state.carried) {
          const outlines = inkOf(state.carried, glyph);
          known &&= outlines.length > 0 || !(glyph.unicode ?? '').trim();
          packOutlines(outlines, state.size, [(far / 1000) * state.size + shown * state.spacing, 0], letters);
        }
        if (state.letters)
          drawn.push({
            outlines: inkOf(state.letters, glyph),
            x: (far / 1000) * state.size + shown * state.spacing,
            y: 0,
          });
        far += (glyph.width ?? 0) * state.unit + (glyph.isSpace && state.size ? (1000 * state.wordSpacing) / state.size : 0);
        shown++;
      }
    }
    const { mode, font, size, across, rise, spacing } = state;
    const start = this.place.matrix;
    const along = (far / 1000) * size + shown * spacing;
    this.place.matrix = multiply(start, translation(along * across, 0));
    if (mode === 3) return this.around.tally.addUnseen('text that is not shown');
    if (mode > 3) this.around.tally.add('text that clips');
    if (!text) return;
    const key = `${font} ${size} ${across} ${spacing} ${mode}`;
    // Accents stand higher or lower than their line: where letters are held against what is inked, they go on with it.
    const goesOn = rise === this.line?.rise || (state.letters && !state.carried && /^\p{M}+$/u.test(text));
    // What follows in the same font goes on with the line.
    if (this.line?.key === key && goesOn) {
      const { node, along: before, rise: first } = this.line;
      node.text += text;
      node.line?.letters.push(...drawn.map(({ outlines, x }) => ({ outlines, x: before + x, y: rise - first })));
      this.line.along += along;
      return;
    }
    const [filled, lined] = [mode % 4 === 0 || mode % 4 === 2, mode % 4 === 1 || mode % 4 === 2];
    const placed: Matrix = multiply(multiply(state.ctm, start), [across, 0, 0, 1, 0, rise]);
    const at: Matrix = size < 0 ? multiply(placed, [-1, 0, 0, -1, 0, 0]) : placed;
    const style = this.look(filled, lined, 'nonzero');
    if (known) {
      if (!letters.length) return;
      this.around.carried?.count.text(shown);
      this.draw<PathNode>({ kind: 'path', data: Float32Array.from(letters), at: placed, style, layer: this.layer });
      return;
    }
    if (state.carried) this.around.tally.add(`letters that a carried font lacks, taken as ${font}`);
    const node = this.draw<TextNode>({
      kind: 'text',
      text,
      at,
      size: Math.abs(size),
      spacing: Math.sign(size) * spacing,
      font,
      style,
      line: state.letters && { letters: drawn, at: placed, size, spacing },
      layer: this.layer,
    });
    this.line = { key, node, along, rise };
  }

  /** Words as a person would write them: what moves on is a blank, and what follows on the line goes on with it. */
  private showWords(glyphs: readonly (number | Glyph | null)[]): void {
    const { state } = this;
    const { mode, font, size, across, rise } = state;
    const { pieces, along } = piecesOf(glyphs, state);
    const start = this.place.matrix;
    this.place.matrix = multiply(start, translation(along * across, 0));
    if (mode === 3) return this.around.tally.addUnseen('text that is not shown');
    if (mode > 3) this.around.tally.add('text that clips');
    const style = this.look(mode % 4 === 0 || mode % 4 === 2, mode % 4 === 1 || mode % 4 === 2, 'nonzero');
    const upright: Matrix = size < 0 ? [-1, 0, 0, -1, 0, 0] : identity;
    for (const piece of pieces) {
      const axes = multiply(multiply(multiply(state.ctm, start), [across, 0, 0, 1, 0, rise]), upright);
      const own = size < 0 ? { ...piece, from: -piece.from, to: -piece.to } : piece;
      const like = { size: Math.abs(size), spacing: 0, font, style, layer: this.layer };
      const holder = this.open.at(-1)!;
      if (this.words?.goesOn(own, axes, like, holder)) continue;
      if (!own.text.trim()) continue;
      const at = multiply(axes, translation(own.from, 0));
      const node = this.draw<TextNode>({ kind: 'text', text: own.text, along: own.to - own.from, at, ...like });
      this.words = new OpenLine(node, at, holder);
    }
  }
}
