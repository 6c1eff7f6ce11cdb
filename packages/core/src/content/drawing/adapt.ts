import type { CarryLines, LineNote } from '../../copies/report';
import { determinant, isSimilarity, multiply, translation } from '../../geometry/matrix';
import { type Box, boxOfOutlines } from '../../geometry/measure';
import { MITER_LIMIT } from '../../master/schema-parts';
import { boxOfWords } from './texts';
import { type PlacedPaint, isGradient, isPattern, isPicture, isPlain } from '../../master/paint';
import type { Layer } from '../../master/schema';
import type { ResolvedBoard, ResolvedEntry, ResolvedPart, ResolvedSpan } from '../../master/resolve';
import { type CurveNotes, type CurveRules, adaptOutline } from '../boards/curves';
import { missingCharacters, outlineText, takenEntries } from '../boards/source';
import { type MadePictures, picturesFor } from '../../pictures/made';
import type { MaybePromise, Means } from '../kind';
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
} from './display-list';
import { type Drawing, DrawingBuilder } from './drawing';
import { type DrawingCarries, drawingFeatures } from './features';
import { meanColour, unrolled } from './gradient';
import { areaOf } from './compare-spans';
import { PLAIN_SPAN, type SpanLook, spansInOrder } from './spans';

const isKept = (carry: unknown): carry is 'kept' => carry === 'kept';
/** How a feature is rewritten; null where it is kept or left out. */
const how = <C>(carry: C): Exclude<C, string> | null => (typeof carry === 'object' ? (carry as Exclude<C, string>) : null);

/** What becomes of curves in a target. */
export const curveRules = ({ outlines, arcs, curves }: DrawingCarries): CurveRules => ({
  arcs: how(arcs) ? (how(arcs)!.by ?? 'chords') : 'kept',
  cubics: how(curves)?.by ?? 'kept',
  within: how(curves)?.within ?? how(arcs)?.within ?? 0,
  step: how(outlines)?.step ?? 0,
});

const CHORDS = 'become short lines';

/** A line for each way in which curves can be rewritten. */
export const curveNotes = (lines: CarryLines, { step, arcs, cubics }: CurveRules): CurveNotes => ({
  arcs: lines.line('arcs', 'approximated', 'Arcs', arcs === 'curves' ? 'become curves' : CHORDS),
  curves: lines.line('curves', 'approximated', 'Curves', cubics === 'arcs' ? 'become arcs and lines' : CHORDS),
  kept: lines.line('curves', 'kept', 'Curves', 'stay curves'),
  grid: lines.line('grid', 'approximated', 'Coordinates', `are rounded to steps of ${step} mm`),
});

/** A board as a target can hold it, every rewrite written down. Pure. */
export function adaptDrawing(
  resolved: ResolvedBoard,
  carries: DrawingCarries,
  lines: CarryLines,
  means: Means,
): MaybePromise<Drawing> {
  const pictures = isKept(carries.pictures) || how(carries.pictures) ? picturesFor(resolved, means) : NO_PICTURES;
  return pictures instanceof Promise
    ? pictures.then((made) => adaptWith(resolved, carries, lines, means, made))
    : adaptWith(resolved, carries, lines, means, pictures);
}
const NO_PICTURES: MadePictures = new Map();

function adaptWith(
  resolved: ResolvedBoard,
  carries: DrawingCarries,
  lines: CarryLines,
  means: Means,
  pictures: MadePictures,
): Drawing {
  const { board } = resolved;
  const builder = new DrawingBuilder();
  const spelt = how(carries['layer names'])?.spelt ?? (({ name }: Layer) => name);
  const kept = resolved.spans.filter(({ look }) => keepsSpan(look, carries)).map(({ source }) => source);
  const taken = takenEntries(resolved, () => true, lines, new Set(kept));
  const used = new Set(taken.map(({ layer }) => layer.id));
  const layerNumbers = new Map<string, number>();
  for (const layer of resolved.layers) {
    if (!used.has(layer.id)) continue;
    const label = spelt(layer);
    if (label !== layer.name) lines.line('layer names', 'restated', 'Layer names', how(carries['layer names'])!.words)(layer.id);
    layerNumbers.set(layer.id, builder.layer(label, layerColour(layer, carries)));
  }
  const parts = new Parts(resolved.layers, carries, lines, means, pictures);
  parts.adapt(resolved, taken, builder, (layer) => layerNumbers.get(layer.id)!);
  if (board.background && !isKept(carries.background))
    lines.line('background', 'left out', drawingFeatures.background.words, 'the target has none')(board.id);
  return builder.finish(
    isKept(carries['board size']) ? { width: board.width, height: board.height } : null,
    isKept(carries.background) ? board.background : null,
  );
}

