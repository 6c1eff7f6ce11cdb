import type * as Library from '@cantoo/pdf-lib';
import { Failure } from '@inkwell-twin/core';
import { unpackedUpTo } from './unpacked';
import type { Whole } from './whole';

/** Letters of instructions that are read of a file, each counted as often as it is drawn. */
const MOST = 100_000_000;
/** Letters that each use counts besides. */
const USE = 50;
/** How deep drawings, masks and patterns may lie in each other, and states be saved. */
const DEEPEST_USE = 100;
const DEEPEST_STATE = 2000;

type Value = Library.PDFObject | undefined;
type Dictionary = Library.PDFDict | undefined;

const tooLarge = (what: string, help: string): Failure => new Failure('pdf-too-large', `The PDF ${what}. ${help}`);
const SIMPLER = 'Save its pages anew from the program that they were drawn in, with less in them, and take that.';
const endless = (): Failure => tooLarge('has a drawing, a mask or a pattern that is made of itself', SIMPLER);

/** Adds up how long the instructions of a file are where everything that they use stands in the place where it is used. */
class Unfolding {
  /** Lengths that are known, by the resources that names are looked up in. */
  private readonly lengths = new Map<Dictionary, Map<Value, number>>();
  private readonly open = new Set<Value>();
  private readonly pages = new Set<Value>();
  private total = 0;
  /** What readers take as they like. */
  readonly odd = new Set<string>();

  constructor(private readonly whole: Whole) {}

  private readonly found = (value: Value): Value => this.whole.context.lookup(value);

  private dictionary(value: Value): Dictionary {
    const { lib } = this.whole;
    const held = this.found(value);
    if (held instanceof lib.PDFStream) return held.dict;
    return held instanceof lib.PDFDict ? held : undefined;
  }

  private entry(dictionary: Dictionary, key: string): Value {
    return dictionary?.get(this.whole.lib.PDFName.of(key));
  }

  private list(value: Value): readonly Value[] {
    const held = this.found(value);
    return held instanceof this.whole.lib.PDFArray ? held.asArray() : [held];
  }

  private add(length: number): number {
    if (length > MOST)
      throw tooLarge(
        `has drawings, masks or patterns in each other that come to more than ${MOST / 1e6} million letters`,
        SIMPLER,
      );
    return length;
  }

  /** Pages of a node of the tree of pages. */
  tree(node: Dictionary, inherited: Dictionary, depth: number): void {
    if (!node || depth > DEEPEST_USE || this.pages.has(node)) return;
    this.pages.add(node);
    const resources = this.dictionary(this.entry(node, 'Resources')) ?? inherited;
    const kids = this.entry(node, 'Kids');
    if (kids) for (const kid of this.list(kids)) this.tree(this.dictionary(kid), resources, depth + 1);
    else {
      const written = this.list(this.entry(node, 'Contents')).map((one) => this.text(one));
      this.total = this.add(this.total + this.length(written.join('\n'), resources, 0));
      for (const note of this.list(this.entry(node, 'Annots'))) this.appearance(this.dictionary(note));
    }
  }

  /** What a note on the page looks like: one drawing, or one for each of its states. */
  private appearance(note: Dictionary): void {
    const shown = this.entry(this.dictionary(this.entry(note, 'AP')), 'N');
    const states = this.found(shown) instanceof this.whole.lib.PDFDict ? this.dictionary(shown)!.values() : [shown];
    for (const state of states) this.total = this.add(this.total + this.drawing(state, undefined, 0));
  }

  /** Instructions as text; empty where there are none, or they are packed in a way that instructions can't be packed in. */
  private text(value: Value): string {
    const { lib } = this.whole;
    const stream = this.found(value);
    if (!(stream instanceof lib.PDFRawStream)) return '';
    for (const parms of this.list(this.entry(stream.dict, 'DecodeParms'))) {
      const predictor = this.found(this.entry(this.dictionary(parms), 'Predictor'));
      if (predictor instanceof lib.PDFNumber && predictor.asNumber() > 1)
        throw tooLarge(
          'has instructions that are packed by the differences of rows, as pictures are',
          'Save it again, and take that.',
        );
    }
    let bytes: Buffer;
    try {
      bytes = unpackedUpTo(lib, stream, MOST - this.total);
    } catch {
      return '';
    }
    this.add(this.total + bytes.length);
    return bytes.toString('latin1');
  }

