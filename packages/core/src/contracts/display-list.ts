import { type Matrix, multiply, scaling } from '../base/geometry/matrix';
import type { Outline } from '../base/geometry/outline';
import type { Box } from '../base/geometry/measure';
import { type Pen, penUnder } from '../base/geometry/pen';
import {
  type CellOf,
  type PlacedPaint,
  type Stop,
  boxMatrix,
  isGradient,
  isPattern,
  isPicture,
  isPlain,
  placedPaint,
} from '../document/paint';
import { type FontName, MITER_LIMIT, type Style } from '../document/schema-parts';

/** How a line is drawn besides its colour and width. */
export interface LineForm {
  /** Dashes and gaps by turns, mm; empty for a whole line. */
  readonly dash: readonly number[];
  readonly dashOffset: number;
  readonly cap: 'butt' | 'round' | 'square';
  readonly join: 'miter' | 'round' | 'bevel';
  readonly miterLimit: number;
  /** The shape of a pen that is not round. */
  readonly pen: Pen | null;
}
export const PLAIN_LINE: LineForm = { dash: [], dashOffset: 0, cap: 'butt', join: 'miter', miterLimit: MITER_LIMIT, pen: null };

export const isPlainLine = ({ dash, cap, join, miterLimit, pen }: LineForm): boolean =>
  !dash.length && cap === 'butt' && join === 'miter' && miterLimit === MITER_LIMIT && !pen;

/** How a drawn thing looks. Colours are `#rrggbb`; null is none. */
export interface DisplayStyle {
  readonly fill: PlacedPaint | null;
  readonly fillRule: 'nonzero' | 'evenodd';
  readonly stroke: PlacedPaint | null;
  /** mm; 0 where there is no line. */
  readonly strokeWidth: number;
  /** Of fill and line together. */
  readonly opacity: number;
  /** Of the fill alone, and of the line alone; 1 where they are not there. */
  readonly fillOpacity?: number;
  readonly strokeOpacity?: number;
  /** `PLAIN_LINE` where it is not there. */
  readonly line?: LineForm;
}

/** Numbers as a key says them: as they are, or rounded to what is compared. */
type Said = (value: number) => number;
const asIs: Said = (value) => value;

export function paintKey(paint: PlacedPaint | null, said: Said = asIs): string {
  if (isPattern(paint)) return `pattern ${paint.cell} ${said(paint.width)} ${said(paint.height)} ${paint.at.map(said).join(' ')}`;
  if (isPicture(paint)) return `picture ${paint.picture} ${paint.at.map(said).join(' ')}`;
  if (!isGradient(paint)) return `${paint}`;
  const { kind, at, focus, spread, stops } = paint;
  const turns = stops.map(({ offset, colour, opacity }) => `${said(offset)} ${colour} ${said(opacity ?? 1)}`);
  return `${kind} ${at.map(said).join(' ')} ${focus?.map(said).join(' ') ?? ''} ${spread ?? 'pad'} ${turns.join(', ')}`;
}

const lineKey = ({ dash, dashOffset, cap, join, miterLimit, pen }: LineForm, said: Said): string =>
  `${dash.map(said).join(' ')}/${said(dashOffset)} ${cap} ${join} ${said(miterLimit)} ${pen?.map(said).join(' ') ?? ''}`;

/** A text that is equal for looks that are equal; what does not show is not in it. */
export function styleKey({ fill, fillRule, stroke, strokeWidth, opacity, ...more }: DisplayStyle, said: Said = asIs): string {
  let key = `${paintKey(fill, said)}|${fill ? fillRule : ''}|${paintKey(stroke, said)}|${stroke ? said(strokeWidth) : 0}|${said(opacity)}`;
  const { fillOpacity = 1, strokeOpacity = 1, line } = more;
  if ((fill && fillOpacity !== 1) || (stroke && strokeOpacity !== 1)) key += `|${said(fillOpacity)} ${said(strokeOpacity)}`;
  if (stroke && line) key += `|${lineKey(line, said)}`;
  return key;
}

/**
 * How much of what is drawn shows. Where only a fill or only a line is drawn, one share says it all: it is said of the whole, so
 * that equal looks are stated alike.
 */
