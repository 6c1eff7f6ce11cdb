import type { ByteWriter } from '../../base/bytes/byte-writer';
import { shortNumber } from '../../base/bytes/numbers';
import { endsOfLinear } from '../../evaluate/gradients/gradient';
import type { DisplayStyle, LineForm } from '../../contracts/display-list';
import { type Matrix, multiply } from '../../base/geometry/matrix';
import {
  type PlacedGradient,
  type PlacedPaint,
  type PlacedPattern,
  type PlacedPicture,
  isGradient,
  isPattern,
} from '../../document/paint';
import { MITER_LIMIT } from '../../document/schema-parts';

/** Decimals of what has no unit: shares and the parts of maps. */
const SHARE_DIGITS = 4;
const MAP_DIGITS = 6;

const share = (value: number): string => shortNumber(value, SHARE_DIGITS);

/** What a sheet paints and clips with, each defined once for the axes that it is used in (SVG 1.1, chapters 13 and 14). */
export class Definitions {
  private readonly ids = new Map<string, string>();
  private readonly texts: string[] = [];

  /** @param prefix of ids, so that the sheets of a file do not share any */
  constructor(private readonly prefix: string) {}

  /**
   * Defines something once.
   * @param definition whose first tag gets the id
   * @returns a reference to it
   */
  add(definition: string): string {
    return `url(#${this.idOf(definition)})`;
  }

  /** Defines something once. @returns its id */
  idOf(definition: string): string {
    let id = this.ids.get(definition);
    if (id === undefined) {
      id = `${this.prefix}${this.ids.size + 1}`;
      this.ids.set(definition, id);
      this.texts.push(definition.replace('>', ` id="${id}">`));
    }
    return id;
  }

  /**
   * How an attribute names a paint.
   * @param toUser from the board to the axes of the element
   * @param cell writes the cell of a pattern
   */
  paint(paint: Exclude<PlacedPaint, PlacedPicture> | null, toUser: Matrix, cell: (pattern: PlacedPattern) => string): string {
    if (isPattern(paint)) return this.add(definePattern(paint, toUser, cell(paint)));
    if (isGradient(paint)) return this.add(define({ ...paint, at: multiply(toUser, paint.at) }));
    return paint ?? 'none';
  }

  write(out: ByteWriter): void {
    if (this.texts.length) out.text(`<defs>\n${this.texts.join('\n')}\n</defs>\n`);
  }
}

function definePattern({ width, height, at }: PlacedPattern, toUser: Matrix, content: string): string {
  const n = (value: number) => shortNumber(value, MAP_DIGITS);
  // In a cell y runs down, too.
  const whole = multiply(multiply(toUser, at), [1, 0, 0, -1, 0, height]);
  return `<pattern patternUnits="userSpaceOnUse" width="${n(width)}" height="${n(height)}" patternTransform="matrix(${whole.map(n).join(' ')})">\n${content}</pattern>`;
}

function define(gradient: PlacedGradient): string {
  const { kind, at, focus, spread, stops } = gradient;
  const n = (value: number) => shortNumber(value, MAP_DIGITS);
  let place: string;
  if (kind === 'linear') {
    const { from, to } = endsOfLinear(gradient);
    place = ` x1="${n(from[0])}" y1="${n(from[1])}" x2="${n(to[0])}" y2="${n(to[1])}"`;
  } else {
    const towards = focus ? ` fx="${n(focus[0])}" fy="${n(focus[1])}"` : '';
    place = ` cx="0" cy="0" r="1"${towards} gradientTransform="matrix(${at.map(n).join(' ')})"`;
  }
  const beyond = spread ? ` spreadMethod="${spread}"` : '';
  const parts = stops.map(({ offset, colour, opacity = 1 }) => {
    const through = opacity < 1 ? ` stop-opacity="${share(opacity)}"` : '';
    return `<stop offset="${shortNumber(offset, MAP_DIGITS)}" stop-color="${colour}"${through}/>`;
  });
  return `<${kind}Gradient gradientUnits="userSpaceOnUse"${place}${beyond}>${parts.join('')}</${kind}Gradient>`;
}

function lineText({ dash, dashOffset, cap, join, miterLimit }: LineForm, digits: number): string {
  const n = (value: number) => shortNumber(value, digits);
  let text = '';
  if (dash.length) text += ` stroke-dasharray="${dash.map(n).join(' ')}"`;
  if (dash.length && dashOffset) text += ` stroke-dashoffset="${n(dashOffset)}"`;
  if (cap !== 'butt') text += ` stroke-linecap="${cap}"`;
  if (join !== 'miter') text += ` stroke-linejoin="${join}"`;
  if (miterLimit !== MITER_LIMIT) text += ` stroke-miterlimit="${shortNumber(miterLimit, SHARE_DIGITS)}"`;
  return text;
}

/** A line that rounding would take away keeps the width that it has: one of no width is none (SVG 1.1, 11.4). */
function widthText(width: number, digits: number): string {
  const text = shortNumber(width, digits);
  return text === '0' && width > 0 ? String(Number(width.toPrecision(4))) : text;
}

/** The attributes of a look. @param paint how a paint is named in the axes of the element */
export function styleText(style: DisplayStyle, digits: number, paint: (one: PlacedPaint | null) => string): string {
  const { fill, fillRule, stroke, strokeWidth, opacity, fillOpacity = 1, strokeOpacity = 1, line } = style;
  let text = ` fill="${paint(fill)}"`;
  if (fill && fillRule === 'evenodd') text += ' fill-rule="evenodd"';
  if (fill && fillOpacity < 1) text += ` fill-opacity="${share(fillOpacity)}"`;
  if (stroke) text += ` stroke="${paint(stroke)}" stroke-width="${widthText(strokeWidth, digits)}"`;
  if (stroke && line) text += lineText(line, digits);
  if (stroke && strokeOpacity < 1) text += ` stroke-opacity="${share(strokeOpacity)}"`;
  if (opacity < 1) text += ` opacity="${share(opacity)}"`;
  return text;
}
