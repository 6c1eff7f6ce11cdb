import { itemKind } from '../../master/kinds';
import type { Layer } from '../../master/schema';
import type { BoardFeature } from '../boards/footprint';
import type { CarriesOf } from '../kind';

/** What a target has to say of a feature that it can't hold as it is. */
export interface DrawingHows {
  outlines: { readonly step: number };
  arcs: { readonly within: number };
  curves: { readonly by: 'arcs' | 'chords'; readonly within: number };
  /** `slanted`: only a text that a place, a height and a turn can't hold becomes outlines. */
  text: { readonly when: 'slanted' | 'always' };
  fills: object;
  /** `unstroked`: a shape without a line of its own is drawn in its layer's colour. */
  'line colours': { readonly palette: readonly string[] | null; readonly unstroked?: 'layer colour' };
  'line widths': { readonly widths: readonly number[] };
  opacity: object;
  'layer names': { readonly spelt: (layer: Pick<Layer, 'name'>) => string };
  'layer colours': { readonly palette: readonly string[] };
  'board size': object;
  'board names': { readonly spelt: (name: string) => string };
  background: object;
  /** Who covers whom. */
  order: object;
}
export type DrawingCarries = CarriesOf<DrawingHows>;

/** What an object is besides its look. */
const shapeOf = (item: { readonly kind: string }): object => {
  const { id: _id, name: _name, layer: _layer, style: _style, transform: _transform, ...shape } = item as Record<string, unknown>;
  return shape;
};

/** The features of drawings, one row each. */
export const drawingFeatures: { readonly [F in keyof DrawingHows]: BoardFeature } = {
  outlines: {
    words: 'Outlines',
    found: ['missing', 'added', 'moved', 'resized', 'reshaped', 'unit changed'],
    item: (item) => (itemKind(item).outlines ? shapeOf(item) : undefined),
    always: true,
  },
  arcs: { words: 'Arcs', found: ['reshaped'] },
  curves: { words: 'Curves', found: ['reshaped'] },
  text: {
    words: 'Text',
    found: ['retyped', 'moved', 'turned', 'resized', 'font changed', 'missing', 'added', 'reshaped'],
    item: (item) => (itemKind(item).lines ? shapeOf(item) : undefined),
    always: true,
  },
  fills: {
    words: 'Fills',
    optional: true,
    found: ['recoloured', 'filled otherwise'],
    item: ({ style }) => (style.fill ? [style.fill, style.fillRule ?? 'nonzero'] : undefined),
  },
  'line colours': { words: 'Line colours', found: ['recoloured'], item: ({ style }) => style.stroke ?? undefined },
  'line widths': {
    words: 'Line widths',
    optional: true,
    found: ['restyled'],
    item: ({ style }) => (style.stroke ? style.strokeWidth : undefined),
  },
  opacity: {
    words: 'Opacity',
    optional: true,
    found: ['restyled'],
    item: ({ style }) => style.opacity ?? 1,
    group: (group) => group.opacity ?? 1,
  },
  'layer names': { words: 'Layer names', found: ['re-layered'], layer: ({ name }) => name },
  'layer colours': { words: 'Layer colours', found: ['recoloured'], layer: ({ colour }) => colour },
  'board size': { words: 'Size of the board', found: ['sheet resized'], board: ({ width, height }) => [width, height] },
  'board names': { words: 'Names of the boards', found: ['sheet renamed'], board: ({ name }) => name, ofMany: true },
  background: { optional: true, words: 'Background of the board', found: ['recoloured'], board: ({ background }) => background },
  order: { words: 'Order', found: ['re-ordered'], ordered: true },
};
