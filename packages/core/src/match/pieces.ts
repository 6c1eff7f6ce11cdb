import { flatten } from '../geometry/flatten';
import { type Box, boxOfPolyline, lengthOfPolyline } from '../geometry/measure';
import type { DisplayList, DisplayStyle } from '../projection/display-list';

/** One outline of a display list, flattened for comparing. */
export interface Piece {
  readonly entry: number;
  readonly points: readonly number[];
  readonly box: Box;
  readonly length: number;
  readonly closed: boolean;
  readonly layer: string;
  readonly style: DisplayStyle;
  /** Layer and look in one text. */
  readonly look: string;
  readonly source: string | null;
}

/** Curves are flattened this many times finer than the tolerance. */
const FINER = 8;

export const lookOf = (layer: string, { fill, fillRule, stroke, strokeWidth, opacity }: DisplayStyle): string =>
  `${layer}|${fill}|${fill ? fillRule : ''}|${stroke}|${strokeWidth.toFixed(3)}|${opacity.toFixed(3)}`;

/** All outlines of a list as pieces. */
export function piecesOf(list: DisplayList, tolerance: number): Piece[] {
  const pieces: Piece[] = [];
  list.entries.forEach((entry, index) => {
    if (entry.kind !== 'path') return;
    const look = lookOf(entry.layer, entry.style);
    for (const outline of entry.outlines) {
      const points = flatten(outline, tolerance / FINER);
      pieces.push(pieceOf(points, { entry: index, layer: entry.layer, style: entry.style, look, source: entry.source ?? null }));
    }
  });
  return pieces;
}

export function pieceOf(points: readonly number[], rest: Pick<Piece, 'entry' | 'layer' | 'style' | 'look' | 'source'>): Piece {
  const n = points.length;
  const closed = n > 4 && Math.abs(points[0]! - points[n - 2]!) < 1e-6 && Math.abs(points[1]! - points[n - 1]!) < 1e-6;
  return { ...rest, points, closed, box: boxOfPolyline(points), length: lengthOfPolyline(points) };
}
