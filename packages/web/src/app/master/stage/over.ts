import type { Board, Box, Outline } from '@inkwell-twin/core/web';
import { themeColour } from './canvas-surface';
import type { SnapLine } from './snap';
import type { View } from './view';

// What is drawn over and under a board to lay things out: its own grid, guides, what something came to lie at, a frame that selects.

/** The grid and the guides of a board, in pixels of the stage. */
export function paintLayout(
  context: CanvasRenderingContext2D,
  { width: w, height: h, guides = [], gridStep }: Board,
  view: View,
  ratio: number,
  { width, height }: { width: number; height: number },
): void {
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  context.lineWidth = 1;
  // A grid so fine that it would be a grey is left out.
  if (gridStep && gridStep * view.scale >= 5) {
    context.fillStyle = themeColour('--ink-three');
    const [right, top] = [view.x + w * view.scale, view.y - h * view.scale];
    const step = gridStep * view.scale;
    const first = (from: number) => from + Math.max(0, Math.ceil(-from / step)) * step;
    for (let x = first(view.x); x <= Math.min(right, width); x += step)
      for (let y = view.y - Math.max(0, Math.ceil((view.y - height) / step)) * step; y >= Math.max(top, 0); y -= step)
        context.fillRect(Math.round(x) - 0.5, Math.round(y) - 0.5, 1, 1);
  }
  context.strokeStyle = themeColour('--action');
  context.setLineDash([7, 3, 1, 3]);
  context.beginPath();
  for (const { axis, at } of guides) {
    const place = Math.round(axis === 'x' ? view.x + at * view.scale : view.y - at * view.scale) + 0.5;
    context.moveTo(axis === 'x' ? place : 0, axis === 'x' ? 0 : place);
    context.lineTo(axis === 'x' ? place : width, axis === 'x' ? height : place);
  }
  context.stroke();
  context.setLineDash([]);
}

/** The lines that something came to lie at, each with what it is of. */
export function paintSnapped(
  context: CanvasRenderingContext2D,
  lines: readonly SnapLine[],
  view: View,
  ratio: number,
  { width, height }: { width: number; height: number },
): void {
  if (!lines.length) return;
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  context.strokeStyle = themeColour('--in-step');
  context.fillStyle = themeColour('--in-step');
  context.lineWidth = 1;
  context.font = "12px 'Commissioner Variable', Commissioner, sans-serif";
  for (const { axis, at, words } of lines) {
    const place = Math.round(axis === 'x' ? view.x + at * view.scale : view.y - at * view.scale) + 0.5;
    context.beginPath();
    context.moveTo(axis === 'x' ? place : 0, axis === 'x' ? 0 : place);
    context.lineTo(axis === 'x' ? place : width, axis === 'x' ? height : place);
    context.stroke();
    if (axis === 'x') context.fillText(words, place + 5, 16);
    else context.fillText(words, 8, place - 5);
  }
}

/** A frame that is drawn to select what lies in it, or to say how large something becomes. */
export function paintFrame(context: CanvasRenderingContext2D, { minX, minY, maxX, maxY }: Box, view: View, ratio: number): void {
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  context.strokeStyle = themeColour('--action');
  context.setLineDash([3, 3]);
  context.strokeRect(
    Math.round(view.x + minX * view.scale) + 0.5,
    Math.round(view.y - maxY * view.scale) + 0.5,
    (maxX - minX) * view.scale,
    (maxY - minY) * view.scale,
  );
  context.setLineDash([]);
}

/** Corner brackets about what is selected: they say what is chosen without covering its outline. @param dx, dy how far it is moved, mm */
export function paintBrackets(
  context: CanvasRenderingContext2D,
  { minX, minY, maxX, maxY }: Box,
  view: View,
  ratio: number,
  dx: number,
  dy: number,
): void {
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  const left = view.x + (minX + dx) * view.scale - 4;
  const right = view.x + (maxX + dx) * view.scale + 4;
  const top = view.y - (maxY + dy) * view.scale - 4;
  const bottom = view.y - (minY + dy) * view.scale + 4;
  context.strokeStyle = themeColour('--action');
  context.lineWidth = 1.5;
  const arm = Math.min(12, (right - left) / 3, (bottom - top) / 3);
  context.beginPath();
  for (const [x, y, sx, sy] of [
    [left, top, 1, 1],
    [right, top, -1, 1],
    [right, bottom, -1, -1],
    [left, bottom, 1, -1],
  ] as const) {
    context.moveTo(x + sx * arm, y);
    context.lineTo(x, y);
    context.lineTo(x, y + sy * arm);
  }
  context.stroke();
}

/** A line from each handle of a curve to the point that it belongs to; the context has the axes of the board. */
export function paintHandleLines(context: CanvasRenderingContext2D, outlines: readonly Outline[], view: View): void {
  context.strokeStyle = themeColour('--action');
  context.lineWidth = 1 / view.scale;
  context.beginPath();
  for (const { start, segments } of outlines)
    segments.forEach((segment, i) => {
      if (segment.kind !== 'cubic') return;
      const from = i ? segments[i - 1]!.to : start;
      context.moveTo(...from);
      context.lineTo(...segment.c1);
      context.moveTo(...segment.to);
      context.lineTo(...segment.c2);
    });
  context.stroke();
}
