import type { FontBook } from '../fonts/font-book';
import { flatten } from '../geometry/flatten';
import { arcsOfCubic } from '../geometry/fit-arcs';
import { determinant, isSimilarity } from '../geometry/matrix';
import { type Outline, type Segment, endOf, fromPoints } from '../geometry/outline';
import { type Point, near } from '../geometry/point';
import type { ResolvedBoard, ResolvedEntry } from '../master/resolve';
import type { Layer } from '../master/schema';
import type { DisplayEntry, DisplayList, DisplayStyle } from '../projection/display-list';
import type { Carries } from '../targets/target';
import { nearestColour } from './colour';
import { CarryLines, type CarryReport } from './report';

/**
 * Rewrites what a target can't hold and writes down every rewrite. Pure.
 * @returns the projection (what the copy will say) and the carry-over report
 */
export function adapt(
  resolved: ResolvedBoard,
  carries: Carries,
  fonts: FontBook,
): { projection: DisplayList; report: CarryReport } {
  const lines = new CarryLines();
  const layers = new Map(resolved.layers.map((layer) => [layer.id, layer]));
  const taken = resolved.entries.filter((entry) => {
    const layer = layers.get(entry.layerId)!;
    if (carries.processes === 'all' || carries.processes.includes(layer.process)) return true;
    lines.add(
      `layer:${layer.id}`,
      'left out',
      `Objects on “${layer.name}” (${layer.process})`,
      'not for this machine',
      entry.source,
    );
    return false;
  });
  for (const id of resolved.hidden) lines.add('hidden', 'left out', 'Objects on hidden layers', 'hidden in the master', id);

  const entries: DisplayEntry[] = [];
  for (const entry of taken) {
    noteStructure(entry, lines);
    const layer = carries.layerLabel(layers.get(entry.layerId)!);
    const style = adaptStyle(entry, layers.get(entry.layerId)!, carries, lines);
    const { source } = entry;
    if (entry.kind === 'text' && keepsText(entry, carries, lines)) {
      const { text, frame, size, font, align } = entry;
      lines.add('text', 'kept', 'Text', 'stays text', source);
      entries.push({ kind: 'text', text, frame, size, font, align, layer, style, source });
      continue;
    }
    const outlines = entry.kind === 'text' ? outlineText(entry, fonts, lines) : entry.outlines;
    if (entry.kind === 'path') lines.add('outlines', 'kept', 'Outlines', 'arrive as they are', source);
    const adapted = outlines.map((outline) => adaptOutline(outline, carries, lines, source)).filter((one) => one.segments.length);
    if (adapted.length) entries.push({ kind: 'path', outlines: adapted, layer, style, source });
  }

  const used = new Set(taken.map(({ layerId }) => layerId));
  const labels = new Map<string, string | null>();
  for (const layer of resolved.layers) {
    if (!used.has(layer.id)) continue;
    const label = carries.layerLabel(layer);
    if (label !== layer.name)
      lines.add(
        'layer names',
        'restated',
        'Layer names',
        carries.layerNames === 'process' ? 'become pens by their process' : 'are spelt as the format allows',
        layer.id,
      );
    if (!labels.has(label)) labels.set(label, carries.layerColour ? colourFor(layer.colour, carries) : null);
  }
  const { board } = resolved;
  if (board.background && !carries.background)
    lines.add('background', 'left out', 'Background of the board', 'the target has none', board.id);
  return {
    projection: {
      kind: 'display-list',
      sheet: carries.sheet ? { width: board.width, height: board.height } : null,
      background: carries.background ? board.background : null,
      layers: [...labels].map(([name, colour]) => ({ name, colour })),
      entries,
    },
    report: lines.report(new Set([...resolved.entries.map(({ source }) => source), ...resolved.hidden])),
  };
}

function noteStructure(entry: ResolvedEntry, lines: CarryLines): void {
  for (const holder of entry.within)
    if (holder.kind === 'use') lines.add('uses', 'restated', 'Symbol uses', 'arrive as separate shapes', entry.source, holder.id);
    else lines.add('groups', 'restated', 'Groups', 'arrive opened', entry.source, holder.id);
  if (entry.kind === 'text' && entry.line)
    lines.add('lines', 'restated', 'Text of several lines', 'arrives as one text each line', entry.source);
}

const colourFor = (colour: string, carries: Carries): string =>
  carries.palette ? nearestColour(colour, carries.palette) : colour;

function adaptStyle({ style, source, kind }: ResolvedEntry, on: Layer, carries: Carries, lines: CarryLines): DisplayStyle {
  const leftOut = (feature: string, words: string) => lines.add(feature, 'left out', words, 'the target has none', source);
  if (style.fill && !carries.fill) leftOut('fills', kind === 'text' ? 'Colour of text' : 'Fills');
  if (style.stroke && !carries.stroke) leftOut('line colours', 'Line colours');
  if (style.stroke && !carries.strokeWidth) leftOut('line widths', 'Line widths');
  if (style.opacity < 1 && !carries.opacity) leftOut('opacity', 'Opacity');
  const fill = carries.fill ? style.fill : null;
  let stroke = carries.stroke ? style.stroke : null;
  if (stroke && carries.palette) {
    const found = colourFor(stroke, carries);
    if (found !== stroke)
      lines.add('line colours', 'approximated', 'Line colours', 'become the nearest of the format’s colours', source);
    stroke = found;
  }
  if (!stroke && carries.unstroked) stroke = colourFor(on.colour, carries);
  let strokeWidth = stroke && carries.strokeWidth ? style.strokeWidth : 0;
  if (stroke && Array.isArray(carries.strokeWidth)) {
    const nearest = (carries.strokeWidth as readonly number[]).reduce((best, width) =>
      Math.abs(width - strokeWidth) < Math.abs(best - strokeWidth) ? width : best,
    );
    const off = Math.abs(nearest - strokeWidth);
    if (off > 1e-9)
      lines.add('line widths', 'approximated', 'Line widths', 'become the nearest standard width', source, source, off);
    strokeWidth = nearest;
  }
  return {
    fill,
    fillRule: fill ? style.fillRule : 'nonzero',
    stroke,
    strokeWidth,
    opacity: carries.opacity ? style.opacity : 1,
  };
}

