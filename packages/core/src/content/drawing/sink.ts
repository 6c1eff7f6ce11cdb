import { type Matrix, identity, meanScale, multiply, translation } from '../../geometry/matrix';
import type { Point } from '../../geometry/point';
import { itemKind } from '../../master/kinds';
import { Budget } from '../../master/limits';
import { placeLine } from '../../master/resolve';
import type { FontName, Layer, Style, TextItem } from '../../master/schema';
import type { DisplayStyle } from './display-list';
import { type Drawing, DrawingBuilder } from './drawing';
import type { Paths } from './paths';

/** A layer as a file states it. */
export type StatedLayer = Pick<Layer, 'name' | 'colour' | 'visible' | 'locked' | 'process'>;

/** A text as a file states it, in the axes of what holds it. */
export interface StatedText {
  readonly text: string;
  readonly x: number;
  readonly y: number;
  readonly size: number;
  readonly font: FontName;
  readonly align: 'start' | 'middle' | 'end';
  readonly transform: Matrix | null;
}

/** The layer of what holds a thing. */
export const AROUND = -1;

/**
 * What readers of drawings tell what they find, as they find it: one sink packs it for comparing, another makes a document to
 * keep. Coordinates are mm in the axes of what holds a thing: the board, or the symbol that is being told of.
 */
export interface DrawingSink {
  /** Begins a board. */
  page(label: string, width: number, height: number, background: string | null): void;
  /** @returns the layer's number */
  layer(layer: StatedLayer): number;
  group(layer: number, name: string | undefined, opacity: number, inside: () => void): void;
  /**
   * A use of something that is told of inside.
   * @param key equal keys are uses of the same
   * @param symbol what it is called, and where its anchor is
   * @param at from the symbol's axes to those around
   */
  use(
    layer: number,
    name: string | undefined,
    key: string,
    symbol: { readonly name: string; readonly anchor: Point },
    at: Matrix,
    inside: () => void,
  ): void;
  /**
   * A shape of one or more outlines.
   * @param at from the axes of the outlines to those around; null where they are the same
   * @param shape what the file calls it
   */
  path(paths: Paths, at: Matrix | null, layer: number, style: Style, shape: string, name: string | undefined): void;
  text(words: StatedText, layer: number, style: Style, name: string | undefined): void;
}

interface Page {
  readonly label: string;
  readonly sheet: NonNullable<Drawing['sheet']>;
  readonly background: string | null;
  readonly builder: DrawingBuilder;
}

/** Packs what a reader tells, everything opened and placed; what is on hidden layers stays away. */
export class PackingSink implements DrawingSink {
  readonly pages: Page[] = [];
  private readonly layers: StatedLayer[] = [];
  private readonly numbers = new Map<DrawingBuilder, number[]>();
  private builder!: DrawingBuilder;
  private matrix: Matrix = identity;
  private opacity = 1;
  private holder = 0;
  /** A use may hold uses that hold nothing: opening them costs all the same. */
  private readonly openings = new Budget();
  private readonly entries = new Budget();
  private looks = new WeakMap<Style, number>();

  page(label: string, width: number, height: number, background: string | null): void {
    this.builder = new DrawingBuilder();
    this.looks = new WeakMap();
    this.numbers.set(this.builder, []);
    this.pages.push({ label, sheet: { width, height }, background, builder: this.builder });
  }

  layer(layer: StatedLayer): number {
    return this.layers.push(layer) - 1;
  }

  private layerNumber(layer: number): number {
    const known = this.numbers.get(this.builder)!;
    return (known[layer] ??= this.builder.layer(this.layers[layer]!.name, this.layers[layer]!.colour));
  }

  private within(layer: number, matrix: Matrix, opacity: number, inside: () => void): void {
    this.openings.object();
    const before = [this.matrix, this.opacity, this.holder] as const;
    this.matrix = matrix;
    this.opacity *= opacity;
    if (layer !== AROUND) this.holder = layer;
    inside();
    [this.matrix, this.opacity, this.holder] = before;
  }

  group(layer: number, _name: string | undefined, opacity: number, inside: () => void): void {
    this.within(layer, this.matrix, opacity, inside);
  }

  use(
    layer: number,
    _name: string | undefined,
    _key: string,
    { anchor }: { anchor: Point },
    at: Matrix,
    inside: () => void,
  ): void {
    this.within(layer, multiply(multiply(this.matrix, at), translation(-anchor[0], -anchor[1])), 1, inside);
  }

  /** A look as it is in the place that is being told of. */
  private look(style: Style, matrix: Matrix): number {
    const plain = matrix === identity && this.opacity === 1;
    const known = plain ? this.looks.get(style) : undefined;
    if (known !== undefined) return known;
    const look: DisplayStyle = {
      fill: style.fill,
      fillRule: style.fillRule ?? 'nonzero',
      stroke: style.stroke,
      strokeWidth: style.stroke ? style.strokeWidth * meanScale(matrix) : 0,
      opacity: this.opacity * (style.opacity ?? 1),
    };
    const number = this.builder.look(look);
    if (plain) this.looks.set(style, number);
    return number;
  }

  private taken(layer: number): number | null {
    const own = layer === AROUND ? this.holder : layer;
    if (!this.layers[own]!.visible) return null;
    this.entries.object();
    return this.layerNumber(own);
  }

  path(paths: Paths, at: Matrix | null, layer: number, style: Style): void {
    const own = this.taken(layer);
    if (own === null) return;
    const whole = this.matrix === identity ? at : at ? multiply(this.matrix, at) : this.matrix;
    for (let o = 0; o < paths.count; o++) this.builder.paths.append(paths, o, whole);
    this.builder.path(own, this.look(style, this.matrix));
  }

  text({ transform, ...words }: StatedText, layer: number, style: Style): void {
    const own = this.taken(layer);
    if (own === null) return;
    const matrix = transform ? multiply(this.matrix, transform) : this.matrix;
    const look = this.look(style, matrix);
    for (const { text, at, size, font, align } of itemKind(TEXT).lines!({ ...TEXT, ...words }))
      this.builder.words({ text, ...placeLine(matrix, at, size), font, align }, own, look);
  }

  /** The boards that were told of. */
  drawings(): { readonly label: string; readonly drawing: Drawing }[] {
    return this.pages.map(({ label, sheet, background, builder }) => ({ label, drawing: builder.finish(sheet, background) }));
  }
}

const TEXT: TextItem = {
  kind: 'text',
  id: 'text',
  layer: null,
  style: { fill: null, stroke: null, strokeWidth: 0 },
  text: '',
  x: 0,
  y: 0,
  size: 1,
  font: 'Commissioner',
  align: 'start',
};
