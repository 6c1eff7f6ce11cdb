import type { CarryLines, LineNote } from '../../contracts/report';
import { type Box, boxOfOutlines } from '../../base/geometry/measure';
import { MITER_LIMIT } from '../../document/schema-parts';
import { boxOfWords } from './texts';
import { type PlacedPaint, type PlacedPattern, isGradient, isPattern, isPicture, isPlain } from '../../document/paint';
import type { Layer } from '../../document/schema';
import type { ResolvedEntry } from '../../evaluate/resolve';
import { nearestColour } from './colour';
import {
  type DisplayStyle,
  type LineForm,
  PLAIN_LINE,
  isPlainLine,
  isSeeThrough,
  plainStyle,
  sharesOf,
  styleKey,
} from '../../contracts/display-list';
import { type DrawingCarries, drawingFeatures } from './features';
import { meanColour, unrolled } from '../../evaluate/gradients/gradient';
import { acrossBox, onBox } from '../../evaluate/gradients/gradient-box';
import { how, isKept } from './carry';

/** Looks as a target can hold them. */
export class Looks {
  private readonly made = new Map<string, DisplayStyle>();
  private readonly note: Readonly<
    Record<
      'fill' | 'wording' | 'stroke' | 'width' | 'opacity' | 'apart' | 'dashes' | 'ends' | 'pens' | 'gradients' | 'patterns',
      LineNote
    >
  >;
  private readonly nearestColours: LineNote;
  private readonly nearestWidths: LineNote;
  private readonly asLines: LineNote;

  constructor(
    private readonly carries: DrawingCarries,
    lines: CarryLines,
    private readonly cell: (name: string) => string,
    private readonly showing: (word: string) => string,
  ) {
    const out = (feature: keyof typeof drawingFeatures, words = drawingFeatures[feature].words) =>
      lines.line(feature, 'left out', words, 'the target has none');
    const near = (feature: 'line colours' | 'line widths' | 'gradients') =>
      lines.line(
        feature,
        how(carries[feature])?.outcome ?? 'approximated',
        drawingFeatures[feature].words,
        how(carries[feature])?.words ?? '',
      );
    this.note = {
      fill: out('fills'),
      wording: out('fills', 'Colour of text'),
      stroke: out('line colours'),
      width: out('line widths'),
      opacity: out('opacity'),
      apart: lines.line('shares', 'approximated', 'Fill and line that let through apart', 'both let through as the fill does'),
      dashes: how(carries.dashes)
        ? lines.line('dashes', 'restated', drawingFeatures.dashes.words, how(carries.dashes)!.words)
        : out('dashes'),
      ends: out('line ends'),
      pens: out('pens'),
      gradients: how(carries.gradients) ? near('gradients') : out('gradients'),
      patterns: how(carries.patterns)?.lines
        ? lines.line('patterns', 'left out', 'Patterns of more than straight lines', 'the target has none')
        : out('patterns'),
    };
    this.asLines = lines.line('patterns', 'restated', drawingFeatures.patterns.words, how(carries.patterns)?.words ?? '');
    this.nearestColours = near('line colours');
    this.nearestWidths = near('line widths');
  }

  /** A paint where gradients and patterns may not be held: one colour for it, or none. */
  private paint(paint: PlacedPaint | null, source: string, box: () => Box): PlacedPaint | null {
    if (isPicture(paint)) return { ...paint, picture: this.showing(paint.picture) };
    const { gradients, patterns } = this.carries;
    if (isPattern(paint)) {
      if (isKept(patterns)) return { ...paint, cell: this.cell(paint.cell) };
      this.note.patterns(source);
      return null;
    }
    if (!isGradient(paint) || isKept(gradients)) return paint;
    if (how(gradients)?.repeated) {
      if ((paint.spread ?? 'pad') === 'pad') return paint;
      this.note.gradients(source);
      return unrolled(paint, box());
    }
    this.note.gradients(source);
    return how(gradients) ? meanColour(paint) : null;
  }

  /** How a line alone looks. */
  lineLook(entry: ResolvedEntry, on: Layer): DisplayStyle {
    const { stroke, strokeWidth } = this.stroke({ ...entry, style: { ...entry.style, fill: null } }, on, () => boxOfEntry(entry));
    return { ...plainStyle, stroke, strokeWidth };
  }

  private stroke(
    { style, source }: ResolvedEntry,
    on: Layer,
    box: () => Box,
  ): { stroke: PlacedPaint | null; strokeWidth: number } {
    const [colours, widths] = [this.carries['line colours'], this.carries['line widths']];
    if (style.stroke && colours === 'left out') this.note.stroke(source);
    if (style.stroke && widths === 'left out') this.note.width(source);
    const [palette, unstroked] = [how(colours)?.palette, how(colours)?.unstroked];
    let stroke = colours === 'left out' ? null : this.paint(style.stroke, source, box);
    if (palette && stroke !== null && isPlain(stroke)) {
      const found = nearestColour(stroke, palette);
      if (found !== stroke) this.nearestColours(source);
      stroke = found;
    }
    if (!stroke && unstroked && !isPicture(style.fill)) stroke = palette ? nearestColour(on.colour, palette) : on.colour;
    if (how(this.carries.outlines)?.unseen && style.strokeWidth <= 0) stroke = null;
    let strokeWidth = stroke && widths !== 'left out' ? style.strokeWidth : 0;
    const some = how(widths)?.widths;
    if (stroke && some) {
      const nearest = some.reduce((best, width) => (Math.abs(width - strokeWidth) < Math.abs(best - strokeWidth) ? width : best));
      const off = Math.abs(nearest - strokeWidth);
      if (off > 1e-9) this.nearestWidths(source, source, off);
      strokeWidth = nearest;
    }
    return { stroke, strokeWidth };
  }

