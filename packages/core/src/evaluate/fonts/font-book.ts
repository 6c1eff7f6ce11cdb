import opentype from 'opentype.js';
import { Failure } from '../../base/failure/failure';
import { multiply, translation } from '../../base/geometry/matrix';
import { transformOutline } from '../../base/geometry/outline';
import type { Outline } from '../../base/geometry/outline';
import type { OpenFont } from '../../contracts/carried-font';
import type { Fonts, InkedLetter, OutlinedText } from '../../contracts/fonts';
import { type GlyphStep, glyphOutlines } from './glyph-outlines';
import type { Point } from '../../base/geometry/point';
import type { Measure } from '../../document/items';
import type { FontName } from '../../document/schema';
import type { Words } from '../../contracts/drawing';

/** A text set in the letters of one file: which glyphs, where, and how far it runs; ems. */
export interface ShapedText {
  readonly advance: number;
  readonly glyphs: readonly { readonly glyph: number; readonly x: number; readonly y: number }[];
}
/**
 * Sets a text with all of its font's kerning.
 * @param joined whether letters may become one glyph
 */
export type Shape = (file: () => ArrayBuffer, text: string, joined: boolean) => ShapedText;

/**
 * The shipped fonts. Each consists of files for parts of the alphabet, asked in order.
 * Built from bytes, so that the same code runs on the server and in a browser.
 */
export class FontBook implements Fonts {
  private readonly files = new Map<FontName, (() => ArrayBuffer)[]>();
  private readonly fonts = new Map<FontName, opentype.Font[]>();

  /**
   * @param shape sets texts in a file's letters
   * @param carried opens fonts that files bring with them
   */
  constructor(
    private readonly shape: Shape,
    readonly carried: OpenFont = () => null,
  ) {}

  /** Adds a file of a font; it is read when the font is first asked for. */
  add(name: FontName, file: () => ArrayBuffer): void {
    this.files.set(name, [...(this.files.get(name) ?? []), file]);
  }

  private fontsOf(name: FontName): opentype.Font[] | undefined {
    let fonts = this.fonts.get(name);
    if (!fonts) {
      fonts = this.files.get(name)?.map((file) => opentype.parse(file()));
      if (fonts) this.fonts.set(name, fonts);
    }
    return fonts;
  }

  private runs(name: FontName, text: string): { font: opentype.Font; text: string; missing: boolean }[] {
    const fonts = this.fontsOf(name);
    if (!fonts?.[0]) throw new Failure('font-missing', `The font ${name} is not loaded.`);
    const runs: { font: opentype.Font; text: string; missing: boolean }[] = [];
    // Fonts have shapes for letters with their accents: the same text, however it is saved, is set by them (UAX #15, NFC).
    for (const char of text.normalize('NFC')) {
      const has = fonts.find((font) => font.charToGlyphIndex(char) > 0);
      const font = has ?? fonts[0];
      const last = runs.at(-1);
      if (last && last.font === font && last.missing === !has) last.text += char;
      else runs.push({ font, text: char, missing: !has });
    }
    return runs;
  }

  /** Characters of a line for which a font has no shape. */
  missing(name: FontName, text: string): string[] {
    return this.runs(name, text).flatMap((run) => (run.missing ? [...run.text] : []));
  }

  /** A line as pieces that one file each has the letters of: files by number, and their bytes. */
  pieces(name: FontName, text: string): { file: number; bytes: () => ArrayBuffer; text: string }[] {
    const [runs, files, fonts] = [this.runs(name, text), this.files.get(name)!, this.fontsOf(name)!];
    return runs.map((run) => {
      const file = fonts.indexOf(run.font);
      return { file, bytes: files[file]!, text: run.text };
    });
  }

  private readonly advances = new Map<string, number>();

  /**
   * How far a line of live text runs where a program sets it with all of its font's kerning, mm.
   * @param spacing after each letter, mm
   */
  advance(name: FontName, text: string, size: number, spacing = 0): number {
    // The same words are asked for again and again: a box breaks its lines by them.
    const key = `${name}\n${text}`;
    let ems = this.advances.get(key);
    if (ems === undefined) {
      ems = this.pieces(name, text).reduce((sum, { bytes, text: piece }) => sum + this.shape(bytes, piece, false).advance, 0);
      if (this.advances.size > 20_000) this.advances.clear();
      this.advances.set(key, ems);
    }
    return ems * size + spacing * [...text].length;
  }

  /** A text entry as outlines on the board. */
  outline({ text, font, size, align, frame, spacing = 0 }: Words): OutlinedText {
    const outlines: Outline[] = [];
    const missing: string[] = [];
    let x = 0;
    for (const run of this.runs(font, text)) {
      if (run.missing) missing.push(...run.text);
      // Letters that stand apart are never joined (CSS Text 3, 8.2).
      const { glyphs, advance } = this.shape(this.bytesOf(font, run.font), run.text, spacing === 0);
      glyphs.forEach(({ glyph, x: across, y: up }, i) => {
        const at = x + across * size + i * spacing;
        outlines.push(
          ...glyphOutlines(
            run.font.glyphs
              .get(glyph)
              .getPath(at, -up * size, size, {}, run.font)
              .commands.map(stepOf),
          ),
        );
      });
      x += advance * size + glyphs.length * spacing;
    }
    const placed = align === 'start' ? frame : multiply(frame, translation(align === 'middle' ? -x / 2 : -x, 0));
    return { outlines: outlines.map((outline) => transformOutline(outline, placed)), missing };
  }

  private readonly glyphs = new Map<opentype.Glyph, readonly Outline[]>();

  /**
   * What the letters of a line ink, one by one and kerned, where each stretch that one file has the letters of is set by itself.
   * @returns null where a letter has no shape
   */
  inked(name: FontName, text: string): InkedLetter[] | null {
    const letters: InkedLetter[] = [];
    let along = 0;
    for (const run of this.runs(name, text)) {
      if (run.missing) return null;
      const { glyphs, advance } = this.shape(this.bytesOf(name, run.font), run.text, false);
      for (const { glyph: id, x, y } of glyphs) {
        const glyph = run.font.glyphs.get(id);
        let outlines = this.glyphs.get(glyph);
        if (!outlines)
          this.glyphs.set(glyph, (outlines = glyphOutlines(glyph.getPath(0, 0, 1, {}, run.font).commands.map(stepOf))));
        letters.push({ outlines, x: along + x, y });
      }
      along += advance;
    }
    return letters;
  }

  private bytesOf(name: FontName, font: opentype.Font): () => ArrayBuffer {
    return this.files.get(name)![this.fontsOf(name)!.indexOf(font)]!;
  }
}

/** How far texts run in the letters of a book, ems. */
export function measureBy(fonts: Fonts): Measure {
  let measure = measures.get(fonts);
  if (!measure) measures.set(fonts, (measure = (font, text) => fonts.advance(font, text, 1)));
  return measure;
}
// The same one for the same book: what was drawn with it is known by it.
const measures = new WeakMap<Fonts, Measure>();

/** The library's commands have y downwards. */
const stepOf = (command: opentype.PathCommand): GlyphStep => {
  if (command.type === 'Z') return { type: 'Z', points: [] };
  const to: Point = [command.x, -command.y];
  if (command.type === 'C') return { type: 'C', points: [[command.x1, -command.y1], [command.x2, -command.y2], to] };
  return { type: command.type, points: command.type === 'Q' ? [[command.x1, -command.y1], to] : [to] };
};
