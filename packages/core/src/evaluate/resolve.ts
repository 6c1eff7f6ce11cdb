import { type DisplayEntry, type DisplayStyle, type TextEntry, placedStyle, plainStyle } from '../contracts/display-list';
import { type SpanLook, isPlainSpan, placedClip } from '../contracts/spans';
import { Failure } from '../base/failure/failure';
import { type Matrix, identity, meanScale, multiply, scaling, translation } from '../base/geometry/matrix';
import { type Box, boxOfOutlines, joinBoxes } from '../base/geometry/measure';
import { type Outline, transformOutline } from '../base/geometry/outline';
import { drawnBoard } from './drawn/drawn';
import { assertOpens } from '../document/count';
import { type Measure, type TextLine, itemKind, roughly } from '../document/items';
import { OBJECT_LIMIT, tooManyObjects } from '../document/limits';
import { isPlain } from '../document/paint';
import type { Board, DrawnItem, GroupItem, Item, Layer, Master, Style, SymbolDefinition, Work } from '../document/schema';

/** One drawn object of a scope, in board millimetres, before any target has had its say. */
export type ResolvedEntry = DisplayEntry & {
  readonly source: string;
  readonly layerId: string;
  /** Items passed through on the way: groups and symbol uses. */
  readonly within: readonly { readonly id: string; readonly kind: 'group' | 'use' }[];
  /** For a text: which line of its item it is, and which piece of that line. */
  readonly line?: number;
  readonly piece?: number;
  /** How a machine works it, where the object itself says. */
  readonly work?: Work;
};

/** A part with everything expanded: a board, a cell of a pattern, or a mask. */
export interface ResolvedPart {
  readonly entries: readonly ResolvedEntry[];
  /** What is laid down as one: entries from `first` to before `end`, inner ones first. */
  readonly spans: readonly ResolvedSpan[];
  /** Uses of symbols, in order; what is used inside one is in its part. */
  readonly uses: readonly ResolvedUse[];
  /** What patterns and masks are made of, by the words that styles and spans name them by. */
  readonly cells: ReadonlyMap<string, ResolvedPart>;
}

/** A use of a symbol: what it drew, and what it draws that from. */
export interface ResolvedUse {
  readonly first: number;
  readonly end: number;
  /** Spans that the symbol itself made. */
  readonly inner: readonly ResolvedSpan[];
  /** From the symbol's axes, its anchor at 0, to those around. */
  readonly at: Matrix;
  readonly name: string;
  readonly source: string;
  /** The symbol as a part of its own, at a scale: the same object for the same symbol, layer and scale. */
  readonly part: (scale: number) => ResolvedPart;
}

/** A group that does something to what is in it. */
export interface ResolvedSpan {
  readonly first: number;
  readonly end: number;
  readonly look: SpanLook;
  readonly source: string;
}

/** A board with everything expanded: what a derivation starts from. */
export interface ResolvedBoard extends ResolvedPart {
  readonly board: Board;
  readonly layers: readonly Layer[];
  /** Objects on hidden layers, which are not in `entries`. */
  readonly hidden: readonly string[];
}

/**
 * A line of text placed by a map: its own axes without their scale, and its size with it. Always the mean scale, however
 * slanted: a frame that is similar but for its last written decimal reads the same.
 */
export function placeLine(
  matrix: Matrix,
  { at: [x, y], size, spacing }: Pick<TextLine, 'at' | 'size' | 'spacing'>,
): Pick<TextEntry, 'frame' | 'size' | 'spacing'> {
  const frame = multiply(matrix, translation(x, y));
  const scale = meanScale(frame) || 1;
  return {
    frame: [frame[0] / scale, frame[1] / scale, frame[2] / scale, frame[3] / scale, frame[4], frame[5]],
    size: size * scale,
    ...(spacing ? { spacing: spacing * scale } : {}),
  };
}

/**
 * Expands symbol uses and groups and drops what is hidden. Pure.
 * @param objects only these objects and what is in them; all where it is null
 * @param measure places the lines of texts with boxes and several looks
 * @throws Failure `symbol-cycle` when a symbol uses itself, `symbol-missing`, `layer-missing`, and before opening anything
 * `too-many-objects` or `too-deep`
 */
export function resolveBoard(
  master: Master,
  board: Board,
  objects: ReadonlySet<string> | null = null,
  measure: Measure = roughly,
): ResolvedBoard {
  const { master: drawn, board: sheet } = drawnBoard(master, board, measure);
  assertOpens(drawn, sheet);
  const hidden: string[] = [];
  const part = new Resolver(drawn, hidden, objects, measure).part(sheet.items, identity, drawn.layers[0]!.id);
  return { board: sheet, layers: drawn.layers, ...part, hidden };
}

