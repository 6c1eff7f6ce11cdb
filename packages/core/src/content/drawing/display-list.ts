import type { Matrix } from '../../geometry/matrix';
import type { Outline } from '../../geometry/outline';
import type { FontName } from '../../master/schema';

/** How a drawn thing looks. Colours are `#rrggbb`; null is none. */
export interface DisplayStyle {
  readonly fill: string | null;
  readonly fillRule: 'nonzero' | 'evenodd';
  readonly stroke: string | null;
  /** mm; 0 where there is no line. */
  readonly strokeWidth: number;
  readonly opacity: number;
}

interface Placed {
  /** Name of the layer. */
  readonly layer: string;
  readonly style: DisplayStyle;
  /** Id of the master's object this comes from; unknown in what was read from a file. */
  readonly source?: string;
}

export interface PathEntry extends Placed {
  readonly kind: 'path';
  readonly outlines: readonly Outline[];
}

export interface TextEntry extends Placed {
  readonly kind: 'text';
  /** One line. */
  readonly text: string;
  /** Maps the line's own axes (baseline from its anchor, mm) to the board. */
  readonly frame: Matrix;
  /** Height of the em square, mm. */
  readonly size: number;
  readonly font: FontName;
  readonly align: 'start' | 'middle' | 'end';
}

export type DisplayEntry = PathEntry | TextEntry;

/** What a drawn copy says, free of any format: things placed in mm, y upwards, in painting order. */
export interface DisplayList {
  readonly kind: 'display-list';
  /** Sheet size, mm; null where the format has none. */
  readonly sheet: { readonly width: number; readonly height: number } | null;
  readonly background: string | null;
  readonly layers: readonly { readonly name: string; readonly colour: string | null }[];
  readonly entries: readonly DisplayEntry[];
}

export const plainStyle: DisplayStyle = { fill: null, fillRule: 'nonzero', stroke: null, strokeWidth: 0, opacity: 1 };
