import type { Blend, FontName, MaskKind, Matrix, PlacedGradient, Style } from '@inkwell-twin/core';
import type { PageLine } from './inked';
import type { ReadShading } from './shaded';

/** A pattern that was met, in the axes of the board. */
export interface ReadPattern {
  readonly kind: 'pattern';
  readonly width: number;
  readonly height: number;
  readonly at: Matrix;
  /** What its cell says, in axes of its own. */
  readonly nodes: readonly Node[];
  readonly key: string;
}
export type ReadPaint = string | PlacedGradient | ReadPattern | ReadShading;

/** How something looks, in the axes of the board. */
export interface ReadStyle extends Omit<Style, 'fill' | 'stroke'> {
  readonly fill: ReadPaint | null;
  readonly stroke: ReadPaint | null;
}

interface DrawnNode {
  /** null outside of all layers. */
  readonly layer: string | null;
}

/** An outline as the library packs it: what to do, and its points, by turns. */
export interface PathNode extends DrawnNode {
  readonly kind: 'path';
  readonly data: Float32Array;
  /** From its axes to the board's. */
  readonly at: Matrix;
  readonly style: ReadStyle;
}

export interface TextNode extends DrawnNode {
  readonly kind: 'text';
  /** Grows while more of its line is met. */
  text: string;
  /** How far it runs, as the size is given, and grows with it; missing where letters are held against their font. */
  along?: number;
  readonly at: Matrix;
  readonly size: number;
  /** Space after each letter, as the size is given. */
  readonly spacing: number;
  readonly font: FontName;
  readonly style: ReadStyle;
  /** The letters as the file draws them; null where they are not asked for. */
  readonly line?: PageLine | null;
}

export interface PictureNode extends DrawnNode {
  readonly kind: 'picture';
  readonly name: string;
  /** Where it is not named, what stands in the page itself. */
  readonly inline: unknown;
  readonly at: Matrix;
  readonly opacity: number;
}

/** A gradient that fills everything there is. */
export interface ShadeNode extends DrawnNode {
  readonly kind: 'shade';
  readonly gradient: PlacedGradient;
}

export interface Clipping {
  readonly data: Float32Array;
  readonly at: Matrix;
  readonly rule: 'nonzero' | 'evenodd';
}

/** What is laid down as one, or what marks hold together. */
export interface GroupNode {
  readonly kind: 'group';
  /** `form`: laid down as one; `clip`: only cut off; `mark`: a mark around it, which does nothing. */
  readonly by: 'form' | 'clip' | 'mark';
  readonly tag: string;
  readonly clip: Clipping | null;
  readonly opacity: number;
  readonly blend: Blend;
  readonly mask: { readonly kind: MaskKind; readonly nodes: readonly Node[] } | null;
  readonly nodes: Node[];
}

export type Node = PathNode | TextNode | PictureNode | ShadeNode | GroupNode;

export const group = (by: GroupNode['by'], rest: Partial<GroupNode> = {}): GroupNode => ({
  kind: 'group',
  by,
  tag: '',
  clip: null,
  opacity: 1,
  blend: 'normal',
  mask: null,
  nodes: [],
  ...rest,
});