/** Shares of an em: a fair mean width of a letter, and how far letters reach below and above their line. */
const [WIDE, BELOW, ABOVE] = [0.56, 0.24, 0.76];

/** About where lines of text stand, in the item's own axes: a gradient that follows their box needs no more. */
const boxOfLines = (lines: readonly TextLine[]): Box =>
  joinBoxes(
    lines.map(({ text, at: [x, y], size, align }) => {
      const width = WIDE * size * text.length;
      const left = x - (align === 'start' ? 0 : align === 'middle' ? width / 2 : width);
      return { minX: left, minY: y - BELOW * size, maxX: left + width, maxY: y + ABOVE * size };
    }),
  );

/** Opens groups and symbols one after the other. */
class Resolver {
  private readonly layers: ReadonlyMap<string, Layer>;
  private readonly symbols: ReadonlyMap<string, SymbolDefinition>;
  /** Symbols that are being opened. */
  private readonly open = new Set<string>();
  // One look for all that is drawn alike: a board has few styles, and many objects.
  private readonly plainStyles = new Map<Style, DisplayStyle>();
  private entries: ResolvedEntry[] = [];
  private spans: ResolvedSpan[] = [];
  private cells = new Map<string, ResolvedPart>();
  private uses: ResolvedUse[] = [];
  /** Whether a symbol is being opened that the part will be told of as a whole. */
  private inUse = false;
  private readonly symbolParts = new Map<string, ResolvedPart>();
  /** Objects that patterns and masks are made of. */
  private painted = 0;

  constructor(
    master: Master,
    private readonly hidden: string[],
    private readonly objects: ReadonlySet<string> | null,
    private readonly measure: Measure,
  ) {
    this.layers = new Map(master.layers.map((layer) => [layer.id, layer]));
    this.symbols = new Map(master.symbols.map((symbol) => [symbol.id, symbol]));
  }

  /** A list of items as a part of its own. */
  part(items: readonly Item[], matrix: Matrix, layer: string, all = this.objects === null): ResolvedPart {
    const before = [this.entries, this.spans, this.cells, this.uses, this.inUse] as const;
    [this.entries, this.spans, this.cells, this.uses, this.inUse] = [[], [], new Map(), [], false];
    this.visit(items, matrix, layer, [], all);
    const made = { entries: this.entries, spans: this.spans, cells: this.cells, uses: this.uses };
    [this.entries, this.spans, this.cells, this.uses, this.inUse] = before;
    return made;
  }

  private visit(
    items: readonly Item[],
    matrix: Matrix,
    holder: string,
    within: ResolvedEntry['within'],
    chosen: boolean,
    source?: string,
  ): void {
    for (const item of items) {
      const layerId = item.layer ?? holder;
      const own = item.transform ? multiply(matrix, item.transform) : matrix;
      const taken = chosen || this.objects!.has(item.id);
      const opened = itemKind(item).openContents?.(item);
      if (opened?.items) {
        const inside = [...within, { id: item.id, kind: 'group' as const }];
        const first = this.entries.length;
        this.visit(opened.items, own, layerId, inside, taken, source);
        this.span(item as GroupItem, own, layerId, first);
      } else if (!taken) continue;
      else if (opened) {
        this.through(opened.symbol ?? '', item.id, (symbol) => {
          const placed = multiply(own, translation(-symbol.anchor[0], -symbol.anchor[1]));
          const [first, spans, outer] = [this.entries.length, this.spans.length, this.inUse];
          this.inUse = true;
          this.visit(symbol.items, placed, layerId, [...within, { id: item.id, kind: 'use' }], true, source ?? item.id);
          this.inUse = outer;
          const end = this.entries.length;
          if (outer || first === end) return;
          const part = (scale: number) => this.symbolPart(symbol, layerId, scale);
          const inner = this.spans.slice(spans);
          this.uses.push({ first, end, inner, at: own, name: symbol.name, source: item.id, part });
        });
      } else {
        const layer = this.layers.get(layerId);
        if (!layer) throw new Failure('layer-missing', `The layer ${layerId} is not in this master.`, { node: item.id });
        if (!layer.visible) this.hidden.push(source ?? item.id);
        else this.draw(item as DrawnItem, own, layer, within, source ?? item.id);
      }
    }
  }

