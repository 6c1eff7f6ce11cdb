import {
  type ClipShape,
  type DrawingSink,
  type DrawnPicture,
  type Fonts,
  type Matrix,
  NO_EFFECTS,
  type Outline,
  type Paint,
  PathStore,
  type Style,
  apply,
  invert,
  outlineAt,
} from '@inkwell-twin/core';
import { CROPPED, ONE_SHAPE } from '../content';
import { asInked } from './inked';
import { unpack } from './packed-paths';
import { fittedSpacing } from './words';
import type { Clipping, GroupNode, Node, PathNode, PictureNode, ReadPaint, ReadStyle, ShadeNode, TextNode } from './nodes';

/** Tells a sink what was read, in the axes of the board. */
export class Emitter {
  private readonly paths = new PathStore();
  private readonly layers = new Map<string | null, number>();
  private readonly plain = new WeakMap<ReadStyle, Style>();
  private cells = 0;

  constructor(
    private readonly sink: DrawingSink,
    private readonly named: ReadonlyMap<string, { readonly name: string; readonly visible: boolean }>,
    private readonly pictures: ReadonlyMap<unknown, DrawnPicture>,
    private readonly note: (kind: string) => void,
    private readonly page: Clipping,
    private readonly fonts?: Fonts,
  ) {}

  private layer(id: string | null): number {
    let number = this.layers.get(id);
    if (number === undefined) {
      const { name, visible } = (id !== null && this.named.get(id)) || { name: '', visible: true };
      const stated = { name: name || 'Drawing', colour: '#000000', visible, locked: false, process: 'print' } as const;
      this.layers.set(id, (number = this.sink.layer(stated)));
    }
    return number;
  }

  emit(nodes: readonly Node[]): void {
    for (const node of nodes) this.one(node);
  }

  private one(node: Node): void {
    if (node.kind === 'group') this.group(node);
    else if (node.kind === 'path') this.path(node);
    else if (node.kind === 'text') this.text(node);
    else if (node.kind === 'picture') this.picture(node, WHOLE);
    else this.path(pathOf(node, this.page));
  }

  private group(node: GroupNode): void {
    if (node.by === 'mark') return this.mark(node);
    const merged = together(node);
    const { clip, opacity, blend, mask } = merged;
    if (!merged.nodes.length) return;
    const symbol = mask && this.sink.define('mask', null, 'Mask', () => this.emit(mask.nodes));
    const layer = layerIn(merged.nodes) ?? null;
    // Colours that fill what they are clipped to are a shape of that area.
    const [shade] = merged.nodes;
    const painted = clip && merged.nodes.length === 1 && shade?.kind === 'shade' ? pathOf(shade, clip) : null;
    const effects = {
      ...NO_EFFECTS,
      opacity,
      blend,
      clip: clip && !painted ? [this.area(clip)] : null,
      mask: mask && { kind: mask.kind, symbol: symbol! },
    };
    this.sink.group(this.layer(layer), undefined, effects, () => (painted ? this.path(painted) : this.emit(merged.nodes)));
  }

  /** What marks of ours hold together; others say nothing. */
  private mark({ tag, nodes }: GroupNode): void {
    const [first, second] = nodes;
    if (
      tag === ONE_SHAPE &&
      nodes.length === 2 &&
      first &&
      second &&
      'style' in first &&
      'style' in second &&
      inOnePlace(first, second)
    ) {
      const { fill, fillRule, fillOpacity } = first.style;
      const style: ReadStyle = { ...second.style, fill, fillRule, fillOpacity };
      if (first.kind === 'path') return this.path({ ...first, style });
      return this.text({ ...first, style });
    }
    if (tag === CROPPED && nodes.length === 1 && first?.kind === 'group' && first.clip && first.nodes.length === 1) {
      const [inside] = first.nodes;
      const crop = inside?.kind === 'picture' ? cropOf(this.area(first.clip), inside.at) : null;
      if (crop) return this.picture(inside as PictureNode, crop);
    }
    this.emit(nodes);
  }

  private area({ data, at, rule }: Clipping): ClipShape {
    const store = new PathStore();
    const flat = new PathStore();
    unpack(data, flat);
    for (let o = 0; o < flat.count; o++) store.append(flat, o, at);
    const outlines = Array.from({ length: store.count }, (_, o) => outlineAt(store, o));
    return { outlines: outlines as ClipShape['outlines'], rule };
  }

  private paint(paint: ReadPaint | null): Paint | null {
    if (paint === null || typeof paint === 'string') return paint;
    if (paint.kind === 'shading') return UNSAID;
    if (paint.kind !== 'pattern') return { ...paint, within: 'item' };
    const { width, height, at, nodes } = paint;
    const symbol = this.sink.define('cell', `pattern ${this.cells++}`, 'Pattern', () => this.emit(nodes));
    return { kind: 'pattern', symbol, width, height, at };
  }

  private style(style: ReadStyle): Style {
    let made = this.plain.get(style);
    if (!made) this.plain.set(style, (made = { ...style, fill: this.paint(style.fill), stroke: this.paint(style.stroke) }));
    return made;
  }

