import { type Matrix, apply, invert, multiply } from '@inkwell-twin/core';
import type { Shading } from './paints';

/** Colours that no gradient of a master can say, as a picture: its pixels as the library gives them, and where they lie. */
interface ShadedPicture {
  readonly kind: 'shaded';
  readonly picture: { readonly width: number; readonly height: number; readonly kind: 3; readonly data: Uint8ClampedArray };
  /** From a square with sides of 1 to the board. */
  readonly at: Matrix;
}

/** Colours over triangles, as the library gives them: corners and their colours by number. */
type Mesh = readonly [
  kind: 'Mesh',
  type: number,
  coords: ArrayLike<number>,
  colours: ArrayLike<number>,
  figures: readonly Figure[],
  bounds: readonly [number, number, number, number] | null,
  bbox: unknown,
  background: unknown,
];
interface Figure {
  readonly type: number;
  readonly coords: ArrayLike<number>;
  readonly colors: ArrayLike<number>;
  readonly verticesPerRow?: number;
}
/** Rows of corners, of which every four are two triangles. */
const LATTICE = 2;

/** Pixels on a millimetre of the board, and pixels each way at most. */
const [DENSITY, MOST] = [8, 1600];
export type Box = readonly [left: number, bottom: number, right: number, top: number];

/** Pixels over a box of a plane, row by row from its top. */
class Canvas {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray;

  /** @param at from the plane to the board */
  constructor(
    private readonly box: Box,
    private readonly at: Matrix,
  ) {
    const [left, bottom, right, top] = box;
    const pixels = (length: number, a: number, b: number): number =>
      Math.min(MOST, Math.max(2, Math.ceil(length * Math.hypot(a, b) * DENSITY)));
    this.width = pixels(right - left, at[0], at[1]);
    this.height = pixels(top - bottom, at[2], at[3]);
    this.data = new Uint8ClampedArray(4 * this.width * this.height);
  }

  /** Where a place of the plane is in pixels. */
  place(x: number, y: number): [number, number] {
    const [left, bottom, right, top] = this.box;
    return [((x - left) / (right - left)) * this.width, ((top - y) / (top - bottom)) * this.height];
  }
  /** Where the middle of a pixel is on the plane. */
  back(column: number, row: number): [number, number] {
    const [left, bottom, right, top] = this.box;
    return [left + ((column + 0.5) / this.width) * (right - left), top - ((row + 0.5) / this.height) * (top - bottom)];
  }
  put(column: number, row: number, colour: readonly number[]): void {
    const to = 4 * (row * this.width + column);
    for (let k = 0; k < 3; k++) this.data[to + k] = colour[k]!;
    this.data[to + 3] = 255;
  }
  shown(): ShadedPicture {
    const [left, bottom, right, top] = this.box;
    const { width, height, data } = this;
    return {
      kind: 'shaded',
      picture: { width, height, kind: 3, data },
      at: multiply(this.at, [right - left, 0, 0, top - bottom, left, bottom]),
    };
  }
}

/** Fills a triangle, its colours running between its corners; a pixel counts where its middle lies in it, or nearly. */
function triangle(
  canvas: Canvas,
  corners: readonly (readonly [number, number])[],
  colours: readonly (readonly number[])[],
): void {
  const [[x1, y1], [x2, y2], [x3, y3]] = corners as readonly [[number, number], [number, number], [number, number]];
  const area = (x2 - x1) * (y3 - y1) - (x3 - x1) * (y2 - y1);
  if (Math.abs(area) < 1e-12) return;
  const range = (a: number, b: number, c: number, most: number): [number, number] => [
    Math.max(0, Math.floor(Math.min(a, b, c)) - 1),
    Math.min(most - 1, Math.ceil(Math.max(a, b, c)) + 1),
  ];
  const [[left, right], [first, last]] = [range(x1, x2, x3, canvas.width), range(y1, y2, y3, canvas.height)];
  // Neighbours share their edge: what lies on it belongs to both, so that no seam is left.
  const slack = 0.75 / Math.sqrt(Math.abs(area));
  for (let row = first; row <= last; row++)
    for (let column = left; column <= right; column++) {
      const [x, y] = [column + 0.5, row + 0.5];
      const b = ((x - x1) * (y3 - y1) - (x3 - x1) * (y - y1)) / area;
      const c = ((x2 - x1) * (y - y1) - (x - x1) * (y2 - y1)) / area;
      if (b < -slack || c < -slack || b + c > 1 + slack) continue;
      const a = 1 - b - c;
      canvas.put(
        column,
        row,
        [0, 1, 2].map((k) => a * colours[0]![k]! + b * colours[1]![k]! + c * colours[2]![k]!),
      );
    }
}

function ofMesh([, , coords, colours, figures, bounds]: Mesh, at: Matrix): ShadedPicture | null {
  if (!bounds || !coords.length) return null;
  const canvas = new Canvas(bounds, at);
  const parts = Math.round(colours.length / (coords.length / 2));
  // Corners are counted in numbers, not in points: two of a place, three or four of a colour.
  const one = (figure: Figure, ...which: number[]): void =>
    triangle(
      canvas,
      which.map((i) => canvas.place(coords[figure.coords[i]!]!, coords[figure.coords[i]! + 1]!)),
      which.map((i) => Array.from({ length: Math.min(3, parts) }, (_, k) => colours[figure.colors[i]! + k]!)),
    );
  for (const figure of figures) {
    const across = figure.verticesPerRow ?? 0;
    if (figure.type === LATTICE && across > 1)
      for (let q = 0; q + across + 1 < figure.coords.length; q++) {
        if (q % across === across - 1) continue;
        one(figure, q, q + 1, q + across);
        one(figure, q + across + 1, q + 1, q + across);
      }
    else for (let i = 0; i + 2 < figure.coords.length; i += 3) one(figure, i, i + 1, i + 2);
  }
  return canvas.shown();
}

