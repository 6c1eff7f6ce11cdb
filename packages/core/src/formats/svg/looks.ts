import { type Matrix, identity, meanScale, multiply } from '../../base/geometry/matrix';
import { type Box, boxOfOutlines } from '../../base/geometry/measure';
import { flattens, penUnder } from '../../base/geometry/pen';
import { type Paint, boxMatrix } from '../../document/paint';
import { CAPS, JOINS, MITER_LIMIT, type Style } from '../../document/schema-parts';
import { type Paths, outlineAt } from '../../base/geometry/paths';
import type { SvgReading } from './reading';
import { OF_LINES, unknownProperties } from './known';
import { type SvgGradient, gradientOf, isGradientElement } from './gradients';
import { parseLength } from './lengths';
import { type SvgPattern, isPatternElement, layPattern } from './patterns';
import { alphaOf, parseColour, shareOf } from './style';
import type { Properties } from './properties';

/** What a look is made of: equal values of these are equal looks. */
const PARTS = [
  'fill',
  'stroke',
  'stroke-width',
  'fill-rule',
  'opacity',
  'fill-opacity',
  'stroke-opacity',
  'color',
  'paint-order',
  'stroke-dasharray',
  'stroke-dashoffset',
  'stroke-linecap',
  'stroke-linejoin',
  'stroke-miterlimit',
  'vector-effect',
];

type SvgPaint = SvgGradient | SvgPattern;

/** A look before it is known what it is laid on: gradients may follow the box of a shape. */
interface ShapeStyle {
  readonly style: Style;
  readonly fill: SvgPaint | null;
  readonly stroke: SvgPaint | null;
  readonly notes: readonly string[];
}

/** What a look is laid on. */
interface Laid {
  /** From its user units to what is around in the sink. */
  readonly matrix: Matrix;
  /** The outlines in user units; none for a text. */
  readonly paths: Paths | null;
}

/** Looks of shapes, one object for each: a drawing has few, and many shapes. */
export class Looks {
  private readonly known = new Map<string, ShapeStyle>();

  private last: Properties | null = null;
  private lastScale: Matrix = identity;
  private lastStyle: Style | null = null;

  constructor(private readonly reading: SvgReading) {}

  of(properties: Properties, laid: Laid): Style {
    const { matrix } = laid;
    const [a, b, c, d] = this.lastScale;
    const alike = matrix[0] === a && matrix[1] === b && matrix[2] === c && matrix[3] === d;
    if (properties === this.last && alike) return this.lastStyle!;
    let key = alike ? this.lastKey : (this.lastKey = matrix.slice(0, 4).join(' '));
    for (const part of PARTS) key += `|${properties[part] ?? ''}`;
    let found = this.known.get(key);
    if (!found) this.known.set(key, (found = this.make(properties, matrix)));
    for (const note of found.notes) this.reading.tally.add(note);
    const style = found.fill || found.stroke ? this.laidOn(found, laid) : found.style;
    // What has nothing to be noted or laid is asked for again and again with the same properties.
    this.last = found.notes.length || style !== found.style ? null : properties;
    [this.lastScale, this.lastStyle] = [matrix, style];
    return style;
  }
  private lastKey = '';

  /** Whether a look is painted with drawings of its own. */
  drawsToo({ fill, stroke }: Properties): boolean {
    return [fill, stroke].some((text) => {
      const id = text?.startsWith('url(') ? /#([^'")]+)/.exec(text)?.[1] : undefined;
      const target = id === undefined ? undefined : this.reading.ids.get(id.trim());
      return target !== undefined && isPatternElement(target);
    });
  }

  private laidOn({ style, fill, stroke }: ShapeStyle, { matrix, paths }: Laid): Style {
    let box: Box | undefined;
    const boxOf = () => (box ??= boxOfOutlines(paths ? Array.from({ length: paths.count }, (_, o) => outlineAt(paths, o)) : []));
    const paint = (gradient: SvgPaint | null, otherwise: Paint | null): Paint | null => {
      if (gradient?.kind === 'pattern') {
        if (paths) return layPattern(gradient.element, matrix, boxOf, this.reading);
        this.reading.tally.add('text painted with a pattern');
        return otherwise;
      }
      if (!gradient?.at) return otherwise;
      const { kind, byBox, at, focus, spread, stops } = gradient;
      if (byBox && !paths) {
        this.reading.tally.add(`text painted with a ${kind} gradient by its box`);
        return otherwise;
      }
      const placed = multiply(matrix, byBox ? multiply(boxMatrix(boxOf()), at) : at);
      // What has no width or no height can't be painted by its box (SVG 1.1, 7.11).
      if (flattens(placed)) return null;
      return {
        kind,
        within: 'item',
        at: placed,
        stops: [...stops],
        ...(focus ? { focus: [...focus] as const } : {}),
        ...(spread ? { spread } : {}),
      };
    };
    return { ...style, fill: paint(fill, style.fill), stroke: paint(stroke, style.stroke) };
  }