/** Whether clips are there, as they are or as masks. */
const holdsClips = ({ clips }: DrawingCarries): boolean => isKept(clips) || how(clips) !== null;

/** Whether a target holds all that a group does to what is in it. */
const keepsSpan = ({ opacity, blend, clip, mask }: SpanLook, carries: DrawingCarries): boolean =>
  (opacity >= 1 || isKept(carries.opacity)) &&
  (blend === 'normal' || isKept(carries.blending)) &&
  (!clip || holdsClips(carries)) &&
  (!mask || isKept(carries.masks));

/** Adapts a board and what it is painted with. */
class Parts {
  private readonly cells = new Map<ResolvedPart, Drawing>();
  private readonly rules: CurveRules;
  private readonly notes: CurveNotes;
  private readonly left: Readonly<Record<'opacity' | 'blending' | 'clips' | 'masks', LineNote>>;

  constructor(
    private readonly layers: readonly Layer[],
    private readonly carries: DrawingCarries,
    private readonly lines: CarryLines,
    private readonly means: Means,
    private readonly pictures: MadePictures,
  ) {
    this.rules = curveRules(carries);
    this.notes = curveNotes(lines, this.rules);
    const out = (feature: keyof typeof drawingFeatures) =>
      lines.line(feature, 'left out', drawingFeatures[feature].words, 'the target has none');
    this.left = { opacity: out('opacity'), blending: out('blending'), clips: out('clips'), masks: out('masks') };
  }

  adapt(
    part: ResolvedPart,
    taken: readonly { readonly entry: ResolvedEntry; readonly layer: Layer }[],
    builder: DrawingBuilder,
    numberOf: (layer: Layer) => number,
  ): void {
    const { carries, lines, rules, notes } = this;
    const asTheyAre = lines.line('outlines', 'kept', 'Outlines', 'arrive as they are');
    const staysText = lines.line('text', 'kept', 'Text', 'stays text');
    const cell = (name: string) => builder.cell(this.cell(part.cells.get(name)!));
    const showing = (word: string) => builder.picture(this.pictures.get(word)!.drawn);
    const looks = new Looks(carries, lines, cell, showing);
    const [noPictures, remade] = [
      lines.line('pictures', 'left out', drawingFeatures.pictures.words, 'the target has none'),
      lines.line('pictures', 'restated', drawingFeatures.pictures.words, 'become PNG'),
    ];
    const whole = lines.line('pictures', 'kept', drawingFeatures.pictures.words, 'are there byte for byte');
    const unseen = lines.line('unseen', 'left out', 'What has neither fill nor line', 'nothing of it shows');
    const spans = spansInOrder(part.spans);
    const ends: number[] = [];
    let next = 0;
    taken.forEach(({ entry, layer }, at) => {
      for (; spans[next]?.first === at; next++) {
        for (const look of this.looksOf(spans[next]!, builder, cell)) {
          builder.begin(look);
          ends.push(spans[next]!.end);
        }
      }
      const { fill } = entry.style;
      const picture = isPicture(fill) ? this.pictures.get(fill.picture) : undefined;
      if (isPicture(fill)) (picture ? (picture.remade ? remade : whole) : noPictures)(entry.source);
      if (isPicture(fill) && !picture) {
        for (; ends.at(-1) === at + 1; ends.pop()) builder.end();
        return;
      }
      if (how(carries.fills)?.apart && entry.kind === 'path' && entry.style.fill && !picture) {
        this.apart(entry, layer, looks, builder, numberOf);
        for (; ends.at(-1) === at + 1; ends.pop()) builder.end();
        return;
      }
      const style = looks.of(entry, layer);
      if (!style.fill && !style.stroke && how(carries.outlines)?.unseen) {
        unseen(entry.source);
        for (; ends.at(-1) === at + 1; ends.pop()) builder.end();
        return;
      }
      const look = builder.look(style);
      if (entry.kind === 'text' && keepsText(entry, carries, lines)) {
        staysText(entry.source);
        const words = this.placed(entry);
        if (words.text) builder.words(words, numberOf(layer), look, entry.source);
      } else {
        const outlines =
          entry.kind === 'text'
            ? outlineText(entry, this.means.fonts, lines, 'becomes outlines: same look, no longer text')
            : entry.outlines;
        if (entry.kind === 'path' && !picture) asTheyAre(entry.source);
        let any = false;
        for (const outline of outlines) {
          const adapted = adaptOutline(outline, rules, notes, entry.source);
          if (!adapted.segments.length) continue;
          builder.paths.add(adapted);
          any = true;
        }
        if (any) builder.path(numberOf(layer), look, entry.source);
      }
      for (; ends.at(-1) === at + 1; ends.pop()) builder.end();
    });
  }

