import { type Box, type DisplayEntry, type DisplayList, type Outline, boxOfOutlines, sweepOf } from '@inkwell-twin/core/web';
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

function textWidth({ text, font, size }: DisplayEntry & { kind: 'text' }): number {
  measure.font = faceOf(font, PER_EM);
  return (measure.measureText(text).width / PER_EM) * size;
}

/** The box of an entry on the board, mm. */
export function boxOf(entry: DisplayEntry): Box {
  let box = boxes.get(entry);
  if (box) return box;
  if (entry.kind === 'path') box = boxOfOutlines(entry.outlines);
  else {
    const width = textWidth(entry);
    const left = entry.align === 'start' ? 0 : entry.align === 'middle' ? -width / 2 : -width;
    const [a, b, c, d, e, f] = entry.frame;
    const corners = [left, left + width].flatMap((x) =>
      [-0.22 * entry.size, 0.74 * entry.size].map((y) => [a * x + c * y + e, b * x + d * y + f] as const),
    );
    box = {
      minX: Math.min(...corners.map(([x]) => x)),
      minY: Math.min(...corners.map(([, y]) => y)),
      maxX: Math.max(...corners.map(([x]) => x)),
      maxY: Math.max(...corners.map(([, y]) => y)),
    };
  }
  boxes.set(entry, box);
  return box;
}

/** How an entry is drawn where its own look is not wanted. */
export interface Manner {
  readonly stroke: string;
  readonly fill: string | null;
  /** Pixels. */
  readonly width: number;
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

/** Draws one entry; the context has the board's axes. */
export function paintEntry(context: CanvasRenderingContext2D, entry: DisplayEntry, view: View, manner?: Manner): void {
  const { style } = entry;
  context.globalAlpha = manner ? 1 : style.opacity;
  const fill = manner ? manner.fill : style.fill;
  const stroke = manner ? manner.stroke : style.stroke;
  // A line is never thinner than a hair on screen, whatever it measures.
  context.lineWidth = manner ? manner.width / view.scale : Math.max(style.strokeWidth, 0.9 / view.scale);
  context.lineJoin = 'round';
  if (entry.kind === 'path') {
    const path = pathOf(entry);
    if (fill) {
      context.fillStyle = fill;
      context.fill(path, style.fillRule);
    }
    if (stroke) {
      context.strokeStyle = stroke;
      context.stroke(path);
    }
  } else {
    context.save();
    const [a, b, c, d, e, f] = entry.frame;
    context.transform(a, b, c, d, e, f);
    context.scale(entry.size / PER_EM, -entry.size / PER_EM);
    context.font = faceOf(entry.font, PER_EM);
    context.textAlign = entry.align === 'middle' ? 'center' : entry.align;
    context.fillStyle = (manner ? manner.stroke : (fill ?? stroke)) ?? '#000000';
    context.fillText(entry.text, 0, 0);
    context.restore();
  }
  context.globalAlpha = 1;
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

/** The box of everything in a list, its sheet included. */
export function boxOfList({ sheet, entries }: Pick<DisplayList, 'sheet' | 'entries'>): Box {
  const all = entries.map(boxOf);
  if (sheet) all.push({ minX: 0, minY: 0, maxX: sheet.width, maxY: sheet.height });
  return all.reduce(
    (joined, box) => ({
      minX: Math.min(joined.minX, box.minX),
      minY: Math.min(joined.minY, box.minY),
      maxX: Math.max(joined.maxX, box.maxX),
      maxY: Math.max(joined.maxY, box.maxY),
    }),
    all[0] ?? { minX: 0, minY: 0, maxX: 100, maxY: 100 },
  );
}

/** Whether a point of the board is on an entry: inside its fill, or within `reach` mm of its line. */
export function isHit(entry: DisplayEntry, x: number, y: number, reach: number): boolean {
  const box = boxOf(entry);
  if (x < box.minX - reach || x > box.maxX + reach || y < box.minY - reach || y > box.maxY + reach) return false;
  if (entry.kind === 'text') return true;
  const path = pathOf(entry);
  if (entry.style.fill && measure.isPointInPath(path, x, y, entry.style.fillRule)) return true;
  measure.lineWidth = Math.max(entry.style.strokeWidth, 2 * reach);
  return measure.isPointInStroke(path, x, y);
}

/** Makes sure that the shipped fonts are there before text is drawn or measured. */
export const fontsReady = (): Promise<unknown> =>
  Promise.all([
    document.fonts.load('400 20px Commissioner'),
    document.fonts.load('700 20px Commissioner'),
    document.fonts.load("400 20px 'Spline Sans Mono'"),
  ]);