/** The colour of stops at a place from 0 to 1; null where nothing shows. */
function colourOf(stops: Shading[3], at: number): number[] | null {
  const next = stops.findIndex(([offset]) => offset >= at);
  const [after, before] = [stops[next < 0 ? stops.length - 1 : next]!, stops[Math.max(0, (next < 0 ? stops.length : next) - 1)]!];
  if (!after[1].startsWith('#') || !before[1].startsWith('#')) return null;
  const way = after[0] > before[0] ? (at - before[0]) / (after[0] - before[0]) : 0;
  return [1, 3, 5].map((i) => {
    const [a, b] = [parseInt(before[1].slice(i, i + 2), 16), parseInt(after[1].slice(i, i + 2), 16)];
    return a + (b - a) * Math.min(1, Math.max(0, way));
  });
}

/**
 * Colours between two circles (ISO 32000-1, 8.7.4.5.4): of the circles through a place the one that is farthest along counts.
 * @param area what is to be covered, in their plane
 */
function ofCircles([, , , stops, from, to, inner, outer]: Shading, at: Matrix, area: Box): ShadedPicture {
  const canvas = new Canvas(area, at);
  const [r0, r1] = [inner ?? 0, outer ?? 0];
  const [dx, dy, dr] = [to[0] - from[0], to[1] - from[1], r1 - r0];
  const a = dx * dx + dy * dy - dr * dr;
  const [goesBefore, goesOn] = [stops[0]![1].startsWith('#'), stops.at(-1)![1].startsWith('#')];
  const counts = (t: number): boolean => r0 + t * dr >= 0 && (t >= 0 || goesBefore) && (t <= 1 || goesOn);
  for (let row = 0; row < canvas.height; row++)
    for (let column = 0; column < canvas.width; column++) {
      const [x, y] = canvas.back(column, row);
      const [px, py] = [x - from[0], y - from[1]];
      const b = px * dx + py * dy + r0 * dr;
      const c = px * px + py * py - r0 * r0;
      let roots: number[];
      if (Math.abs(a) < 1e-9) roots = Math.abs(b) < 1e-12 ? [] : [c / (2 * b)];
      else {
        const under = b * b - a * c;
        if (under < 0) continue;
        const root = Math.sqrt(under);
        roots = [(b + root) / a, (b - root) / a].sort((one, other) => other - one);
      }
      const t = roots.find(counts);
      const colour = t === undefined ? null : colourOf(stops, Math.min(1, Math.max(0, t)));
      if (colour) canvas.put(column, row, colour);
    }
  return canvas.shown();
}

/**
 * What is shaded in a way that no gradient says, as a picture.
 * @param found as the library gives it
 * @param at from its axes to the board's
 * @param area what it may cover, in its axes
 * @returns null for what is of no known kind
 */
function shadedPicture(found: unknown, at: Matrix, area: Box | null): ShadedPicture | null {
  const [kind, type] = found as readonly [string, unknown];
  if (kind === 'Mesh') return ofMesh(found as Mesh, at);
  return kind === 'RadialAxial' && type === 'radial' && area ? ofCircles(found as Shading, at, area) : null;
}

/** Whether something is drawn as a picture where no gradient says it. */
export const isDrawn = (found: unknown): boolean => {
  const [kind, type] = found as readonly [string, unknown];
  return kind === 'Mesh' || (kind === 'RadialAxial' && type === 'radial');
};

/** A shading that no gradient says, kept until it is known what it covers. */
export interface ReadShading {
  readonly kind: 'shading';
  readonly found: unknown;
  /** From its axes to the board's. */
  readonly at: Matrix;
}
export const isShading = (paint: unknown): paint is ReadShading =>
  typeof paint === 'object' && paint !== null && (paint as { kind?: unknown }).kind === 'shading';

/** The box around points of a packed path, as `at` places them. */
export function boxOfPacked(data: Float32Array, at: Matrix): Box | null {
  const points: [number, number][] = [];
  for (let i = 0; i < data.length;) {
    const count = POINTS[data[i++]!] ?? 0;
    for (let k = 0; k < count; k++, i += 2) points.push(apply(at, [data[i]!, data[i + 1]!]) as [number, number]);
  }
  return points.length ? boxAround(points) : null;
}
/** Points of each verb of a packed path. */
const POINTS = [1, 1, 3, 2, 0];

const boxAround = (points: readonly (readonly [number, number])[]): Box => {
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
};

/**
 * A shading over an area of the board, as a picture.
 * @param area on the board
 */
export function shadedOver({ found, at }: ReadShading, area: Box): ShadedPicture | null {
  const back = invert(at);
  if (!back) return null;
  const [left, bottom, right, top] = area;
  const corners = [
    apply(back, [left, bottom]),
    apply(back, [right, bottom]),
    apply(back, [right, top]),
    apply(back, [left, top]),
  ];
  return shadedPicture(found, at, boxAround(corners));
}
