import type { CarryLines, LineNote } from '../../copies/report';
import { determinant, isSimilarity } from '../../geometry/matrix';
import type { Layer } from '../../master/schema';
import type { ResolvedBoard, ResolvedEntry } from '../../master/resolve';
import { type CurveNotes, type CurveRules, adaptOutline } from '../boards/curves';
import { outlineText, takenEntries } from '../boards/source';
import type { Means } from '../kind';
import { nearestColour } from './colour';
import type { DisplayStyle } from './display-list';
import { type Drawing, DrawingBuilder } from './drawing';
import { type DrawingCarries, drawingFeatures } from './features';

const isKept = (carry: unknown): carry is 'kept' => carry === 'kept';
/** How a feature is rewritten; null where it is kept or left out. */
const how = <C>(carry: C): Exclude<C, string> | null => (typeof carry === 'object' ? (carry as Exclude<C, string>) : null);

/** What becomes of curves in a target. */
export const curveRules = ({ outlines, arcs, curves }: DrawingCarries): CurveRules => ({
  arcs: how(arcs) ? 'chords' : 'kept',
  cubics: how(curves)?.by ?? 'kept',
  within: how(curves)?.within ?? how(arcs)?.within ?? 0,
  step: how(outlines)?.step ?? 0,
});

const CHORDS = 'become short lines';

/** A line for each way in which curves can be rewritten. */
export const curveNotes = (lines: CarryLines, { step, cubics }: CurveRules): CurveNotes => ({
  arcs: lines.line('arcs', 'approximated', 'Arcs', CHORDS),
  curves: lines.line('curves', 'approximated', 'Curves', cubics === 'arcs' ? 'become arcs and lines' : CHORDS),
  kept: lines.line('curves', 'kept', 'Curves', 'stay curves'),
  grid: lines.line('grid', 'approximated', 'Coordinates', `are rounded to steps of ${step} mm`),
});

/** A board as a target can hold it, every rewrite written down. Pure. */
export function adaptDrawing(resolved: ResolvedBoard, carries: DrawingCarries, lines: CarryLines, { fonts }: Means): Drawing {
  const { board } = resolved;
  const taken = takenEntries(resolved, () => true, lines);
  const builder = new DrawingBuilder();
  const spelt = how(carries['layer names'])?.spelt ?? (({ name }: Layer) => name);
  const used = new Set(taken.map(({ layer }) => layer.id));
  const layerNumbers = new Map<string, number>();
  for (const layer of resolved.layers) {
    if (!used.has(layer.id)) continue;
    const label = spelt(layer);
    if (label !== layer.name) lines.line('layer names', 'restated', 'Layer names', how(carries['layer names'])!.words)(layer.id);
    layerNumbers.set(layer.id, builder.layer(label, layerColour(layer, carries)));
  }
  const rules = curveRules(carries);
  const notes = curveNotes(lines, rules);
  const asTheyAre = lines.line('outlines', 'kept', 'Outlines', 'arrive as they are');
  const staysText = lines.line('text', 'kept', 'Text', 'stays text');
  const looks = new Looks(carries, lines);
  for (const { entry, layer } of taken) {
    const look = builder.look(looks.of(entry, layer));
    const onLayer = layerNumbers.get(layer.id)!;
    if (entry.kind === 'text' && keepsText(entry, carries, lines)) {
      staysText(entry.source);
      builder.words(entry, onLayer, look, entry.source);
      continue;
    }
    const outlines =
      entry.kind === 'text' ? outlineText(entry, fonts, lines, 'becomes outlines: same look, no longer text') : entry.outlines;
    if (entry.kind === 'path') asTheyAre(entry.source);
    let any = false;
    for (const outline of outlines) {
      const adapted = adaptOutline(outline, rules, notes, entry.source);
      if (!adapted.segments.length) continue;
      builder.paths.add(adapted);
      any = true;
    }
    if (any) builder.path(onLayer, look, entry.source);
  }
  if (board.background && !isKept(carries.background))
    lines.line('background', 'left out', drawingFeatures.background.words, 'the target has none')(board.id);
  return builder.finish(
    isKept(carries['board size']) ? { width: board.width, height: board.height } : null,
    isKept(carries.background) ? board.background : null,
  );
}

function layerColour({ colour }: Layer, carries: DrawingCarries): string | null {
  if (carries['layer colours'] === 'left out') return null;
  const palette = how(carries['layer colours'])?.palette;
  return palette ? nearestColour(colour, palette) : colour;
}

/** Looks as a target can hold them. */
class Looks {
  private readonly made = new Map<string, DisplayStyle>();
  private readonly leftOut: Readonly<Record<'fill' | 'wording' | 'stroke' | 'width' | 'opacity', LineNote>>;
  private readonly nearestColours: LineNote;
  private readonly nearestWidths: LineNote;

  constructor(
    private readonly carries: DrawingCarries,
    lines: CarryLines,
  ) {
    const out = (feature: keyof typeof drawingFeatures, words = drawingFeatures[feature].words) =>
      lines.line(feature, 'left out', words, 'the target has none');
    this.leftOut = {
      fill: out('fills'),
      wording: out('fills', 'Colour of text'),
      stroke: out('line colours'),
      width: out('line widths'),
      opacity: out('opacity'),
    };
    const near = (feature: 'line colours' | 'line widths') =>
      lines.line(feature, 'approximated', drawingFeatures[feature].words, how(carries[feature])?.words ?? '');
    this.nearestColours = near('line colours');
    this.nearestWidths = near('line widths');
  }

  of({ style, source, kind }: ResolvedEntry, on: Layer): DisplayStyle {
    const { carries } = this;
    const [fills, colours, widths] = [isKept(carries.fills), carries['line colours'], carries['line widths']];
    if (style.fill && !fills) this.leftOut[kind === 'text' ? 'wording' : 'fill'](source);
    if (style.stroke && colours === 'left out') this.leftOut.stroke(source);
    if (style.stroke && widths === 'left out') this.leftOut.width(source);
    if (style.opacity < 1 && !isKept(carries.opacity)) this.leftOut.opacity(source);
    const [palette, unstroked] = [how(colours)?.palette, how(colours)?.unstroked];
    let stroke = colours === 'left out' ? null : style.stroke;
    if (stroke && palette) {
      const found = nearestColour(stroke, palette);
      if (found !== stroke) this.nearestColours(source);
      stroke = found;
    }
    if (!stroke && unstroked) stroke = palette ? nearestColour(on.colour, palette) : on.colour;
    let strokeWidth = stroke && widths !== 'left out' ? style.strokeWidth : 0;
    const some = how(widths)?.widths;
    if (stroke && some) {
      const nearest = some.reduce((best, width) => (Math.abs(width - strokeWidth) < Math.abs(best - strokeWidth) ? width : best));
      const off = Math.abs(nearest - strokeWidth);
      if (off > 1e-9) this.nearestWidths(source, source, off);
      strokeWidth = nearest;
    }
    const fill = fills ? style.fill : null;
    const [fillRule, opacity] = [fill ? style.fillRule : 'nonzero', isKept(carries.opacity) ? style.opacity : 1];
    // One object for each look: a drawing has few, and many entries.
    const key = `${fill}|${fillRule}|${stroke}|${strokeWidth}|${opacity}`;
    let look = this.made.get(key);
    if (!look) this.made.set(key, (look = { fill, fillRule, stroke, strokeWidth, opacity }));
    return look;
  }
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