  private path({ data, at, style, layer }: PathNode): void {
    // What it is painted with may have to be told first.
    const look = this.style(style);
    this.paths.clear();
    unpack(data, this.paths);
    if (this.paths.count) this.sink.path(this.paths, at, this.layer(layer), look, 'path', undefined);
  }

  private text(node: TextNode): void {
    const inked = asInked(node, this.fonts);
    if (inked) return this.path(inked);
    const { text, at, size, spacing, font, style, layer } = node;
    const fitted =
      node.along !== undefined && this.fonts && size > 0
        ? fittedSpacing(this.fonts, font, text, node.along / size)
        : spacing / size;
    const apart = fitted && size > 0 ? { spacing: fitted } : {};
    const words = { text, x: 0, y: 0, size, font, align: 'start', ...apart, transform: at } as const;
    this.sink.text(words, this.layer(layer), this.style(style), undefined);
  }

  private picture({ name, inline, at, opacity, layer }: PictureNode, crop: typeof WHOLE): void {
    const picture = this.pictures.get(inline ?? name);
    if (!picture) return this.note('picture of a kind that is not known');
    this.sink.picture(picture, at, crop, this.layer(layer), opacity, undefined);
  }
}

/** Whether two things are drawn along the same outline, or are the same words: a mark can be around anything. */
function inOnePlace(one: PathNode | TextNode, other: PathNode | TextNode): boolean {
  const alike = (a: ArrayLike<number>, b: ArrayLike<number>) =>
    a.length === b.length && Array.prototype.every.call(a, (value: number, i: number) => Math.abs(value - b[i]!) <= SQUARE);
  if (one.layer !== other.layer || !alike(one.at, other.at)) return false;
  if (one.kind === 'path') return other.kind === 'path' && alike(numbersOf(one.data), numbersOf(other.data));
  if (other.kind === 'path' || one.text !== other.text || one.font !== other.font) return false;
  const places = ({ size, spacing, line }: TextNode) => [size, spacing, ...(line?.letters.flatMap(({ x, y }) => [x, y]) ?? [])];
  return alike(places(one), places(other));
}

/** Outlines as a list of numbers. */
function numbersOf(data: Float32Array): number[] {
  const store = new PathStore();
  unpack(data, store);
  return Array.from({ length: store.count }, (_, o) => outlineAt(store, o)).flatMap(({ start, segments, closed }) => [
    ...[closed ? 1 : 0, segments.length, ...start],
    ...segments.flatMap((one) => (one.kind === 'cubic' ? [...one.c1, ...one.c2, ...one.to] : one.to)),
  ]);
}

/** What stands for a paint that can’t be said where it is met. */
const UNSAID = '#808080';
const WHOLE = { left: 0, bottom: 0, right: 1, top: 1 };

/** An area filled with colours. */
const pathOf = ({ gradient, layer }: ShadeNode, { data, at, rule }: Clipping): PathNode => ({
  kind: 'path',
  data,
  at,
  style: { fill: gradient, fillRule: rule, stroke: null, strokeWidth: 0 },
  layer,
});

/** A clip and what alone is in it are one; so is what does nothing around one thing. */
function together(node: GroupNode): GroupNode {
  const [only] = node.nodes;
  if (node.nodes.length !== 1 || only?.kind !== 'group' || only.by !== 'form' || node.by !== 'clip' || only.clip) return node;
  return { ...only, clip: node.clip };
}

/** The layer of the first thing that is drawn. */
function layerIn(nodes: readonly Node[]): string | null | undefined {
  for (const node of nodes) {
    const found = node.kind === 'group' ? layerIn(node.nodes) : node.layer;
    if (found !== undefined) return found;
  }
  return undefined;
}

/** What part of a picture an area shows; null where the area is no rectangle of it. */
function cropOf({ outlines }: ClipShape, at: Matrix): typeof WHOLE | null {
  const [back, outline] = [invert(at), outlines[0] as Outline | undefined];
  if (!outline || outlines.length > 1 || !back || outline.segments.some(({ kind }) => kind !== 'line')) return null;
  const corners = [outline.start, ...outline.segments.map(({ to }) => to)];
  const shares = corners.map((corner) => apply(back, corner));
  const near = (share: number) => (Math.abs(share) < 1e-6 ? 0 : Math.abs(share - 1) < 1e-6 ? 1 : share);
  const [xs, ys] = [shares.map(([x]) => near(x)), shares.map(([, y]) => near(y))];
  const crop = { left: Math.min(...xs), right: Math.max(...xs), bottom: Math.min(...ys), top: Math.max(...ys) };
  const { left, bottom, right, top } = crop;
  const wanted = [apply(at, [left, bottom]), apply(at, [right, bottom]), apply(at, [right, top]), apply(at, [left, top])];
  // All four corners are there, and there is nothing else.
  const met = new Set(
    corners.map((corner) => wanted.findIndex((one) => Math.hypot(one[0] - corner[0], one[1] - corner[1]) < SQUARE)),
  );
  return met.size === 4 && !met.has(-1) ? crop : null;
}
/** How far a corner of a crop may be from where it belongs, mm: what writing it rounds. */
const SQUARE = 0.002;