  /** What a paint says: a colour, a gradient, or nothing. */
  private paintOf(
    text: string,
    current: string,
    notes: string[],
    name: string,
  ): { colour: string | null; gradient: SvgPaint | null } {
    const reference = /^url\(\s*['"]?#([^'")]+)(?:['"]\s*)?\)(.*)$/.exec(text.trim());
    if (!reference) {
      const parsed = parseColour(text, current);
      if (parsed === undefined) notes.push(`${name} of an unknown kind`);
      return { colour: parsed ?? null, gradient: null };
    }
    const [, id, rest] = reference as unknown as [string, string, string];
    const otherwise = rest.trim();
    const target = this.reading.ids.get(id.trim());
    if (target && isGradientElement(target)) {
      const gradient = gradientOf(target, this.reading);
      if (gradient) return { colour: gradient.stops.at(-1)!.colour, gradient };
    } else if (target && isPatternElement(target)) return { colour: '#808080', gradient: { kind: 'pattern', element: target } };
    else if (target) {
      notes.push(`${name} ${target.name}`);
      if (!otherwise) return { colour: name === 'fill' ? '#808080' : null, gradient: null };
    }
    if (!target && !otherwise) notes.push(`${name} of something missing`);
    return { colour: otherwise ? (parseColour(otherwise, current) ?? null) : null, gradient: null };
  }

  private make(properties: Properties, matrix: Matrix): ShapeStyle {
    const notes: string[] = [];
    const { userWidth, userHeight } = this.reading.viewport;
    const diagonal = Math.hypot(userWidth, userHeight) / Math.SQRT2;
    const current = (properties['color'] && parseColour(properties['color'])) || '#000000';
    const filled = this.paintOf(properties['fill'] ?? '#000000', current, notes, 'fill');
    const stroked = this.paintOf(properties['stroke'] ?? 'none', current, notes, 'stroke');
    const width = parseLength(properties['stroke-width'], diagonal) ?? 1;
    // A line of no width is not drawn (SVG 1.1, 11.4), nor is what rounding left of one.
    const [fill, stroke] = [filled.colour, Math.abs(width) < 1e-9 ? null : stroked.colour];
    const inFill = shareOf(properties['fill-opacity']) * alphaOf(properties['fill']) * solidShare(filled.gradient);
    const inStroke = shareOf(properties['stroke-opacity']) * alphaOf(properties['stroke']) * solidShare(stroked.gradient);
    const own = shareOf(properties['opacity']);
    // Where one share says it all, it is said of the whole.
    const inner = fill && !stroke ? inFill : stroke && !fill ? inStroke : 1;
    if (stroke) notes.push(...unknownProperties(properties, OF_LINES));
    if (fill && stroke && /^\s*stroke/.test(properties['paint-order'] ?? '')) notes.push('line under its fill');
    const { pen } = penUnder(matrix);
    const scale = meanScale(matrix);
    const both = fill && stroke;
    const style: Style = {
      fill,
      ...(properties['fill-rule'] === 'evenodd' ? { fillRule: 'evenodd' as const } : {}),
      ...(both && inFill < 1 ? { fillOpacity: inFill } : {}),
      stroke,
      strokeWidth: stroke ? Math.max(0, width) * scale : 0,
      ...(both && inStroke < 1 ? { strokeOpacity: inStroke } : {}),
      ...(stroke ? { ...this.line(properties, scale, diagonal, notes), ...(pen ? { pen } : {}) } : {}),
      ...(own * inner < 1 ? { opacity: own * inner } : {}),
    };
    return { style, fill: filled.gradient, stroke: stroked.gradient, notes };
  }

  /** Dashes, ends and corners of a line (SVG 1.1, 11.4). */
  private line(properties: Properties, scale: number, diagonal: number, notes: string[]): Partial<Style> {
    const cap = CAPS.find((one) => one === properties['stroke-linecap']);
    const join = JOINS.find((one) => one === properties['stroke-linejoin']);
    if (properties['stroke-linejoin'] && !join) notes.push(`line corners (${properties['stroke-linejoin']})`);
    const limit = Number(properties['stroke-miterlimit'] ?? MITER_LIMIT);
    const given = properties['stroke-dasharray'] ?? 'none';
    const dash =
      given === 'none'
        ? []
        : given
            .split(/[\s,]+/)
            .filter(Boolean)
            .map((one) => parseLength(one, diagonal) ?? NaN);
    const dashed = dash.some((length) => length > 0) && dash.every((length) => length >= 0);
    const offset = parseLength(properties['stroke-dashoffset'], diagonal) ?? 0;
    // An odd list is taken twice.
    const whole = (dash.length % 2 ? [...dash, ...dash] : dash).map((length) => length * scale);
    if (dashed && whole.length > 64) notes.push('dashes of more than 64 parts');
    return {
      ...(cap && cap !== 'butt' ? { cap } : {}),
      ...(join && join !== 'miter' ? { join } : {}),
      ...(limit >= 1 && limit !== MITER_LIMIT ? { miterLimit: limit } : {}),
      ...(dashed ? { dash: whole.slice(0, 64), ...(offset ? { dashOffset: offset * scale } : {}) } : {}),
    };
  }
}

/** How much a gradient that shows one colour only lets through. */
const solidShare = (gradient: SvgPaint | null): number =>
  gradient && gradient.kind !== 'pattern' && !gradient.at ? (gradient.stops.at(-1)!.opacity ?? 1) : 1;