  /** The form of a line, what the target has none of taken away; undefined where it is plain. */
  private line(line: LineForm | undefined, source: string): LineForm | undefined {
    if (!line) return undefined;
    const { carries, note } = this;
    const [dashed, ended, shaped] = [isKept(carries.dashes), isKept(carries['line ends']), isKept(carries.pens)];
    // Where dashes are restated, they begin where the line does.
    const restated = how(carries.dashes) !== null;
    if (!dashed && line.dash.length) note.dashes(source);
    if (!shaped && line.pen) note.pens(source);
    const { cap, join, miterLimit } = PLAIN_LINE;
    if (!ended && (line.cap !== cap || line.join !== join || line.miterLimit !== miterLimit)) note.ends(source);
    const left: LineForm = {
      ...(ended ? line : PLAIN_LINE),
      dash: dashed || restated ? line.dash : [],
      dashOffset: dashed ? line.dashOffset : 0,
      pen: shaped ? line.pen : null,
    };
    return isPlainLine(left) ? undefined : left;
  }

  /**
   * Fill and line of an entry as looks of their own; neither only where nothing of it shows. A pattern may be several fills.
   * @param families finds what straight lines a pattern is made of; null where it is made of anything else
   */
  apart(
    entry: ResolvedEntry & { kind: 'path' },
    on: Layer,
    families: (paint: PlacedPattern) => readonly PlacedPattern[] | null,
  ): { filled: readonly DisplayStyle[]; lined: DisplayStyle | null } {
    const { carries } = this;
    const { style, source } = entry;
    const { opacity, fillOpacity = 1, strokeOpacity = 1 } = style;
    const share = (one: number) => (how(carries.opacity) ? this.share(opacity * one) : 1);
    if (isSeeThrough(style) && !how(carries.opacity)) this.note.opacity(source);
    const shown = { ...plainStyle, fillRule: 'evenodd', opacity: share(fillOpacity) } as const;
    const filled = this.fillsApart(entry, families).map((fill) => ({ ...shown, fill }));
    const bare = { ...entry, style: { ...style, fill: null, fillOpacity: 1, strokeOpacity: 1, opacity: share(strokeOpacity) } };
    return { filled, lined: style.stroke || !filled.length ? this.of(bare, on) : null };
  }

  private fillsApart(
    { style: { fill }, source, outlines }: ResolvedEntry & { kind: 'path' },
    families: (paint: PlacedPattern) => readonly PlacedPattern[] | null,
  ): readonly PlacedPaint[] {
    const { carries } = this;
    if (isGradient(fill) && how(carries.gradients)?.across) {
      this.note.gradients(source);
      const box = boxOfOutlines(outlines);
      return [onBox(acrossBox(fill, box), box)];
    }
    if (isPattern(fill) && how(carries.patterns)?.lines) {
      const found = families(fill);
      (found ? this.asLines : this.note.patterns)(source);
      return found ?? [];
    }
    const paint = this.paint(fill, source, () => boxOfOutlines(outlines));
    if (typeof paint !== 'string') return [];
    const palette = how(carries.fills)?.palette;
    const colour = palette ? nearestColour(paint, palette) : paint;
    if (colour !== paint) this.nearestColours(source);
    return [colour];
  }

  /** A share as the target states it. */
  private share(one: number): number {
    const steps = how(this.carries.opacity)?.steps;
    return steps ? Math.round(one * steps) / steps : one;
  }

  private shares(found: ReturnType<typeof sharesOf>, source: string): ReturnType<typeof sharesOf> {
    const rule = how(this.carries.opacity);
    if (!rule) return found;
    const { opacity, fillOpacity = 1, strokeOpacity = 1 } = found;
    if (!rule.shares || (fillOpacity === 1 && strokeOpacity === 1)) return { ...found, opacity: this.share(opacity) };
    this.note.apart(source);
    return { opacity: this.share(opacity * fillOpacity) };
  }

  of(entry: ResolvedEntry, on: Layer): DisplayStyle {
    const { carries, note } = this;
    const { style, source, kind } = entry;
    const [fills, opaque] = [
      isKept(carries.fills) || how(carries.fills)?.rule !== undefined,
      !isKept(carries.opacity) && !how(carries.opacity),
    ];
    const box = () => boxOfEntry(entry);
    if (style.fill && !fills && !isPicture(style.fill)) note[kind === 'text' ? 'wording' : 'fill'](source);
    if (opaque && isSeeThrough(style)) note.opacity(source);
    const fill = fills || isPicture(style.fill) ? this.paint(style.fill, source, box) : null;
    const { stroke, strokeWidth } = this.stroke(entry, on, box);
    const line = stroke ? this.line(style.line, source) : undefined;
    const look: DisplayStyle = {
      fill,
      fillRule: fill ? style.fillRule : 'nonzero',
      stroke,
      strokeWidth,
      ...this.shares(sharesOf(opaque ? {} : style, fill !== null, stroke !== null), source),
      ...(line ? { line } : {}),
    };
    // One object for each look: a drawing has few, and many entries.
    const key = styleKey(look);
    const known = this.made.get(key);
    if (!known) this.made.set(key, look);
    return known ?? look;
  }
}

/** What an entry covers at most, its line with it, mm. */
function boxOfEntry(entry: ResolvedEntry): Box {
  const { minX, minY, maxX, maxY } = entry.kind === 'text' ? boxOfWords(entry) : boxOfOutlines(entry.outlines);
  const line = entry.style.stroke ? entry.style.strokeWidth * MITER_LIMIT : 0;
  return { minX: minX - line, minY: minY - line, maxX: maxX + line, maxY: maxY + line };
}
