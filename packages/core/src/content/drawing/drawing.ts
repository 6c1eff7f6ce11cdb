import { hasher } from '../../base/bytes/hasher';
import type { DrawnPicture } from '../../contracts/drawn-picture';
import { SourceList } from '../../contracts/source-list';
import { Growing } from '../../base/bytes/growing';
import type { Matrix } from '../../base/geometry/matrix';
import type { Outline } from '../../base/geometry/outline';
import { type DisplayEntry, type DisplayList, type DisplayStyle, styleKey } from '../../contracts/display-list';
import { digestDrawing } from './digest';
import type { Drawing, DrawnUse, Words } from '../../contracts/drawing';
import { PathStore, outlineAt } from '../../base/geometry/paths';
import { type Span, type SpanLook, isPlainSpan, onlyOpacity, spansInOrder } from '../../contracts/spans';

/** The master's object that an entry comes from, or null. */
export const sourceAt = ({ source, sources }: Drawing, entry: number): string | null => sources[source[entry]!] ?? null;

/** Entry number `i` as an object. */
export function entryAt(drawing: Drawing, i: number): DisplayEntry {
  const source = sourceAt(drawing, i);
  const placed = {
    layer: drawing.layers[drawing.layer[i]!]!.name,
    style: drawing.looks[drawing.look[i]!]!,
    ...(source === null ? {} : { source }),
  };
  const words = drawing.texts[drawing.text[i]!];
  if (words) return { kind: 'text', ...words, ...placed };
  const outlines: Outline[] = [];
  for (let o = drawing.firstOutline[i]!; o < drawing.firstOutline[i + 1]!; o++) outlines.push(outlineAt(drawing.paths, o));
  return { kind: 'path', outlines, ...placed };
}

/** A drawing with an object for each entry. */
export function unpackDrawing(drawing: Drawing): DisplayList {
  const { sheet, background, layers, count } = drawing;
  const entries = Array.from({ length: count }, (_, i) => entryAt(drawing, i));
  return { kind: 'display-list', sheet, background, layers, entries };
}

/** A display list packed. */
export function packDrawing({ sheet, background, layers, entries }: DisplayList): Drawing {
  const builder = new DrawingBuilder();
  for (const { name, colour } of layers) builder.layer(name, colour);
  for (const entry of entries) {
    const [layer, look] = [builder.layer(entry.layer), builder.look(entry.style)];
    if (entry.kind === 'text') builder.words(entry, layer, look, entry.source);
    else {
      for (const outline of entry.outlines) builder.paths.add(outline);
      builder.path(layer, look, entry.source);
    }
  }
  return builder.finish(sheet, background, true);
}

/** A word for what a drawing says, to a thousandth of a millimetre. */
function cellName(drawing: Drawing): string {
  let name = cellNames.get(drawing);
  if (name === undefined) {
    const hash = hasher();
    digestDrawing(drawing, hash);
    cellNames.set(drawing, (name = hash.hex().slice(0, 16)));
  }
  return name;
}
const cellNames = new WeakMap<Drawing, string>();

/** Takes in a drawing entry by entry: outlines go into `paths` first, then `path` makes an entry of them. */
export class DrawingBuilder {
  readonly paths = new PathStore();
  private readonly layers: { name: string; colour: string | null }[] = [];
  private readonly layerByName = new Map<string, number>();
  private readonly looks: DisplayStyle[] = [];
  private readonly lookByKey = new Map<string, number>();
  private readonly lookByStyle = new WeakMap<DisplayStyle, number>();
  private readonly texts: Words[] = [];
  private readonly layerOf = new Growing(Uint32Array);
  private readonly lookOf = new Growing(Uint32Array);
  private readonly firstOutline = new Growing(Uint32Array);
  private readonly textOf = new Growing(Int32Array);
  private readonly sourceOf = new Growing(Int32Array);
  private readonly sources = new SourceList();
  private readonly open: { readonly look: SpanLook; readonly first: number }[] = [];
  private readonly spans: Span[] = [];
  private readonly cells: Record<string, Drawing> = {};
  private readonly pictures: Record<string, DrawnPicture> = {};
  private readonly uses: DrawnUse[] = [];

  constructor() {
    this.firstOutline.push(0);
  }

  get count(): number {
    return this.layerOf.length;
  }

  /** The number of a layer by its name; a colour given later than the name is taken over. */
  layer(name: string, colour: string | null = null): number {
    let at = this.layerByName.get(name);
    if (at === undefined) {
      at = this.layers.push({ name, colour }) - 1;
      this.layerByName.set(name, at);
    } else if (colour !== null) this.layers[at]!.colour ??= colour;
    return at;
  }

