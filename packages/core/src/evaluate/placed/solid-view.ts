import { Failure } from '../../base/failure/failure';
import type { Point } from '../../base/geometry/point';
import type { SolidView } from '../../document/items/kinds/solid-view';
import type { Item, Master, PlacedItem } from '../../document/schema';
import type { Services } from '../../contracts/services';
import type { Hole } from '../../contracts/mesh';
import type { ViewName } from '../../document/solids/views';
import { EXACT_FINENESS } from '../../contracts/solids';
import { planSolid } from '../solids/plan';
import { Pen } from './draw';

/** Widths of edges that are seen and that are not, and of dimension lines, mm (ISO 128-2: one half as wide as the other). */
const [SEEN, UNSEEN, THIN] = [0.35, 0.18, 0.18];
const DASH = [1.5, 0.75];
const FINE = { chord: 0.05, angle: 8 };
const FONT = 'Work Sans';

/** Right, up and towards the eye of each flat view, as places in space: which axis, and its sign. */
const AXES: Readonly<
  Partial<Record<ViewName, readonly [right: readonly [number, number], up: readonly [number, number], depth: number]>>
> = {
  front: [[0, 1], [2, 1], 1],
  back: [[0, -1], [2, 1], 1],
  left: [[1, -1], [2, 1], 0],
  right: [[1, 1], [2, 1], 0],
  top: [[0, 1], [1, 1], 2],
  bottom: [[0, 1], [1, -1], 2],
};

const short = (value: number): string => String(Number(value.toFixed(2)));

class Sheet {
  constructor(
    private readonly pen: Pen,
    private readonly size: number,
  ) {}

  private arrow([x, y]: Point, dx: number, dy: number): void {
    const [long, half] = [0.8 * this.size, 0.14 * this.size];
    this.pen.line(
      [
        [x, y],
        [x - dx * long - dy * half, y - dy * long + dx * half],
        [x - dx * long + dy * half, y - dy * long - dx * half],
      ],
      0,
      { fill: '#14213a', closed: true },
    );
  }

  /** A dimension below (ISO 129-1): lines that lead to it, an arrow at each end, the number over it. */
  across(from: number, to: number, edge: number, words: string): void {
    const y = edge - 2.6 * this.size;
    for (const x of [from, to])
      this.pen.line(
        [
          [x, edge - 0.4 * this.size],
          [x, y - 0.4 * this.size],
        ],
        THIN,
      );
    this.pen.line(
      [
        [from, y],
        [to, y],
      ],
      THIN,
    );
    this.arrow([from, y], -1, 0);
    this.arrow([to, y], 1, 0);
    this.pen.text(words, [(from + to) / 2, y + 0.3 * this.size], this.size, FONT, 'middle');
  }

  /** One at the left, read from the right. */
  up(from: number, to: number, edge: number, words: string): void {
    const x = edge - 2.6 * this.size;
    for (const y of [from, to])
      this.pen.line(
        [
          [edge - 0.4 * this.size, y],
          [x - 0.4 * this.size, y],
        ],
        THIN,
      );
    this.pen.line(
      [
        [x, from],
        [x, to],
      ],
      THIN,
    );
    this.arrow([x, from], 0, -1);
    this.arrow([x, to], 0, 1);
    this.pen.text(words, [x - 0.3 * this.size, (from + to) / 2], this.size, FONT, 'middle', true);
  }

  /** A line from the edge of a hole to what is said of it. */
  hole([x, y]: Point, radius: number, words: string): void {
    const slant = Math.SQRT1_2;
    const start: Point = [x + slant * radius, y + slant * radius];
    const knee: Point = [start[0] + 1.6 * this.size, start[1] + 1.6 * this.size];
    this.pen.line([start, knee, [knee[0] + 0.6 * this.size, knee[1]]], THIN);
    this.arrow(start, -slant, -slant);
    this.pen.text(words, [knee[0] + 1.1 * this.size, knee[1] - 0.35 * this.size], this.size, FONT);
  }
}

/** Holes that are seen as circles, each diameter once with how many there are; the one that is said stands farthest up and right. */
function seenHoles(holes: readonly Hole[], view: ViewName): { at: Point; diameter: number; count: number }[] {
  const axes = AXES[view];
  if (!axes) return [];
  const [[right, r], [up, u], depth] = axes;
  const byDiameter = new Map<string, { at: Point; diameter: number; count: number }>();
  for (const { at, axis, diameter } of holes) {
    if (Math.abs(axis[depth]!) < 0.9999) continue;
    const place: Point = [r * at[right]!, u * at[up]!];
    const known = byDiameter.get(short(diameter));
    if (!known) byDiameter.set(short(diameter), { at: place, diameter, count: 1 });
    else {
      known.count++;
      if (place[0] + place[1] > known.at[0] + known.at[1]) known.at = place;
    }
  }
  return [...byDiameter.values()];
}

/** A solid as it is seen: its edges, those that are hidden, and how large it is. */
export async function makeSolidView(item: PlacedItem, master: Master, { solids, fonts, resource }: Services): Promise<Item[]> {
  if (!solids) throw new Failure('solids-missing', 'Solids can’t be drawn here.');
  const { id, solid, view, fit, x, y, size, hidden = 'dashed', dimensions = 'none' } = item as SolidView;
  const plan = planSolid(
    master,
    master.solids!.find((one) => one.id === solid)!,
    fonts,
  );
  const lines = await solids.lines(plan, view, FINE, resource);
  const all = [...lines.visible, ...lines.hidden];
  const box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  for (const run of all)
    run.forEach((value, i) => {
      if (i % 2) [box.minY, box.maxY] = [Math.min(box.minY, value), Math.max(box.maxY, value)];
      else [box.minX, box.maxX] = [Math.min(box.minX, value), Math.max(box.maxX, value)];
    });
  if (!(box.minX <= box.maxX)) return [];
  const scale = fit
    ? Math.min(fit[0] / (box.maxX - box.minX || 1), fit[1] / (box.maxY - box.minY || 1))
    : (item as SolidView).scale;
  const [midX, midY] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2];
  const at = (px: number, py: number): Point => [x + scale * (px - midX), y + scale * (py - midY)];
  const pen = new Pen(id);
  const draw = (runs: readonly (readonly number[])[], width: number, dash?: number[]) => {
    for (const run of runs)
      pen.line(
        Array.from({ length: run.length / 2 }, (_, k) => at(run[2 * k]!, run[2 * k + 1]!)),
        width,
        dash ? { dash } : {},
      );
  };
  if (hidden === 'dashed') draw(lines.hidden, UNSEEN, DASH);
  draw(lines.visible, SEEN);
  if (dimensions === 'none' || !AXES[view]) return pen.items;
  const sheet = new Sheet(pen, size);
  const [low, high] = [at(box.minX, box.minY), at(box.maxX, box.maxY)];
  sheet.across(low[0], high[0], low[1], short(box.maxX - box.minX));
  sheet.up(low[1], high[1], low[0], short(box.maxY - box.minY));
  if (dimensions === 'overall and holes') {
    const { exact } = await solids.mesh(plan, EXACT_FINENESS, resource);
    for (const {
      at: [hx, hy],
      diameter,
      count,
    } of seenHoles(exact?.holes ?? [], view))
      sheet.hole(at(hx, hy), (scale * diameter) / 2, `${count > 1 ? `${count} × ` : ''}Ø${short(diameter)}`);
  }
  return pen.items;
}