export function sharesOf(
  { opacity = 1, fillOpacity = 1, strokeOpacity = 1 }: Pick<Style, 'opacity' | 'fillOpacity' | 'strokeOpacity'>,
  filled: boolean,
  lined: boolean,
): Pick<DisplayStyle, 'opacity' | 'fillOpacity' | 'strokeOpacity'> {
  if (!filled || !lined) return { opacity: opacity * (filled ? fillOpacity : lined ? strokeOpacity : 1) };
  return {
    opacity,
    ...(fillOpacity < 1 ? { fillOpacity } : {}),
    ...(strokeOpacity < 1 ? { strokeOpacity } : {}),
  };
}

/** The form of a line as an object's style states it, under a map of its plane; undefined where it is plain. */
export function lineFormOf(style: Style, matrix: Matrix): { width: number; line: LineForm | undefined } {
  const { dash, dashOffset = 0, cap = 'butt', join = 'miter', miterLimit = MITER_LIMIT } = style;
  const { scale, pen } = penUnder(matrix, style.pen ?? null);
  const width = style.strokeWidth * scale;
  const some = dash && dash.some((length) => length > 0);
  const lengths = some ? dash.map((length) => length * scale) : [];
  const line = { dash: lengths, dashOffset: some ? dashOffset * scale : 0, cap, join, miterLimit, pen };
  return { width, line: isPlainLine(line) ? undefined : line };
}

/** A gradient's plane that has no area, mm². */
const NO_AREA = 1e-6;

/**
 * A style in which a gradient that is laid into nothing, as into the box of a line straight up, is the one colour that it comes
 * to: that of its last stop (SVG 1.1, 13.2.2).
 */
function withoutEven(style: Style, matrix: Matrix, box: () => Box): Style {
  const even = (paint: Style['fill']): Stop | null => {
    if (!isGradient(paint) || paint.within !== 'box') return null;
    const [a, b, c, d] = multiply(matrix, multiply(boxMatrix(box()), paint.at));
    return Math.abs(a * d - b * c) < NO_AREA ? paint.stops.at(-1)! : null;
  };
  const [fill, stroke] = [even(style.fill), even(style.stroke)];
  if (!fill && !stroke) return style;
  const share = (before: number | undefined, { opacity = 1 }: Stop) => (before ?? 1) * opacity;
  return {
    ...style,
    ...(fill ? { fill: fill.colour, fillOpacity: share(style.fillOpacity, fill) } : {}),
    ...(stroke ? { stroke: stroke.colour, strokeOpacity: share(style.strokeOpacity, stroke) } : {}),
  };
}

/**
 * A style as it shows where an object is drawn.
 * @param matrix from the object's axes to those
 * @param box of its outlines in its own axes
 * @param cellOf finds the cell that a symbol is drawn as
 */
export function placedStyle(stated: Style, matrix: Matrix, box: () => Box, cellOf: CellOf): DisplayStyle {
  const style = withoutEven(stated, matrix, box);
  const { width, line } = style.stroke ? lineFormOf(style, matrix) : { width: 0, line: undefined };
  return {
    fill: placedPaint(style.fill, matrix, box, cellOf),
    fillRule: style.fillRule ?? 'nonzero',
    stroke: placedPaint(style.stroke, matrix, box, cellOf),
    strokeWidth: width,
    ...sharesOf(style, style.fill !== null, style.stroke !== null),
    ...(line ? { line } : {}),
  };
}

/** Whether something shows through what is drawn so. */
export const isSeeThrough = ({ fill, stroke, opacity, fillOpacity = 1, strokeOpacity = 1 }: DisplayStyle): boolean =>
  opacity < 1 || (fill !== null && fillOpacity < 1) || (stroke !== null && strokeOpacity < 1);

/** A look at another scale. */
export function scaledStyle(style: DisplayStyle, factor: number): DisplayStyle {
  const paint = (one: PlacedPaint | null) => (isPlain(one) ? one : { ...one, at: multiply(scaling(factor), one.at) });
  const { line } = style;
  return {
    ...style,
    fill: paint(style.fill),
    stroke: paint(style.stroke),
    strokeWidth: style.strokeWidth * factor,
    ...(line
      ? { line: { ...line, dash: line.dash.map((length) => length * factor), dashOffset: line.dashOffset * factor } }
      : {}),
  };
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
  /** Space after each letter beyond what the font gives, mm; none where it is not there. */
  readonly spacing?: number;
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