  /** Length of a drawing, the cell of a pattern, or a letter. */
  private drawing(value: Value, around: Dictionary, depth: number): number {
    const stream = this.found(value);
    if (!(stream instanceof this.whole.lib.PDFStream)) return 0;
    const resources = this.dictionary(this.entry(stream.dict, 'Resources')) ?? around;
    const known = this.lengths.get(resources) ?? new Map<Value, number>();
    this.lengths.set(resources, known);
    const before = known.get(stream);
    if (before !== undefined) return before;
    if (this.open.has(stream)) throw endless();
    if (depth > DEEPEST_USE) throw tooLarge(`has drawings that lie in each other more than ${DEEPEST_USE} deep`, SIMPLER);
    this.open.add(stream);
    const length = this.length(this.text(value), resources, depth);
    this.open.delete(stream);
    known.set(stream, length);
    return length;
  }

  /** Length of instructions with all that they name: every mention of a name counts as a use of what it may mean. */
  private length(text: string, resources: Dictionary, depth: number): number {
    assertShallow(text);
    if (EXPONENT.test(text) && EXPONENT.test(text.replace(WORDS, ' '))) this.odd.add('number with an exponent');
    let length = text.length;
    const uses = new Map<string, number>();
    for (const [, name] of text.matchAll(/\/([^\s/<>()[\]{}%]+)/g)) uses.set(name!, (uses.get(name!) ?? 0) + 1);
    const kinds = Object.entries(USED).map(
      ([kind, lengthOf]) => [this.dictionary(this.entry(resources, kind)), lengthOf] as const,
    );
    for (const [name, count] of uses)
      for (const [kind, lengthOf] of kinds) {
        const value = this.entry(kind, name);
        if (value) length = this.add(length + count * (USE + lengthOf(this, value, resources, depth + 1)));
      }
    return length;
  }

  // What the kinds of resources are made of.

  form(value: Value, around: Dictionary, depth: number): number {
    const kind = this.found(this.entry(this.dictionary(value), 'Subtype'));
    return kind === this.whole.lib.PDFName.of('Form') ? this.drawing(value, around, depth) : 0;
  }

  mask(value: Value, around: Dictionary, depth: number): number {
    const mask = this.dictionary(this.entry(this.dictionary(value), 'SMask'));
    return this.drawing(this.entry(mask, 'G'), around, depth);
  }

  cell(value: Value, around: Dictionary, depth: number): number {
    return this.drawing(value, around, depth);
  }

  letters(value: Value, around: Dictionary, depth: number): number {
    const font = this.dictionary(value);
    const resources = this.dictionary(this.entry(font, 'Resources')) ?? around;
    const letters = this.dictionary(this.entry(font, 'CharProcs'))?.values() ?? [];
    return letters.reduce((sum, one) => this.add(sum + this.drawing(one, resources, depth)), 0);
  }
}

/** Resources that are made of instructions (ISO 32000-1, 7.8.3), and how long those are. */
const USED: Readonly<Record<string, (unfolding: Unfolding, value: Value, around: Dictionary, depth: number) => number>> = {
  XObject: (unfolding, ...one) => unfolding.form(...one),
  ExtGState: (unfolding, ...one) => unfolding.mask(...one),
  Pattern: (unfolding, ...one) => unfolding.cell(...one),
  Font: (unfolding, ...one) => unfolding.letters(...one),
};

/** Numbers have no exponents (ISO 32000-1, 7.3.3). */
const EXPONENT = /(?<=^|[\s[])[+-]?(?:\d+(?:\.\d*)?|\.\d+)[eE][+-]?\d+(?=$|[\s\]])/;
const WORDS = /\((?:\\[^]|[^\\()])*\)/g;

/** @throws Failure `pdf-too-large` where more states are saved in each other than any drawing needs */
function assertShallow(text: string): void {
  let depth = 0;
  for (const [word] of text.matchAll(/(?<![^\s])[qQ](?![^\s])/g)) {
    depth = Math.max(0, depth + (word === 'q' ? 1 : -1));
    if (depth > DEEPEST_STATE) throw tooLarge(`saves its state more than ${DEEPEST_STATE} times without going back`, SIMPLER);
  }
}

/**
 * Refuses a file whose drawing is far larger than it: its drawings, masks, patterns and letters are counted as often as they are
 * drawn, before anything draws them.
 * @returns words for what readers take as they like
 * @throws Failure `pdf-too-large`
 */
export function unfolded(whole: Whole): ReadonlySet<string> {
  const pages = whole.catalog.get(whole.lib.PDFName.of('Pages'));
  const root = whole.context.lookup(pages);
  const unfolding = new Unfolding(whole);
  if (root instanceof whole.lib.PDFDict) unfolding.tree(root, undefined, 0);
  return unfolding.odd;
}
