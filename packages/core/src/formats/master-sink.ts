import { AROUND, type DrawingSink, type StatedEffects, type StatedLayer, type StatedText } from '../content/drawing/sink';
import { type Paths, outlineAt } from '../base/geometry/paths';
import { asCircle } from '../base/geometry/arcs';
import { type Matrix, identity, isUpright, multiply } from '../base/geometry/matrix';
import { type Outline, transformOutline } from '../base/geometry/outline';
import type { Point } from '../base/geometry/point';
import { digest } from '../base/bytes/hasher';
import type { Crop } from '../document/corrections';
import type { DrawnPicture } from '../contracts/drawn-picture';
import type { Budget } from '../document/limits';
import type { Board, Item, Layer, PathItem, PictureItem, Resource, Style, SymbolDefinition } from '../document/schema';

/** How shapes of a format become items that are easier to go on with than paths; by what the format calls them. */
type Liking = (outlines: readonly Outline[], upright: boolean) => object | undefined;

const LIKINGS: Readonly<Record<string, Liking>> = {
  circle: ([outline]) => {
    const circle = asCircle(outline!);
    return circle && { kind: 'ellipse', cx: circle.centre[0], cy: circle.centre[1], rx: circle.radius, ry: circle.radius };
  },
  rect: ([outline], upright) => {
    const points = [outline!.start, ...outline!.segments.map(({ to }) => to)];
    if (!upright || points.length !== 4) return undefined;
    const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
    const [x, y] = [Math.min(...xs), Math.min(...ys)];
    return { kind: 'rectangle', x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y, radius: 0 };
  },
  polyline: ([outline]) => polyline(outline!),
  polygon: ([outline]) => polyline(outline!),
  line: ([outline]) => polyline(outline!),
};
const polyline = ({ start, segments, closed }: Outline) => ({
  kind: 'polyline',
  points: [start, ...segments.map(({ to }) => to)],
  closed,
});

/** Makes a document of what a reader tells: groups stay groups, uses become uses of symbols. */
export class MasterSink implements DrawingSink {
  readonly boards: Board[] = [];
  readonly layers: Layer[] = [];
  private readonly made = new Map<string, SymbolDefinition | null>();
  readonly pictures: Resource[] = [];
  /** Bytes of the pictures. */
  readonly resources = new Map<string, Uint8Array>();
  private readonly shas = new WeakMap<DrawnPicture, string>();
  private items: Item[] = [];

  /** @param prefix of the ids of items */
  constructor(
    private readonly budget: Budget,
    private readonly prefix: string,
    private readonly likings = LIKINGS,
  ) {}

  get symbols(): SymbolDefinition[] {
    return [...this.made.values()].filter((symbol): symbol is SymbolDefinition => symbol !== null);
  }

  page(label: string, width: number, height: number, background: string | null): void {
    this.items = [];
    this.boards.push({ id: `board-${this.boards.length + 1}`, name: label, width, height, background, items: this.items });
  }

  layer(layer: StatedLayer): number {
    return this.layers.push({ id: `layer-${this.layers.length + 1}`, ...layer, name: layer.name.slice(0, 200) }) - 1;
  }

  private base(layer: number, name: string | undefined) {
    return {
      id: `${this.prefix}${this.budget.object()}`,
      layer: layer === AROUND ? null : this.layers[layer]!.id,
      ...(name ? { name } : {}),
    };
  }

  /** What is told inside, as a list of its own. */
  private gathered(inside: () => void): Item[] {
    const around = this.items;
    const items: Item[] = (this.items = []);
    try {
      inside();
    } finally {
      this.items = around;
    }
    return items;
  }

  group(layer: number, name: string | undefined, effects: StatedEffects, inside: () => void): void {
    const items = this.gathered(inside);
    if (!items.length) return;
    const { opacity, blend, clip, mask } = effects;
    this.items.push({
      kind: 'group',
      ...this.base(layer, name),
      ...(opacity < 1 ? { opacity } : {}),
      ...(blend && blend !== 'normal' ? { blend } : {}),
      ...(clip ? { clip: [...clip] } : {}),
      ...(mask ? { mask } : {}),
      items,
    });
  }

