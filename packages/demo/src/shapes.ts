import type { Item, Style, SymbolDefinition } from '@inkwell-twin/core';

export const filled = (fill: string): Style => ({ fill, stroke: null, strokeWidth: 0 });
export const lined = (stroke: string, strokeWidth: number): Style => ({ fill: null, stroke, strokeWidth });

type Pt = [number, number];
const curve = (c1: Pt, c2: Pt, to: Pt) => ({ kind: 'cubic' as const, c1, c2, to });
const line = (to: Pt) => ({ kind: 'line' as const, to });

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

/** A heron standing, looking right, about 40 mm high, its feet at x, y. */
export function heron(id: string, layer: string, x: number, y: number): Item {
  const p = (dx: number, dy: number): Pt => [x + dx, y + dy];
  return {
    kind: 'group',
    id,
    name: 'Heron',
    layer,
    items: [
      {
        kind: 'path',
        id: `${id}-body`,
        name: 'Heron, body',
        layer: null,
        style: { ...filled('#46546d'), opacity: 0.92 },
        outlines: [
          {
            start: p(-13, 15),
            segments: [
              curve(p(-6, 24), p(4, 25), p(7, 19)),
              curve(p(9, 26), p(1, 31), p(5, 38)),
              curve(p(6, 40.5), p(9, 40.5), p(10, 38.6)),
              line(p(19, 36.6)),
              line(p(10, 36.6)),
              curve(p(6, 34), p(12, 28), p(10, 18)),
              curve(p(8, 11), p(-4, 10), p(-13, 15)),
            ],
            closed: true,
          },
        ],
      },
      {
        kind: 'path',
        id: `${id}-legs`,
        name: 'Heron, legs',
        layer: null,
        style: lined('#46546d', 0.8),
        outlines: [
          { start: p(1, 12.5), segments: [line(p(2, 6)), line(p(0, 0)), line(p(3, 0))], closed: false },
          { start: p(4, 13), segments: [line(p(5.5, 6)), line(p(5, 0)), line(p(8, 0))], closed: false },
        ],
      },
      {
        kind: 'ellipse',
        id: `${id}-eye`,
        name: 'Heron, eye',
        layer: null,
        style: filled('#f8faf8'),
        cx: x + 8,
        cy: y + 38.4,
        rx: 0.6,
        ry: 0.6,
      },
    ],
  };
}

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
