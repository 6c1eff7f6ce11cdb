import type { Box } from '@inkwell-twin/core/web';

/** How the board lies on the stage: pixels per mm, and the board's origin in pixels (y downwards on screen). */
export interface View {
  readonly scale: number;
  readonly x: number;
  readonly y: number;
}

const SMALLEST = 0.002;
const LARGEST = 400;

/**
 * The view that shows a box whole, with a margin.
 * @param above the share of the height left over that goes above the box
 */
export function fitView(box: Box, width: number, height: number, margin = 28): View {
  const [w, h] = [Math.max(1e-6, box.maxX - box.minX), Math.max(1e-6, box.maxY - box.minY)];
  const scale = Math.min(LARGEST, Math.max(SMALLEST, Math.min((width - 2 * margin) / w, (height - 2 * margin) / h)));
  const top = Math.max(margin, (height - h * scale) / 2);
  return { scale, x: (width - w * scale) / 2 - box.minX * scale, y: top + h * scale + box.minY * scale };
}

/** The view after zooming about a point of the stage. */
export function zoomView(view: View, factor: number, atX: number, atY: number): View {
  const scale = Math.min(LARGEST, Math.max(SMALLEST, view.scale * factor));
  const ratio = scale / view.scale;
  return { scale, x: atX - (atX - view.x) * ratio, y: atY - (atY - view.y) * ratio };
}

/** A point of the stage in board millimetres. */
export const toBoard = ({ scale, x, y }: View, px: number, py: number): [number, number] => [(px - x) / scale, (y - py) / scale];

/** The view of what is painted with: however small it is on screen, its lines are as wide as they are. */
export const CLOSE: View = { scale: 1e6, x: 0, y: 0 };
