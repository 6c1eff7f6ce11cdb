import type { Drawing, DrawnUse } from '../../contracts/drawing';
import { outlineAt } from '../../base/geometry/paths';
import type { Matrix } from '../../base/geometry/matrix';
import { isUpright } from '../../base/geometry/matrix';
import type { Outline } from '../../base/geometry/outline';
import { digest } from '../../base/bytes/hasher';
import type { DrawnPicture } from '../../contracts/drawn-picture';
import { isPicture } from '../../document/paint';
import type { Document2, Item2, Package2 } from '../../document/native/v2/schema';

type Group2 = Extract<Item2, { kind: 'group' }>;
type Path2 = Extract<Item2, { kind: 'path' }>;

/** Of a layer that says no colour, and of the only one where nothing is on any. */
const INK = '#14213a';

/** Numbers to a millionth of a millimetre: what is nothing is 0. */
const n = (value: number): number => Math.round(value * 1e6) / 1e6 + 0;
const matrix = (at: Matrix): [number, number, number, number, number, number] =>
  at.map((value) => Number(value.toPrecision(12))) as [number, number, number, number, number, number];

const outlines2 = (outlines: readonly Outline[]): Path2['outlines'] =>
  outlines.map(({ start, segments, closed }) => ({
    start: [n(start[0]), n(start[1])],
    closed,
    segments: segments.map((segment) => {
      const to: [number, number] = [n(segment.to[0]), n(segment.to[1])];
      // Arcs are curves by now.
      if (segment.kind !== 'cubic') return { line: to };
      const { c1, c2 } = segment;
      return { curve: [n(c1[0]), n(c1[1]), n(c2[0]), n(c2[1]), ...to] };
    }),
  }));

/** A sheet of a copy. */
interface Sheet {
  readonly label: string;
  readonly drawing: Drawing;
}

/** Makes a document of version 2 of what a copy says. */
export class Document2Maker {
  private readonly layers = new Map<string, Document2['layers'][number]>();
  private readonly symbols: Document2['symbols'] = [];
  private readonly symbolOf = new Map<string, string>();
  private readonly pictures = new Map<string, Document2['pictures'][number]>();
  private readonly bytes = new Map<string, Uint8Array>();
  private items = 0;

  /** @param about id, title and owner of the document, and of which revision it is */
  make(sheets: readonly Sheet[], { id, title, rev, time }: { id: string; title: string; rev: number; time: string }): Package2 {
    const boards = sheets.map(({ label, drawing }, i) => ({
      id: `board-${i + 1}`,
      name: label.slice(0, 200) || 'Board',
      width: n(drawing.sheet!.width),
      height: n(drawing.sheet!.height),
      background: drawing.background,
      items: this.itemsOf(drawing, this.layersOf(drawing)),
    }));
    if (!this.layers.size) this.layer('Layer', INK);
    const document: Document2 = {
      id,
      title,
      owner: '',
      layers: [...this.layers.values()],
      symbols: this.symbols,
      boards,
      pictures: [...this.pictures.values()],
    };
    return { document, rev, time, pictures: this.bytes };
  }

  private layer(name: string, colour: string | null): string {
    let layer = this.layers.get(name);
    if (!layer) {
      const id = `layer-${this.layers.size + 1}`;
      layer = { id, name: name.slice(0, 200) || 'Layer', colour: colour ?? INK, visible: true, process: 'print' };
      this.layers.set(name, layer);
    }
    return layer.id;
  }
  private layersOf({ layers }: Drawing): (entry: number) => string | null {
    const ids = layers.map(({ name, colour }) => this.layer(name, colour));
    return (number) => ids[number]!;
  }

  private readonly base = (layer: string | null) => ({ id: `i${++this.items}`, layer });

  private itemsOf(drawing: Drawing, on: (layer: number) => string | null): Item2[] {
    const { spans, uses, count } = drawing;
    const all: Item2[] = [];
    const open: { end: number; items: Item2[] }[] = [{ end: Infinity, items: all }];
    let [at, used] = [0, 0];
    for (let i = 0; i < count; i++) {
      const use = uses[used]?.first === i ? uses[used++] : undefined;
      const layer = on(drawing.layer[i]!);
      for (; spans[at]?.first === i; at++) {
        const span = spans[at]!;
        // Those of a symbol stand in the symbol.
        if (use && span.end <= use.end) continue;
        const group: Group2 = { kind: 'group', ...this.base(layer), opacity: span.opacity, items: [] };
        open.at(-1)!.items.push(group);
        open.push({ end: span.end, items: group.items });
      }
      if (use) {
        open.at(-1)!.items.push(this.use(use, drawing, layer));
        i = use.end - 1;
        while (spans[at] && spans[at]!.first <= i) at++;
      } else open.at(-1)!.items.push(this.item(drawing, i, layer));
      while (open.at(-1)!.end === i + 1) open.pop();
    }
    return all;
  }

  private use({ cell, at, name }: DrawnUse, { cells }: Drawing, layer: string | null): Item2 {
    let symbol = this.symbolOf.get(cell);
    if (symbol === undefined) {
      // Inner symbols come before those that use them.
      const items = this.itemsOf(cells[cell]!, () => null);
      symbol = `symbol-${this.symbols.length + 1}`;
      this.symbolOf.set(cell, symbol);
      this.symbols.push({ id: symbol, name: name.slice(0, 200) || 'Symbol', anchor: [0, 0], items });
    }
    return { kind: 'use', ...this.base(layer), name: name.slice(0, 200), transform: matrix(at), symbol };
  }

  private item(drawing: Drawing, i: number, layer: string | null): Item2 {
    const { fill, stroke, strokeWidth, opacity } = drawing.looks[drawing.look[i]!]!;
    const words = drawing.texts[drawing.text[i]!];
    if (isPicture(fill)) return this.picture(fill.at, drawing.pictures[fill.picture]!, opacity, layer);
    const base = this.base(layer);
    if (words) {
      const { frame, text, size, font } = words;
      const [a, b, c, d, e, f] = frame;
      const straight = Math.abs(a - 1) + Math.abs(b) + Math.abs(c) + Math.abs(d - 1) < 1e-9;
      const place = straight ? { x: n(e), y: n(f) } : { x: 0, y: 0, transform: matrix(frame) };
      const look = { fill: fill as string, opacity, bold: font === 'Commissioner Bold' };
      return { kind: 'text', ...base, ...look, text, size: n(size), ...place };
    }
    const outlines: Outline[] = [];
    for (let o = drawing.firstOutline[i]!; o < drawing.firstOutline[i + 1]!; o++) outlines.push(outlineAt(drawing.paths, o));
    const look = { fill: fill as string | null, stroke: stroke as string | null, width: n(strokeWidth), opacity };
    return { kind: 'path', ...base, ...look, outlines: outlines2(outlines) };
  }

  private picture(at: Matrix, { bytes, mediaType, width, height }: DrawnPicture, opacity: number, layer: string | null): Item2 {
    const sha = digest(bytes);
    if (!this.bytes.has(sha)) {
      this.bytes.set(sha, bytes);
      this.pictures.set(sha, { sha256: sha, name: `Picture ${this.pictures.size + 1}`, mediaType, width, height });
    }
    const [a, b, c, d, e, f] = at;
    const [across, up] = [Math.hypot(a, b), Math.hypot(c, d)];
    const place = isUpright(at)
      ? { x: n(e), y: n(f) }
      : { x: 0, y: 0, transform: matrix([a / across, b / across, c / up, d / up, e, f]) };
    return { kind: 'picture', ...this.base(layer), opacity, picture: sha, ...place, width: n(across), height: n(up) };
  }
}