  define(use: 'cell' | 'mask', key: string | null, name: string, inside: () => void): string {
    const own = key === null ? `${use} ${this.made.size}` : `${use} ${key}`;
    let symbol = this.made.get(own);
    if (!symbol) {
      const items = this.gathered(inside);
      symbol = { id: `symbol-${this.symbols.length + 1}`, name: name.slice(0, 200), anchor: [0, 0], items };
      this.made.set(own, symbol);
    }
    return symbol.id;
  }

  use(
    layer: number,
    name: string | undefined,
    key: string,
    { name: called, anchor }: { name: string; anchor: Point },
    at: Matrix,
    inside: () => void,
  ): void {
    let symbol = this.made.get(key);
    if (symbol === undefined) {
      const items = this.gathered(inside);
      // Inner symbols were made meanwhile and come before the ones that use them.
      symbol = items.length ? { id: `symbol-${this.symbols.length + 1}`, name: called, anchor, items } : null;
      this.made.set(key, symbol);
    }
    if (!symbol) return;
    const { id, layer: on } = this.base(layer, undefined);
    this.items.push({ kind: 'use', id, layer: on, name: name ?? symbol.name, transform: at, symbol: symbol.id });
  }

  path(paths: Paths, at: Matrix | null, layer: number, style: Style, shape: string, name: string | undefined): void {
    const outlines: Outline[] = [];
    for (let o = 0; o < paths.count; o++) {
      const outline = outlineAt(paths, o);
      outlines.push(at && at !== identity ? transformOutline(outline, at) : outline);
    }
    const upright = !at || (Math.abs(at[1]) < 1e-12 && Math.abs(at[2]) < 1e-12);
    // Dashes begin where the outline does: another kind of item might begin elsewhere.
    const liked = style.dash ? undefined : this.likings[shape]?.(outlines, upright);
    // Nodes are never changed in place, so what the schema calls an array may be the readonly one that was made above.
    const own = liked ?? { kind: 'path', outlines: outlines as PathItem['outlines'] };
    this.items.push({ ...this.base(layer, name), style, ...own } as Item);
  }

  /** Keeps a picture's bytes once. @returns its SHA-256 */
  private kept(picture: DrawnPicture): string {
    let sha = this.shas.get(picture);
    if (sha === undefined) {
      const { bytes, mediaType, width, height } = picture;
      this.shas.set(picture, (sha = digest(bytes)));
      if (!this.resources.has(sha)) {
        this.resources.set(sha, bytes);
        const name = `Picture ${this.pictures.length + 1}`;
        this.pictures.push({ id: sha, name, mediaType, size: bytes.length, role: 'picture', width, height });
      }
    }
    return sha;
  }

  picture(picture: DrawnPicture, at: Matrix, crop: Crop, layer: number, opacity: number, name: string | undefined): void {
    const { left, bottom, right, top } = crop;
    const frame = multiply(at, [right - left, 0, 0, top - bottom, left, bottom]);
    const [a, b, c, d, e, f] = frame;
    const upright = isUpright(frame);
    const [width, height] = [Math.hypot(a, b), Math.hypot(c, d)];
    if (!(width > 0 && height > 0)) return;
    const item: PictureItem = {
      kind: 'picture',
      ...this.base(layer, name),
      ...(upright ? {} : { transform: [a / width, b / width, c / height, d / height, e, f] }),
      style: { fill: null, stroke: null, strokeWidth: 0, ...(opacity < 1 ? { opacity } : {}) },
      resource: this.kept(picture),
      ...(upright ? { x: e, y: f } : { x: 0, y: 0 }),
      width,
      height,
      ...(left > 0 || bottom > 0 || right < 1 || top < 1 ? { crop } : {}),
    };
    this.items.push(item);
  }

  text({ transform, ...words }: StatedText, layer: number, style: Style, name: string | undefined): void {
    this.items.push({ kind: 'text', ...this.base(layer, name), ...(transform ? { transform } : {}), style, ...words });
  }
}