  /** What is filled, and its line, as two things. */
  private apart(
    entry: ResolvedEntry & { kind: 'path' },
    layer: Layer,
    looks: Looks,
    builder: DrawingBuilder,
    numberOf: (layer: Layer) => number,
  ): void {
    const { rules, notes, lines } = this;
    const { filled, lined } = looks.apart(entry, layer);
    const add = (look: DisplayStyle, closed: boolean) => {
      let any = false;
      for (const outline of entry.outlines) {
        const adapted = adaptOutline(closed ? { ...outline, closed: true } : outline, rules, notes, entry.source);
        if (!adapted.segments.length) continue;
        builder.paths.add(adapted);
        any = true;
      }
      if (any) builder.path(numberOf(layer), builder.look(look), entry.source);
    };
    if (filled) {
      lines.line('fills', 'restated', drawingFeatures.fills.words, 'become hatches')(entry.source);
      add(filled, true);
    }
    if (lined) add(lined, false);
    if (!filled || lined) lines.line('outlines', 'kept', 'Outlines', 'arrive as they are')(entry.source);
  }

  /** A text as the target places it: with a font in the file, and from its start. */
  private placed(entry: ResolvedEntry & { kind: 'text' }): ResolvedEntry & { kind: 'text' } {
    const { carries, lines, means } = this;
    if (how(carries.text)?.from !== 'start') return entry;
    const missing = new Set(means.fonts.missing(entry.font, entry.text));
    if (missing.size) missingCharacters(entry, [...missing], lines);
    const text = missing.size ? [...entry.text].filter((one) => !missing.has(one)).join('') : entry.text;
    if (entry.align === 'start') return { ...entry, text };
    lines.line('text', 'restated', 'Text', 'is placed by where its lines start')(entry.source);
    const width = means.fonts.advance(entry.font, text, entry.size);
    const frame = multiply(entry.frame, translation(entry.align === 'middle' ? -width / 2 : -width, 0));
    return { ...entry, text, frame, align: 'start' };
  }

  /** What a group does, outer first: of two where a clip of several areas stands for itself. */
  private looksOf(span: ResolvedSpan, builder: DrawingBuilder, cell: (name: string) => string): SpanLook[] {
    const look = this.span(span, cell);
    const { clip } = look;
    const several = how(this.carries.clips)?.several;
    if (!several || !clip || clip.length < 2) return [look];
    this.lines.line('clips', 'restated', 'Clips of several areas', 'become soft masks')(span.source);
    const mask = { kind: 'alpha', cell: builder.cell(areaOf(clip)) } as const;
    return look.mask
      ? [
          { ...PLAIN_SPAN, mask },
          { ...look, clip: null },
        ]
      : [{ ...look, clip: null, mask }];
  }

  private span({ look, source }: ResolvedSpan, cell: (name: string) => string): SpanLook {
    const { carries, left } = this;
    const { opacity, blend, clip, mask } = look;
    const [through, mixes, masks] = [carries.opacity, carries.blending, carries.masks].map(isKept);
    const clips = holdsClips(carries);
    if (!through && opacity < 1) left.opacity(source);
    if (!mixes && blend !== 'normal') left.blending(source);
    if (!clips && clip) left.clips(source);
    if (!masks && mask) left.masks(source);
    return {
      opacity: through ? opacity : 1,
      blend: mixes ? blend : 'normal',
      clip: clips ? clip : null,
      mask: masks && mask ? { kind: mask.kind, cell: cell(mask.cell) } : null,
    };
  }

