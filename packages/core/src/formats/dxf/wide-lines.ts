import type { PathStore } from '../../base/geometry/paths';
import { flatten } from '../../base/geometry/flatten';
import { bulgeSegment } from '../../base/geometry/arcs';
import { filledAs } from './emit-hatch';
import type { Matrix } from '../../base/geometry/matrix';
import { meanScale } from '../../base/geometry/matrix';
import type { EmittingReader } from './telling';
import type { DxfRecord } from './records';

/** Corners of a polyline, the bulge after each, and how wide it is where the piece after each begins and ends. */
export interface WideLine {
  readonly points: readonly number[];
  readonly bulges: readonly number[];
  readonly widths: readonly (readonly [start: number, end: number])[];
  readonly closed: boolean;
}

/** How far the edge of a wide arc may be off, of its width. */
const FINE = 0.01;

/** A width that is the same all along; null where it is not. */
export function evenWidth({ widths }: WideLine): number | null {
  const first = widths[0]?.[0] ?? 0;
  return widths.every((one) => one.every((width) => Math.abs(width - first) < 1e-9)) ? first : null;
}

/** A polyline whose width changes, as the areas that its pieces cover. */
export function emitWideLine(groups: DxfRecord, reader: EmittingReader, line: WideLine, facing: Matrix | null): void {
  const { paths } = reader;
  paths.clear();
  const count = line.points.length / 2;
  for (let i = 0; i < (line.closed ? count : count - 1); i++) piece(line, i, (i + 1) % count, paths);
  if (!paths.count) return;
  const { layer, look, at } = reader.placed(groups, facing);
  reader.sink.path(paths, at, layer, { ...filledAs(look), fillRule: 'nonzero' }, groups.type, 'polyline');
}

/** The area of one piece: along its middle, as wide to either side as it is there. */
function piece({ points, bulges, widths }: WideLine, from: number, to: number, into: PathStore): void {
  const [start, end] = [from, to].map((i) => [points[2 * i]!, points[2 * i + 1]!] as const) as [
    readonly [number, number],
    readonly [number, number],
  ];
  const [first, last] = widths[from] ?? [0, 0];
  const bulge = bulges[from] ?? 0;
  const segments = bulge ? [bulgeSegment(start, end, bulge)] : [{ kind: 'line' as const, to: end }];
  const middle = flatten({ start, segments, closed: false }, Math.max(first, last, 1e-6) * FINE);
  const steps = middle.length / 2;
  if (steps < 2 || !(first > 0 || last > 0)) return;
  const sides: [number[], number[]] = [[], []];
  for (let i = 0; i < steps; i++) {
    const [before, after] = [Math.max(0, i - 1), Math.min(steps - 1, i + 1)];
    const [dx, dy] = [middle[2 * after]! - middle[2 * before]!, middle[2 * after + 1]! - middle[2 * before + 1]!];
    const length = Math.hypot(dx, dy) || 1;
    const half = (first + ((last - first) * i) / (steps - 1)) / 2;
    const [nx, ny] = [(-dy / length) * half, (dx / length) * half];
    sides[0].push(middle[2 * i]! + nx, middle[2 * i + 1]! + ny);
    sides[1].unshift(middle[2 * i]! - nx, middle[2 * i + 1]! - ny);
  }
  const ring = [...sides[0], ...sides[1]];
  into.move(ring[0]!, ring[1]!);
  for (let k = 2; k < ring.length; k += 2) into.line(ring[k]!, ring[k + 1]!);
  into.end(true);
}

/** A width in drawing units as millimetres. */
export const widthOnBoard = (width: number, scale: Matrix): number => width * meanScale(scale);
