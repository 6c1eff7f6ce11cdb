import { itemKind } from '../../document/items';
import type { Matrix } from '../../base/geometry/matrix';
import { type Paint, type PlacedPaint, isGradient, isPattern, isPlain } from '../../document/paint';
import { type FontName, MITER_LIMIT } from '../../document/schema-parts';
import type { Layer } from '../../document/schema';
import type { SheetPlan } from '../../base/geometry/sheet-plan';
import type { BoardFeature } from '../../evaluate/boards/footprint';
import type { CarriesOf } from '../../contracts/kind';
import type { Drawing } from '../../contracts/drawing';

declare module '../../contracts/leaf' {
  interface Kinds {
    drawing: { body: Drawing; carries: DrawingCarries };
  }
}

/** What a target has to say of a feature that it can't hold as it is. */
export interface DrawingHows {
  /** `unseen`: what has neither fill nor line can't be there. */
  outlines: { readonly step: number; readonly unseen?: 'left out' };
  arcs: { readonly within: number; readonly by?: 'curves' };
  curves: { readonly by: 'arcs' | 'chords'; readonly within: number };
  /**
   * `slanted`: only a text that a place, a height and a turn can't hold becomes outlines, and one with spaced letters. `from`:
   * each line is placed by its start, wherever it was placed by before. `unlike`: what is not like the lines of text that the
   * target has becomes outlines.
   */
  text: {
    readonly when: 'slanted' | 'always' | 'never' | 'unlike';
    readonly from?: 'start';
    readonly like?: (line: LineOfText) => boolean;
  };
  /**
   * `apart`: what is filled stands by itself, closed and filled by odd parity, and its line beside it. `rule`: the one rule by
   * which the target fills.
   */
  fills: { readonly apart?: true; readonly palette?: readonly string[] | null; readonly rule?: 'nonzero' };
  /** Where they are not kept, one colour stands for the whole gradient; `unrolled`: only repeated ones are rewritten. */
  /** `across`: of what is filled, two colours across its box. */
  gradients: { readonly repeated?: 'unrolled'; readonly across?: 'box' };
  /** `lines`: of straight lines alone, as families of them; what else they hold is not there. */
  patterns: { readonly lines?: 'families' };
  /** Other formats of picture are restated as PNG. `cut`: what is cropped is cut off, at whole pixels. `turned`: only upright ones are there. `shrunk`: they are no denser than this where they are shown, and packed at a quality. */
  pictures: {
    readonly cut?: 'at pixels';
    readonly turned?: 'left out';
    readonly shrunk?: { readonly ppi: number; readonly quality: number };
  };
  /** `unstroked`: a shape without a line of its own is drawn in its layer's colour. */
  'line colours': { readonly palette: readonly string[] | null; readonly unstroked?: 'layer colour' };
  'line widths': { readonly widths: readonly number[] };
  dashes: object;
  'line ends': object;
  pens: object;
  /**
   * `objects`: what groups let through is not there. `steps`: of how many a share is one; 0 for any. `shares`: fill and line let
   * through alike.
   */
  opacity: { readonly of: 'objects' | 'all'; readonly steps: number; readonly shares?: 'one' };
  blending: object;
  /** `masked`: a clip of several areas becomes a soft mask. */
  clips: { readonly several?: 'masked' };
  masks: object;
  /** `alike`: they stay symbols on whatever layers, moved and turned; each scale is one of its own. */
  symbols: { readonly kept?: 'alike' };
  'layer names': { readonly spelt: (layer: Pick<Layer, 'name'>) => string };
  'layer colours': { readonly palette: readonly string[] };
  'board size': object;
  'board names': { readonly spelt: (name: string) => string };
  background: object;
  /** Who covers whom. */
  order: object;
  /** Boards get onto sheets for a printer. */
  sheets: { readonly plan: SheetPlan };
}
export type DrawingCarries = CarriesOf<DrawingHows>;

/** A line of text as it is placed, for a target to say whether it has such a thing. */
export interface LineOfText {
  readonly font: FontName;
  readonly frame: Matrix;
  readonly spacing?: number | undefined;
  readonly style: { readonly fill: PlacedPaint | null; readonly stroke: PlacedPaint | null };
}

/** What an object is besides its look. */
const shapeOf = (item: { readonly kind: string }): object => {
  const { id: _id, name: _name, layer: _layer, style: _style, transform: _transform, ...shape } = item as Record<string, unknown>;
  return shape;
};

/** A colour as it is; that there is a gradient or a pattern, and no more of it. */
const plainPaint = (paint: Paint): string => (isPlain(paint) ? paint : paint.kind);

