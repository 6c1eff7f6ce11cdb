import type { FontName } from '../../document/faces';
import type { Point } from '../../base/geometry/point';
import type { Item } from '../../document/schema';

const INK = '#14213a';

/** Draws plain items on behalf of one that shows something: all have its id, so that whatever is said of them is said of it. */
export class Pen {
  readonly items: Item[] = [];
  constructor(private readonly id: string) {}

  line(points: readonly Point[], strokeWidth: number, more: { dash?: number[]; fill?: string; closed?: boolean } = {}): void {
    const { dash, fill, closed = false } = more;
    this.items.push({
      kind: 'polyline',
      id: this.id,
      layer: null,
      style: { fill: fill ?? null, stroke: fill ? null : INK, strokeWidth: fill ? 0 : strokeWidth, ...(dash ? { dash } : {}) },
      points: [...points],
      closed,
    });
  }

  text(text: string, at: Point, size: number, font: FontName, align: 'start' | 'middle' | 'end' = 'start', turned = false): void {
    if (!text.trim()) return;
    const [x, y] = at;
    this.items.push({
      kind: 'text',
      id: this.id,
      layer: null,
      style: { fill: INK, stroke: null, strokeWidth: 0 },
      text,
      size,
      font,
      align,
      ...(turned ? { x: 0, y: 0, transform: [0, 1, -1, 0, x, y] as const } : { x, y }),
    });
  }
}
