import type { Box } from '../../base/geometry/measure';
import { type DisplayStyle, styleKey } from '../../contracts/display-list';

/** One outline or stroke, flattened for comparing. */
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
export const FINER = 8;

const thousandths = (value: number): number => Math.round(value * 1000) + 0;

/** Layer and look in one text; what is equal to a thousandth has the same. */
export const lookOf = (layer: string, style: DisplayStyle): string => `${layer}|${styleKey(style, thousandths)}`;

type Origin = Pick<Piece, 'entry' | 'layer' | 'style' | 'look' | 'source'>;

export function pieceOf(points: readonly number[], { entry, layer, style, look, source }: Origin): Piece {
  const n = points.length;
  const closed = n > 4 && Math.abs(points[0]! - points[n - 2]!) < 1e-6 && Math.abs(points[1]! - points[n - 1]!) < 1e-6;
  // Box and length in one pass: a drawing has millions of points.
  let [minX, minY, maxX, maxY, length] = [points[0]!, points[1]!, points[0]!, points[1]!, 0];
  for (let i = 2; i < n; i += 2) {
    const x = points[i]!;
    const y = points[i + 1]!;
    const dx = x - points[i - 2]!;
    const dy = y - points[i - 1]!;
    length += Math.sqrt(dx * dx + dy * dy);
    if (x < minX) minX = x;
    else if (x > maxX) maxX = x;
    if (y < minY) minY = y;
    else if (y > maxY) maxY = y;
  }
  return { entry, layer, style, look, source, points, closed, box: { minX, minY, maxX, maxY }, length };
}
