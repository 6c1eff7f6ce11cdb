import {
  type Box,
  type DisplayEntry,
  type DisplayStyle,
  type FontName,
  type LineForm,
  type Measure,
  PLAIN_LINE,
  type TextEntry,
  boxOfOutlines,
  faceOf as faceByName,
  multiply,
  scaling,
} from '@inkwell-twin/core/web';
import type { Manner } from '../../content/shown';
import { type Cells, NO_CELLS, fillPath, inkForWords, strokePath } from './brush';
import { pathOfOutlines } from './outline-path';
import type { View } from './view';

const paths = new WeakMap<DisplayEntry, Path2D>();
const boxes = new WeakMap<DisplayEntry, Box>();

/** The entry's outlines in board millimetres, made once per entry. */
function pathOf(entry: DisplayEntry & { kind: 'path' }): Path2D {
  let path = paths.get(entry);
  if (!path) {
    path = pathOfOutlines(entry.outlines);
    paths.set(entry, path);
  }
  return path;
}

const measure = document.createElement('canvas').getContext('2d')!;
const PER_EM = 100;

/** A shipped font as a canvas names it. */
function faceOf(font: FontName, size: number): string {
  const { family, generic, bold, italic } = faceByName(font);
  return `${italic ? 'italic ' : ''}${bold ? 700 : 400} ${size}px '${family}', ${generic}`;
}

/** A line of text as it stands on the board. */
type Words = Pick<TextEntry, 'text' | 'frame' | 'size' | 'font' | 'align' | 'spacing'>;

/** How far a text runs on the stage, ems. */
export const widthOnStage: Measure = (font, text) => {
  measure.font = faceOf(font, PER_EM);
  return measure.measureText(text).width / PER_EM;
};

const textWidth = ({ text, font, size, spacing = 0 }: Words): number =>
  widthOnStage(font, text) * size + spacing * [...text].length;

/** The box of a line of text on the board, mm. */
export function boxOfWords(words: Words): Box {
  const { size, align } = words;
  const width = textWidth(words);
  const left = align === 'start' ? 0 : align === 'middle' ? -width / 2 : -width;
  const [a, b, c, d, e, f] = words.frame;
  const corners = [left, left + width].flatMap((x) =>
    [-0.22 * size, 0.74 * size].map((y) => [a * x + c * y + e, b * x + d * y + f] as const),
  );
  return {
    minX: Math.min(...corners.map(([x]) => x)),
    minY: Math.min(...corners.map(([, y]) => y)),
    maxX: Math.max(...corners.map(([x]) => x)),
    maxY: Math.max(...corners.map(([, y]) => y)),
  };
}

/** The box of an entry on the board, mm. */
export function boxOf(entry: DisplayEntry): Box {
  let box = boxes.get(entry);
  if (!box) boxes.set(entry, (box = entry.kind === 'path' ? boxOfOutlines(entry.outlines) : boxOfWords(entry)));
  return box;
}

/** Puts the board's axes onto the canvas: millimetres, y upwards. */
export function boardAxes(context: CanvasRenderingContext2D, view: View, ratio: number, dx = 0, dy = 0): void {
  context.setTransform(
    ratio * view.scale,
    0,
    0,
    -ratio * view.scale,
    ratio * (view.x + dx * view.scale),
    ratio * (view.y - dy * view.scale),
  );
}