  /** What patterns repeat and masks are made of; layers mean nothing there. */
  private cell(part: ResolvedPart): Drawing {
    let drawing = this.cells.get(part);
    if (!drawing) {
      const builder = new DrawingBuilder();
      const layerOf = new Map(this.layers.map((layer) => [layer.id, layer]));
      const taken = part.entries.map((entry) => ({ entry, layer: layerOf.get(entry.layerId)! }));
      this.adapt(part, taken, builder, () => builder.layer(''));
      this.cells.set(part, (drawing = builder.finish(null, null)));
    }
    return drawing;
  }
}

function layerColour({ colour }: Layer, carries: DrawingCarries): string | null {
  if (carries['layer colours'] === 'left out') return null;
  const palette = how(carries['layer colours'])?.palette;
  return palette ? nearestColour(colour, palette) : colour;
}

/** Looks as a target can hold them. */
class Looks {
  private readonly made = new Map<string, DisplayStyle>();
  private readonly note: Readonly<
    Record<'fill' | 'wording' | 'stroke' | 'width' | 'opacity' | 'dashes' | 'ends' | 'pens' | 'gradients' | 'patterns', LineNote>
  >;
  private readonly nearestColours: LineNote;
  private readonly nearestWidths: LineNote;

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
      dashes: how(carries.dashes)
        ? lines.line('dashes', 'restated', drawingFeatures.dashes.words, how(carries.dashes)!.words)
        : out('dashes'),
      ends: out('line ends'),
      pens: out('pens'),
      gradients: how(carries.gradients) ? near('gradients') : out('gradients'),
      patterns: out('patterns'),
    };
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

  /** Fill and line of an entry as looks of their own; neither only where nothing of it shows. */
  apart(entry: ResolvedEntry, on: Layer): { filled: DisplayStyle | null; lined: DisplayStyle | null } {
    const { carries } = this;
    const { style, source } = entry;
    const { opacity, fillOpacity = 1, strokeOpacity = 1 } = style;
    const palette = how(carries.fills)?.palette;
    const paint = this.paint(style.fill, source, () => boxOfEntry(entry));
    const colour = typeof paint === 'string' ? (palette ? nearestColour(paint, palette) : paint) : null;
    if (colour !== null && colour !== paint) this.nearestColours(source);
    const share = (one: number) => (how(carries.opacity) ? this.share(opacity * one) : 1);
    if (isSeeThrough(style) && !how(carries.opacity)) this.note.opacity(source);
    const filled =
      colour === null ? null : ({ ...plainStyle, fill: colour, fillRule: 'evenodd', opacity: share(fillOpacity) } as const);
    const bare = { ...entry, style: { ...style, fill: null, fillOpacity: 1, strokeOpacity: 1, opacity: share(strokeOpacity) } };
    return { filled, lined: style.stroke || !filled ? this.of(bare, on) : null };
  }

  /** A share as the target states it. */
  private share(one: number): number {
    const steps = how(this.carries.opacity)?.steps;
    return steps ? Math.round(one * steps) / steps : one;
  }

  private shares(found: ReturnType<typeof sharesOf>): ReturnType<typeof sharesOf> {
    return how(this.carries.opacity) ? { ...found, opacity: this.share(found.opacity) } : found;
  }

  of(entry: ResolvedEntry, on: Layer): DisplayStyle {
    const { carries, note } = this;
    const { style, source, kind } = entry;
    const [fills, opaque] = [isKept(carries.fills), !isKept(carries.opacity) && !how(carries.opacity)];
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
      ...this.shares(sharesOf(opaque ? {} : style, fill !== null, stroke !== null)),
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

/** Programs write matrices with six decimals; a few of them one inside the other are off by this much at most. */
const SIX_DECIMALS = 4e-6;

function keepsText(entry: ResolvedEntry & { kind: 'text' }, { text }: DrawingCarries, lines: CarryLines): boolean {
  const rewritten = how(text);
  if (!rewritten) return text === 'kept';
  if (rewritten.when === 'always') return false;
  // A format that gives text only a place, a height and a turn can't hold a slanted or mirrored line.
  const upright = isSimilarity(entry.frame, SIX_DECIMALS) && determinant(entry.frame) > 0;
  if (!upright) lines.line('slanted text', 'restated', 'Slanted or mirrored text', 'becomes outlines')(entry.source);
  return upright;
}