  /** Opens a symbol. @throws Failure `symbol-missing`, `symbol-cycle` */
  private through<T>(id: string, node: string, inside: (symbol: SymbolDefinition) => T): T {
    const symbol = this.symbols.get(id);
    if (!symbol) throw new Failure('symbol-missing', `The symbol ${id} is not in this master.`, { node });
    if (this.open.has(id))
      throw new Failure('symbol-cycle', `The symbol ${symbol.name} uses itself, directly or through another.`, { node });
    this.open.add(id);
    try {
      return inside(symbol);
    } finally {
      this.open.delete(id);
    }
  }

  private symbolPart({ id, items, anchor: [x, y] }: SymbolDefinition, layer: string, scale: number): ResolvedPart {
    const key = `${id} ${layer} ${scale}`;
    let made = this.symbolParts.get(key);
    if (!made) {
      // What is hidden in it was said where it was used.
      const said = this.hidden.length;
      made = this.through(id, id, () => this.part(items, multiply(scaling(scale), translation(-x, -y)), layer, true));
      this.hidden.length = said;
      this.symbolParts.set(key, made);
    }
    return made;
  }

  /** A symbol to paint with, as a part of its own. @returns the word that it goes by */
  private cell(symbol: string, node: string, matrix: Matrix, layer: string): string {
    const name = `${symbol} ${layer} ${matrix.join(' ')}`;
    if (!this.cells.has(name)) {
      const made = this.through(symbol, node, ({ items, anchor: [x, y] }) =>
        this.part(items, multiply(matrix, translation(-x, -y)), layer, true),
      );
      // A mask is opened where it lies, once for each group that it masks: a small document could be a large one.
      this.painted += made.entries.length;
      if (this.painted > OBJECT_LIMIT) throw tooManyObjects(this.painted, { node });
      this.cells.set(name, made);
    }
    return name;
  }

  private span({ id, opacity = 1, blend = 'normal', clip, mask }: GroupItem, matrix: Matrix, layer: string, first: number): void {
    const end = this.entries.length;
    const look: SpanLook = {
      opacity,
      blend,
      clip: clip ? clip.map((shape) => placedClip(shape, matrix)) : null,
      mask: mask ? { kind: mask.kind, cell: this.cell(mask.symbol, id, matrix, layer) } : null,
    };
    if (end > first && !isPlainSpan(look)) this.spans.push({ first, end, look, source: id });
  }

  private styleOf(item: DrawnItem, matrix: Matrix, layer: string, outlines: readonly Outline[] | undefined): DisplayStyle {
    const { style, id } = item;
    const picture = itemKind(item).paint?.(item);
    if (picture) return { ...plainStyle, fill: { ...picture, at: multiply(matrix, picture.at) }, opacity: style.opacity ?? 1 };
    const plain = matrix === identity && isPlain(style.fill) && isPlain(style.stroke);
    const known = plain ? this.plainStyles.get(style) : undefined;
    if (known) return known;
    const made = placedStyle(
      style,
      matrix,
      () => (outlines ? boxOfOutlines(outlines) : boxOfLines(itemKind(item).lines?.(item, this.measure) ?? [])),
      (symbol, scale) => this.cell(symbol, id, scaling(scale), layer),
    );
    if (plain) this.plainStyles.set(style, made);
    return made;
  }

  private draw(item: DrawnItem, matrix: Matrix, layer: Layer, within: ResolvedEntry['within'], source: string): void {
    const kind = itemKind(item);
    const own = kind.outlines?.(item);
    const style = this.styleOf(item, matrix, layer.id, own);
    const common = { layer: layer.name, layerId: layer.id, style, source, within, ...(item.work ? { work: item.work } : {}) };
    if (own) {
      const outlines = matrix === identity ? own : own.map((outline) => transformOutline(outline, matrix));
      this.entries.push({ kind: 'path', outlines, ...common });
    }
    for (const one of kind.lines?.(item, this.measure) ?? []) {
      const { text, font, align, line, piece, colour } = one;
      const look = colour === undefined ? style : { ...style, fill: colour };
      this.entries.push({ kind: 'text', text, ...placeLine(matrix, one), font, align, line, piece, ...common, style: look });
    }
  }
}

/** The box of an object on its board, mm, curves taken within 0.01; null for one that draws no outline (text has none yet). */
export function boxOfItem({ entries }: ResolvedBoard, id: string): Box | null {
  const box = joinBoxes(
    entries.flatMap((entry) =>
      entry.kind === 'path' && (entry.source === id || entry.within.some((holder) => holder.id === id))
        ? [boxOfOutlines(entry.outlines)]
        : [],
    ),
  );
  return box.minX <= box.maxX ? box : null;
}
