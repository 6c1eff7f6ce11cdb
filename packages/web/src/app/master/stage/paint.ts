import {
  type Box,
  type DisplayEntry,
  type DisplayStyle,
  type Outline,
  type TextEntry,
  boxOfOutlines,
  sweepOf,
} from '@inkwell-twin/core/web';
import type { Manner } from '../../content/shown';
import type { View } from './view';

const paths = new WeakMap<DisplayEntry, Path2D>();
const boxes = new WeakMap<DisplayEntry, Box>();

function addOutline(path: Path2D, { start, segments, closed }: Outline): void {
  path.moveTo(start[0], start[1]);
  let from = start;
  for (const segment of segments) {
    const { to } = segment;
    if (segment.kind === 'line') path.lineTo(to[0], to[1]);
    else if (segment.kind === 'cubic') path.bezierCurveTo(...segment.c1, ...segment.c2, ...to);
    else {
      const [cx, cy] = segment.centre;
      const angle = Math.atan2(from[1] - cy, from[0] - cx);
      const sweep = sweepOf(from, segment);
      path.arc(cx, cy, Math.hypot(from[0] - cx, from[1] - cy), angle, angle + sweep, sweep < 0);
    }
    from = to;
  }
  if (closed) path.closePath();
}

/** The entry's outlines in board millimetres, made once per entry. */
export function pathOf(entry: DisplayEntry & { kind: 'path' }): Path2D {
  let path = paths.get(entry);
  if (!path) {
    path = new Path2D();
    for (const outline of entry.outlines) addOutline(path, outline);
    paths.set(entry, path);
  }
  return path;
}

const FACES: Record<string, string> = {
  Commissioner: '400 1px Commissioner',
  'Commissioner Bold': '700 1px Commissioner',
  'Spline Sans Mono': "400 1px 'Spline Sans Mono'",
};
const measure = document.createElement('canvas').getContext('2d')!;
const PER_EM = 100;

const faceOf = (font: string, size: number): string => FACES[font]!.replace('1px', `${size}px`);

/** A line of text as it stands on the board. */
type Words = Pick<TextEntry, 'text' | 'frame' | 'size' | 'font' | 'align'>;

function textWidth({ text, font, size }: Words): number {
  measure.font = faceOf(font, PER_EM);
  return (measure.measureText(text).width / PER_EM) * size;
}

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

/** Draws a path; the context has the board's axes. */
export function paintPath(
  context: CanvasRenderingContext2D,
  path: Path2D,
  style: DisplayStyle,
  view: View,
  manner?: Manner,
): void {
  context.globalAlpha = manner ? 1 : style.opacity;
  const fill = manner ? manner.fill : style.fill;
  const stroke = manner ? manner.stroke : style.stroke;
  // A line is never thinner than a hair on screen, whatever it measures.
  context.lineWidth = manner ? manner.width / view.scale : Math.max(style.strokeWidth, 0.9 / view.scale);
  context.lineJoin = 'round';
  if (fill) {
    context.fillStyle = fill;
    context.fill(path, style.fillRule);
  }
  if (stroke) {
    context.strokeStyle = stroke;
    context.stroke(path);
  }
  context.globalAlpha = 1;
}

/** Draws a line of text; the context has the board's axes. */
export function paintWords(context: CanvasRenderingContext2D, words: Words, style: DisplayStyle, manner?: Manner): void {
  context.save();
  context.globalAlpha = manner ? 1 : style.opacity;
  context.transform(...words.frame);
  context.scale(words.size / PER_EM, -words.size / PER_EM);
  context.font = faceOf(words.font, PER_EM);
  context.textAlign = words.align === 'middle' ? 'center' : words.align;
  context.fillStyle = manner?.stroke ?? style.fill ?? style.stroke ?? '#000000';
  context.fillText(words.text, 0, 0);
  context.restore();
}

/** Draws one entry; the context has the board's axes. */
export function paintEntry(context: CanvasRenderingContext2D, entry: DisplayEntry, view: View, manner?: Manner): void {
  if (entry.kind === 'path') paintPath(context, pathOf(entry), entry.style, view, manner);
  else paintWords(context, entry, entry.style, manner);
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

/** Makes sure that the shipped fonts are there before text is drawn or measured. */
export const fontsReady = (): Promise<unknown> =>
  Promise.all([
    document.fonts.load('400 20px Commissioner'),
    document.fonts.load('700 20px Commissioner'),
    document.fonts.load("400 20px 'Spline Sans Mono'"),
  ]);