/** Programs write matrices with six decimals; a few of them one inside the other are off by this much at most. */
const SIX_DECIMALS = 4e-6;

function keepsText(entry: ResolvedEntry & { kind: 'text' }, carries: Carries, lines: CarryLines): boolean {
  if (carries.text === 'outlines') return false;
  if (carries.text === 'kept') return true;
  // A format that gives text only a place, a height and a turn can't hold a slanted or mirrored line.
  const upright = isSimilarity(entry.frame, SIX_DECIMALS) && determinant(entry.frame) > 0;
  if (!upright) lines.add('slanted text', 'restated', 'Slanted or mirrored text', 'becomes outlines', entry.source);
  return upright;
}

function outlineText(entry: ResolvedEntry & { kind: 'text' }, fonts: FontBook, lines: CarryLines): readonly Outline[] {
  const { outlines, missing } = fonts.outline(entry);
  lines.add('text', 'restated', 'Text', 'becomes outlines: same look, no longer text', entry.source);
  if (missing.length)
    lines.add(
      'characters',
      'left out',
      `Characters ${[...new Set(missing)].slice(0, 8).join(' ')}`,
      `are not in ${entry.font}`,
      entry.source,
    );
  return outlines;
}

function adaptOutline(outline: Outline, carries: Carries, lines: CarryLines, source: string): Outline {
  const hasArcs = outline.segments.some(({ kind }) => kind === 'arc');
  const hasCubics = outline.segments.some(({ kind }) => kind === 'cubic');
  const arcsToChords = hasArcs && carries.arcs === 'chords';
  if (hasCubics && carries.cubics === 'kept') lines.add('curves', 'kept', 'Curves', 'stay curves', source);
  if (!arcsToChords && !(hasCubics && carries.cubics !== 'kept')) return rounded(outline, carries, lines, source);
  const segments: Segment[] = [];
  let from = outline.start;
  for (const segment of outline.segments) {
    if (segment.kind === 'cubic' && carries.cubics === 'arcs') {
      const { pieces, deviation } = arcsOfCubic(from, segment, carries.chord);
      lines.add('curves', 'approximated', 'Curves', 'become arcs and lines', source, source, deviation);
      segments.push(...pieces);
    } else if (segment.kind === 'line' || (segment.kind === 'arc' && carries.arcs === 'kept')) segments.push(segment);
    else {
      const points = flatten({ start: from, segments: [segment], closed: false }, carries.chord);
      lines.add(
        segment.kind === 'arc' ? 'arcs' : 'curves',
        'approximated',
        segment.kind === 'arc' ? 'Arcs' : 'Curves',
        'become short lines',
        source,
        source,
        worstSagitta(from, segment, points),
      );
      for (let i = 2; i < points.length; i += 2) segments.push({ kind: 'line', to: [points[i]!, points[i + 1]!] });
    }
    from = segment.to;
  }
  return rounded({ ...outline, segments }, carries, lines, source);
}

/** How far a curve stands off its chords, measured at sixteen times as many points, mm. */
function worstSagitta(from: Point, segment: Segment, chords: readonly number[]): number {
  const count = chords.length / 2 - 1;
  const fine = flatten({ start: from, segments: [segment], closed: false }, 1e-5);
  // Both run along the same parameter, so each chord is compared with its own stretch of the fine polyline only.
  const each = (fine.length / 2 - 1) / count;
  let worst = 0;
  for (let k = 0; k < count; k++) {
    const [ax, ay, bx, by] = [chords[2 * k]!, chords[2 * k + 1]!, chords[2 * k + 2]!, chords[2 * k + 3]!];
    const length = Math.hypot(bx - ax, by - ay) || 1;
    for (let j = Math.ceil(k * each); j <= Math.floor((k + 1) * each); j++) {
      const off = Math.abs((bx - ax) * (fine[2 * j + 1]! - ay) - (by - ay) * (fine[2 * j]! - ax)) / length;
      if (off > worst) worst = off;
    }
  }
  return worst;
}

/** Coordinates on the target's grid, and how far they moved. Steps that are too small to matter to anyone are left alone. */
function rounded(outline: Outline, carries: Carries, lines: CarryLines, source: string): Outline {
  const { step } = carries;
  if (!step) return outline;
  let worst = 0;
  const snap = (p: Point): Point => {
    const q: Point = [Math.round(p[0] / step) * step, Math.round(p[1] / step) * step];
    worst = Math.max(worst, Math.hypot(p[0] - q[0], p[1] - q[1]));
    return q;
  };
  const points = [snap(outline.start)];
  for (const segment of outline.segments) {
    const next = snap(segment.to);
    if (!near(points.at(-1)!, next, 1e-9)) points.push(next);
  }
  if (outline.closed && points.length > 1 && near(points[0]!, endOf(fromPoints(points, false)), 1e-9)) points.pop();
  if (worst > 1e-9) lines.add('grid', 'approximated', 'Coordinates', `are rounded to steps of ${step} mm`, source, source, worst);
  return fromPoints(points, outline.closed);
}
