import type { Item, Style, SymbolDefinition } from '@inkwell-twin/core';

export const filled = (fill: string): Style => ({ fill, stroke: null, strokeWidth: 0 });
export const lined = (stroke: string, strokeWidth: number): Style => ({ fill: null, stroke, strokeWidth });

type Pt = [number, number];
const curve = (c1: Pt, c2: Pt, to: Pt) => ({ kind: 'cubic' as const, c1, c2, to });

/** An arrow to the right from its tail's lower left corner. */
export function arrow(id: string, layer: string, x: number, y: number, length: number, shaft: number, fill: string): Item {
  const [head, half] = [length * 0.32, shaft * 1.35];
  const points: Pt[] = [
    [x, y - shaft / 2],
    [x + length - head, y - shaft / 2],
    [x + length - head, y - half],
    [x + length, y],
    [x + length - head, y + half],
    [x + length - head, y + shaft / 2],
    [x, y + shaft / 2],
  ];
  return { kind: 'polyline', id, name: 'Arrow', layer, style: filled(fill), points, closed: true };
}

/** One reed: a stem and two bending leaves. */
export const reed = (colour: string): SymbolDefinition => ({
  id: 'reed',
  name: 'Reed',
  anchor: [0, 0],
  items: [
    {
      kind: 'path',
      id: 'reed-leaves',
      name: 'Reed',
      layer: null,
      style: lined(colour, 0.9),
      outlines: [
        { start: [0, 0], segments: [curve([0.3, 4], [-0.4, 8], [0, 12])], closed: false },
        { start: [0, 2], segments: [curve([-1, 5], [-3, 7], [-4.2, 9])], closed: false },
        { start: [0, 2], segments: [curve([1, 5], [3, 7], [4.2, 9])], closed: false },
      ],
    },
  ],
});

/** A smooth open line through points (Catmull-Rom as cubics). */
export function smooth(points: readonly Pt[]): { start: Pt; segments: ReturnType<typeof curve>[]; closed: boolean } {
  const at = (i: number): Pt => points[Math.min(points.length - 1, Math.max(0, i))]!;
  const segments = points.slice(1).map((to, i) => {
    const [before, from, after] = [at(i - 1), at(i), at(i + 2)];
    const c1: Pt = [from[0] + (to[0] - before[0]) / 6, from[1] + (to[1] - before[1]) / 6];
    const c2: Pt = [to[0] - (after[0] - from[0]) / 6, to[1] - (after[1] - from[1]) / 6];
    return curve(c1, c2, to);
  });
  return { start: at(0), segments, closed: false };
}