/** Draws a path; the context has the board's axes. @param box of the path */
export function paintPath(
  context: CanvasRenderingContext2D,
  path: Path2D,
  style: DisplayStyle,
  view: View,
  box: () => Box,
  manner?: Manner,
  cells: Cells = NO_CELLS,
): void {
  if (manner) {
    context.globalAlpha = 1;
    if (manner.fill) fillPath(context, path, manner.fill, style.fillRule, box, cells);
    const { stroke, width } = manner;
    return strokePath(context, path, { ...style, stroke, strokeWidth: 0, line: ROUNDED }, width / view.scale, box, cells);
  }
  const { fill, fillRule, stroke, opacity, fillOpacity = 1, strokeOpacity = 1 } = style;
  if (fill) {
    context.globalAlpha = opacity * fillOpacity;
    fillPath(context, path, fill, fillRule, box, cells);
  }
  if (stroke) {
    context.globalAlpha = opacity * strokeOpacity;
    // A line is never thinner than a hair on screen, whatever it measures.
    strokePath(context, path, style, 0.9 / view.scale, box, cells);
  }
  context.globalAlpha = 1;
}
const ROUNDED: LineForm = { ...PLAIN_LINE, join: 'round' };

/** Draws a line of text; the context has the board's axes. */
export function paintWords(
  context: CanvasRenderingContext2D,
  words: Words,
  style: DisplayStyle,
  manner?: Manner,
  cells: Cells = NO_CELLS,
): void {
  context.save();
  context.globalAlpha = manner ? 1 : style.opacity;
  const scale = words.size / PER_EM;
  const toBoard = multiply(words.frame, scaling(scale, -scale));
  context.transform(...toBoard);
  context.font = faceOf(words.font, PER_EM);
  context.letterSpacing = `${((words.spacing ?? 0) / words.size) * PER_EM}px`;
  context.textAlign = words.align === 'middle' ? 'center' : words.align;
  const paint = manner?.stroke ?? style.fill ?? style.stroke ?? '#000000';
  context.fillStyle = inkForWords(context, paint, toBoard, () => boxOfWords(words), cells);
  context.fillText(words.text, 0, 0);
  context.restore();
}

/** Draws one entry; the context has the board's axes. */
export function paintEntry(
  context: CanvasRenderingContext2D,
  entry: DisplayEntry,
  view: View,
  manner?: Manner,
  cells: Cells = NO_CELLS,
): void {
  if (entry.kind === 'path') paintPath(context, pathOf(entry), entry.style, view, () => boxOf(entry), manner, cells);
  else paintWords(context, entry, entry.style, manner, cells);
}

/** Draws the ground of a board. */
export function paintSheet(
  context: CanvasRenderingContext2D,
  sheet: { width: number; height: number },
  background: string | null,
  view: View,
  line: string,
): void {
  context.fillStyle = background ?? '#ffffff';
  context.fillRect(0, 0, sheet.width, sheet.height);
  context.lineWidth = 1 / view.scale;
  context.strokeStyle = line;
  context.strokeRect(0, 0, sheet.width, sheet.height);
}

/** Whether a point of the board is inside a path's fill, or within `reach` mm of its line. */
export function isOnPath(path: Path2D, style: DisplayStyle, x: number, y: number, reach: number): boolean {
  if (style.fill && measure.isPointInPath(path, x, y, style.fillRule)) return true;
  measure.lineWidth = Math.max(style.strokeWidth, 2 * reach);
  return measure.isPointInStroke(path, x, y);
}

/** Whether a point of the board is on an entry. */
export function isHit(entry: DisplayEntry, x: number, y: number, reach: number): boolean {
  const box = boxOf(entry);
  if (x < box.minX - reach || x > box.maxX + reach || y < box.minY - reach || y > box.maxY + reach) return false;
  return entry.kind === 'text' || isOnPath(pathOf(entry), entry.style, x, y, reach);
}

const asked = new Set<string>();

/** Makes sure that fonts are there before text is drawn or measured with them. @returns whether any had to be fetched */
export async function fontsReady(fonts: Iterable<FontName>): Promise<boolean> {
  const fresh = [...new Set(fonts)].filter((font) => !asked.has(font));
  for (const font of fresh) asked.add(font);
  // What can't be fetched is drawn in the font that stands in for it.
  await Promise.allSettled(fresh.map((font) => document.fonts.load(faceOf(font, 20))));
  return fresh.length > 0;
}
