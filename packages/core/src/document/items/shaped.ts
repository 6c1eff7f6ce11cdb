import type { Matrix } from '../../base/geometry/matrix';
import { type Outline, transformOutline } from '../../base/geometry/outline';

/** The scales of a map that only stretches and shifts; null where it turns, slants or mirrors. */
export function stretchOf([a, b, c, d, e, f]: Matrix): { sx: number; sy: number; e: number; f: number } | null {
  const size = Math.hypot(a, b, c, d);
  return Math.abs(b) > 1e-9 * size || Math.abs(c) > 1e-9 * size || a <= 0 || d <= 0 ? null : { sx: a, sy: d, e, f };
}

interface Frame {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** A frame under a map that only stretches and shifts. */
export function stretchedFrame({ x, y, width, height }: Frame, matrix: Matrix): Record<string, number> | null {
  const by = stretchOf(matrix);
  return by && { x: by.sx * x + by.e, y: by.sy * y + by.f, width: by.sx * width, height: by.sy * height };
}

/** How what has an attribute of outlines is taken hold of by its points. */
export const outlinesByPoints = {
  outlines: ({ outlines }: { readonly outlines: readonly Outline[] }): readonly Outline[] => outlines,
  take: (_item: unknown, outlines: readonly Outline[]) => ({ outlines }),
};

/** Outlines under any map. */
export const mappedOutlines = (outlines: readonly Outline[], matrix: Matrix): { outlines: Outline[] } => ({
  outlines: outlines.map((one) => transformOutline(one, matrix)),
});
