import { fromPoints } from '../../base/geometry/outline';
import { type Matrix, apply, identity, multiply, translation } from '../../base/geometry/matrix';
import { emptyBox } from '../../base/geometry/measure';
import type { Point } from '../../base/geometry/point';
import type { Blend, ClipShape, MaskKind } from '../../document/effects';
import { type Measure, type TextRun, itemKind, roughly } from '../../document/items';
import { Budget } from '../../document/limits';
import { placeLine } from '../../evaluate/resolve';
import type { Crop } from '../../document/corrections';
import type { DrawnPicture } from '../../contracts/drawn-picture';
import type { FontName, Layer, Style, TextItem } from '../../document/schema';
import { placedStyle, plainStyle } from '../../contracts/display-list';
import { DrawingBuilder } from './drawing';
import type { Drawing } from '../../contracts/drawing';
import { scaled } from './scaled';
import { placedClip } from '../../contracts/spans';
import type { Paths } from '../../base/geometry/paths';

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
  /** Space between letters beyond what the font gives, ems. */
  readonly spacing?: number;
  /** Parts of it that look otherwise. */
  readonly runs?: TextRun[];
  readonly transform: Matrix | null;
}

/** What a group does to what is in it, in the axes around the group. */
export interface StatedEffects {
  readonly opacity: number;
  readonly blend?: Blend;
  readonly clip?: readonly ClipShape[] | null;
  /** `symbol`: the word for what was defined. */
  readonly mask?: { readonly kind: MaskKind; readonly symbol: string } | null;
}
export const NO_EFFECTS: StatedEffects = { opacity: 1 };

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
  group(layer: number, name: string | undefined, effects: StatedEffects, inside: () => void): void;
  /**
   * Something that is drawn to paint with: the cell of a pattern in axes of its own, or a mask in the axes around.
   * @param key equal keys are the same; none for what is used once
   * @returns the word that styles and effects name it by
   */
  define(use: 'cell' | 'mask', key: string | null, name: string, inside: () => void): string;
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
   * @param style gradients lie in the axes around
   * @param shape what the file calls it
   */
  path(paths: Paths, at: Matrix | null, layer: number, style: Style, shape: string, name: string | undefined): void;
  text(words: StatedText, layer: number, style: Style, name: string | undefined): void;
  /**
   * A picture.
   * @param at from the square of 1 that is all of it to the axes around
   * @param crop the part that is seen
   */
  picture(picture: DrawnPicture, at: Matrix, crop: Crop, layer: number, opacity: number, name: string | undefined): void;
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
  /** Of each layer, its number on the page. */
  private numbers: number[] = [];
  private builder!: DrawingBuilder;
  private matrix: Matrix = identity;
  private holder = 0;
  /** Whether what is told is painted with, where layers mean nothing. */
  private inCell = false;
  /** A use may hold uses that hold nothing: opening them costs all the same. */
  private readonly openings = new Budget();
  private readonly entries = new Budget();
  private looks = new WeakMap<Style, number>();
  private readonly cells = new Map<string, Drawing>();
  private readonly cellByKey = new Map<string, string>();

  /** @param measure places what follows in a line with several looks */
  constructor(private readonly measure: Measure = roughly) {}

  page(label: string, width: number, height: number, background: string | null): void {
    this.fresh();
    this.pages.push({ label, sheet: { width, height }, background, builder: this.builder });
  }

  private fresh(): void {
    this.builder = new DrawingBuilder();
    this.looks = new WeakMap();
    this.numbers = [];
  }

  layer(layer: StatedLayer): number {
    return this.layers.push(layer) - 1;
  }

  private layerNumber(layer: number): number {
    if (this.inCell) return this.builder.layer('');
    return (this.numbers[layer] ??= this.builder.layer(this.layers[layer]!.name, this.layers[layer]!.colour));
  }

  private within(layer: number, matrix: Matrix, inside: () => void): void {
    this.openings.object();
    const before = [this.matrix, this.holder] as const;
    this.matrix = matrix;
    if (layer !== AROUND) this.holder = layer;
    inside();
    [this.matrix, this.holder] = before;
  }

  group(layer: number, _name: string | undefined, effects: StatedEffects, inside: () => void): void {
    const { opacity, blend = 'normal', clip = null, mask = null } = effects;
    const { matrix } = this;
    this.builder.begin({
      opacity,
      blend,
      clip: clip && clip.map((shape) => placedClip(shape, matrix)),
      mask: mask && { kind: mask.kind, cell: this.builder.cell(this.cells.get(mask.symbol)!) },
    });
    this.within(layer, matrix, inside);
    this.builder.end();
  }

  define(use: 'cell' | 'mask', key: string | null, _name: string, inside: () => void): string {
    const known = key === null ? undefined : this.cellByKey.get(key);
    if (known !== undefined) return known;
    const before = [this.builder, this.looks, this.numbers, this.matrix, this.inCell] as const;
    this.fresh();
    const { builder } = this;
    if (use === 'cell') this.matrix = identity;
    this.inCell = true;
    this.openings.object();
    inside();
    [this.builder, this.looks, this.numbers, this.matrix, this.inCell] = before;
    const name = `cell ${this.cells.size}`;
    this.cells.set(name, builder.finish(null, null));
    if (key !== null) this.cellByKey.set(key, name);
    return name;
  }

  use(
    layer: number,
    _name: string | undefined,
    _key: string,
    { anchor }: { anchor: Point },
    at: Matrix,
    inside: () => void,
  ): void {
    this.within(layer, multiply(multiply(this.matrix, at), translation(-anchor[0], -anchor[1])), inside);
  }

  /** A look as it is in the place that is being told of. */
  private look(style: Style, matrix: Matrix): number {
    const plain = matrix === identity;
    const known = plain ? this.looks.get(style) : undefined;
    if (known !== undefined) return known;
    const number = this.builder.look(
      placedStyle(style, matrix, emptyBox, (symbol, scale) => this.builder.cell(scaled(this.cells.get(symbol)!, scale))),
    );
    if (plain) this.looks.set(style, number);
    return number;
  }

  private taken(layer: number): number | null {
    const own = layer === AROUND ? this.holder : layer;
    if (!this.inCell && !this.layers[own]!.visible) return null;
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
    for (const line of itemKind(TEXT).lines!({ ...TEXT, ...words }, this.measure)) {
      const { text, font, align, colour } = line;
      const look = this.look(colour === undefined ? style : { ...style, fill: colour }, matrix);
      this.builder.words({ text, ...placeLine(matrix, line), font, align }, own, look);
    }
  }

  picture(picture: DrawnPicture, at: Matrix, { left, bottom, right, top }: Crop, layer: number, opacity: number): void {
    const own = this.taken(layer);
    if (own === null) return;
    const whole = multiply(this.matrix, at);
    const corners: Point[] = [
      [left, bottom],
      [right, bottom],
      [right, top],
      [left, top],
    ];
    this.builder.paths.add(
      fromPoints(
        corners.map((corner) => apply(whole, corner)),
        true,
      ),
    );
    const fill = { kind: 'picture', picture: this.builder.picture(picture), at: whole } as const;
    this.builder.path(own, this.builder.look({ ...plainStyle, fill, opacity }));
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