  look(style: DisplayStyle): number {
    let at = this.lookByStyle.get(style);
    if (at !== undefined) return at;
    const key = styleKey(style);
    at = this.lookByKey.get(key);
    if (at === undefined) {
      at = this.looks.push(style) - 1;
      this.lookByKey.set(key, at);
    }
    this.lookByStyle.set(style, at);
    return at;
  }

  /** Begins what is laid down as one. */
  begin(look: SpanLook): void {
    this.open.push({ look, first: this.count });
  }

  /**
   * Ends what was begun last. What lets one thing only show through is said of that thing, and what two spans do to the same
   * things is said by one, where that is no different: the same on either side of a file.
   */
  end(): void {
    const { look, first } = this.open.pop()!;
    const end = this.count;
    if (first === end || isPlainSpan(look)) return;
    const inner = this.spans.at(-1);
    const same = inner?.first === first && inner.end === end;
    // What mixes inside must not reach through what holds it, and two areas or masks are not one.
    if (same && inner.blend === 'normal' && !(inner.clip && look.clip) && !(inner.mask && look.mask)) {
      const [clip, mask] = [inner.clip ?? look.clip, inner.mask ?? look.mask];
      const opacity = inner.opacity * this.ofOne(first, end, look.opacity);
      this.spans[this.spans.length - 1] = { first, end, opacity, blend: look.blend, clip, mask };
      return;
    }
    if (onlyOpacity(look) && same) this.spans.push({ ...look, first, end });
    else {
      const opacity = this.ofOne(first, end, look.opacity);
      if (!onlyOpacity(look) || opacity < 1) this.spans.push({ ...look, opacity, first, end });
    }
  }

  /** A share that one thing only shows through by, taken over by that. @returns what is left to be said of the span */
  private ofOne(first: number, end: number, opacity: number): number {
    if (end - first > 1 || opacity >= 1) return opacity;
    const style = this.looks[this.lookOf.data[first]!]!;
    this.lookOf.data[first] = this.look({ ...style, opacity: style.opacity * opacity });
    return 1;
  }

  /** Takes in a drawing that patterns or masks need. @returns the word for it */
  cell(drawing: Drawing): string {
    const name = cellName(drawing);
    this.cells[name] = drawing;
    return name;
  }

  /** Says that the entries since `first` are a cell that is used; nothing where there are none. */
  use(first: number, cell: string, at: Matrix, name: string): void {
    if (first < this.count) this.uses.push({ first, end: this.count, cell, at, name });
  }

  /** Takes in a picture that is shown. @returns the word for it */
  picture(picture: DrawnPicture): string {
    this.pictures[picture.word] = picture;
    return picture.word;
  }

  private entry(layer: number, look: number, text: number, source: string | undefined): void {
    this.layerOf.push(layer);
    this.lookOf.push(look);
    this.textOf.push(text);
    this.firstOutline.push(this.paths.count);
    this.sourceOf.push(this.sources.numberOf(source));
  }

  /** An entry of the outlines that came since the last one. */
  path(layer: number, look: number, source?: string): void {
    this.entry(layer, look, -1, source);
  }

  words({ text, frame, size, font, align, spacing }: Words, layer: number, look: number, source?: string): void {
    // A letter and its accent apart are the letter with it: the same text (UAX #15, D2).
    const words = { text: text.normalize('NFC'), frame, size, font, align, ...(spacing ? { spacing } : {}) };
    this.entry(layer, look, this.texts.push(words) - 1, source);
  }

  /** @param all keeps layers that nothing is on */
  finish(sheet: Drawing['sheet'], background: string | null, all = false): Drawing {
    const layer = this.layerOf.taken();
    const used = new Uint8Array(this.layers.length);
    for (const number of layer) used[number] = 1;
    const kept = this.layers.map((_, i) => i).filter((i) => all || used[i]);
    const renumbered = new Map(kept.map((old, i) => [old, i]));
    if (kept.length < this.layers.length) layer.forEach((old, i) => (layer[i] = renumbered.get(old)!));
    return {
      sheet,
      background,
      layers: kept.map((i) => this.layers[i]!),
      looks: this.looks,
      texts: this.texts,
      count: layer.length,
      layer,
      look: this.lookOf.taken(),
      firstOutline: this.firstOutline.taken(),
      text: this.textOf.taken(),
      source: this.sourceOf.taken(),
      sources: this.sources.names,
      paths: this.paths.taken(),
      spans: spansInOrder(this.spans),
      uses: this.uses,
      cells: this.cells,
      pictures: this.pictures,
    };
  }
}