/** The features of drawings, one row each. */
export const drawingFeatures: { readonly [F in keyof DrawingHows]: BoardFeature } = {
  outlines: {
    words: 'Outlines',
    found: ['missing', 'added', 'moved', 'resized', 'reshaped', 'unit changed'],
    item: (item) => (itemKind(item).outlines && !itemKind(item).paint ? shapeOf(item) : undefined),
    always: true,
  },
  arcs: { words: 'Arcs', found: ['reshaped'] },
  curves: { words: 'Curves', found: ['reshaped'] },
  text: {
    words: 'Text',
    found: ['retyped', 'moved', 'turned', 'resized', 'font changed', 'restyled', 'recoloured', 'missing', 'added', 'reshaped'],
    item: (item) => (itemKind(item).lines ? shapeOf(item) : undefined),
    always: true,
  },
  fills: {
    words: 'Fills',
    optional: true,
    found: ['recoloured', 'filled otherwise'],
    item: ({ style }) => (style.fill ? [plainPaint(style.fill), style.fillRule ?? 'nonzero'] : undefined),
  },
  gradients: {
    words: 'Gradients',
    optional: true,
    found: ['recoloured'],
    item: ({ style }) => {
      const found = [style.fill, style.stroke].map((paint) => (isGradient(paint) ? paint : null));
      return found[0] || found[1] ? found : undefined;
    },
  },
  patterns: {
    words: 'Patterns',
    optional: true,
    found: ['recoloured'],
    item: ({ style }) => {
      const found = [style.fill, style.stroke].map((paint) => (isPattern(paint) ? paint : null));
      return found[0] || found[1] ? found : undefined;
    },
    symbols: (item) =>
      'style' in item ? [item.style.fill, item.style.stroke].flatMap((paint) => (isPattern(paint) ? [paint.symbol] : [])) : [],
  },
  pictures: {
    words: 'Pictures',
    optional: true,
    found: ['picture changed', 'cropped otherwise', 'moved', 'resized', 'reshaped', 'turned', 'missing', 'added'],
    item: (item) => (itemKind(item).paint ? shapeOf(item) : undefined),
  },
  'line colours': {
    words: 'Line colours',
    found: ['recoloured'],
    item: ({ style }) => (style.stroke ? plainPaint(style.stroke) : undefined),
  },
  'line widths': {
    words: 'Line widths',
    optional: true,
    found: ['restyled'],
    item: ({ style }) => (style.stroke ? style.strokeWidth : undefined),
  },
  dashes: {
    words: 'Dashes',
    optional: true,
    found: ['restyled'],
    item: ({ style: { stroke, dash, dashOffset } }) => (stroke && dash?.length ? [dash, dashOffset ?? 0] : undefined),
  },
  'line ends': {
    words: 'Line ends and corners',
    optional: true,
    found: ['restyled'],
    item: ({ style: { stroke, cap, join, miterLimit } }) =>
      stroke && (cap || join || miterLimit !== undefined)
        ? [cap ?? 'butt', join ?? 'miter', miterLimit ?? MITER_LIMIT]
        : undefined,
  },
  pens: {
    words: 'Lines of uneven width',
    optional: true,
    found: ['restyled'],
    item: ({ style: { stroke, pen } }) => (stroke ? pen : undefined),
  },
  opacity: {
    words: 'Opacity',
    optional: true,
    found: ['restyled'],
    item: ({ style }) =>
      (style.fillOpacity ?? 1) * (style.strokeOpacity ?? 1) < 1
        ? [style.opacity ?? 1, style.fillOpacity ?? 1, style.strokeOpacity ?? 1]
        : (style.opacity ?? 1),
    group: (group) => group.opacity ?? 1,
  },
  blending: {
    words: 'Mixing with what lies under',
    optional: true,
    found: ['restyled'],
    group: ({ blend }) => blend ?? 'normal',
  },
  clips: { words: 'Clips', optional: true, found: ['clipped otherwise'], group: ({ clip }) => clip ?? null },
  masks: {
    words: 'Soft masks',
    optional: true,
    found: ['masked otherwise'],
    group: ({ mask }) => mask?.kind ?? null,
    symbols: (item) => ('mask' in item && item.mask ? [item.mask.symbol] : []),
  },
  // What is used is drawn all the same: only the report has a word for it.
  symbols: { words: 'Symbols', found: [] },
  'layer names': { words: 'Layer names', found: ['re-layered'], layer: ({ name }) => name },
  'layer colours': { aside: true, words: 'Layer colours', found: ['recoloured'], layer: ({ colour }) => colour },
  'board size': { words: 'Size of the board', found: ['sheet resized'], board: ({ width, height }) => [width, height] },
  'board names': { words: 'Names of the boards', found: ['sheet renamed'], board: ({ name }) => name, ofMany: true },
  background: { optional: true, words: 'Background of the board', found: ['recoloured'], board: ({ background }) => background },
  order: { words: 'Order', found: ['re-ordered'], ordered: true },
  sheets: { words: 'Sheets', found: [], aside: true },
};
