import { Growing } from '../bytes/growing';
import { type Matrix, determinant, isSimilarity } from './matrix';
import { type Outline, type Segment, transformOutline } from './outline';
import type { Point } from './point';

/** What a path does next; the end point always comes last in its coordinates. */
export const LINE = 0;
/** Anticlockwise about a centre: centre, end. */
export const ARC = 1;
/** Clockwise about a centre: centre, end. */
export const ARC_CLOCKWISE = 2;
/** Cubic Bézier: two handles, end. */
export const CUBIC = 3;
/** How many numbers each verb takes. */
export const SIZE: readonly number[] = [2, 4, 4, 6];

/** Outlines side by side in typed arrays: of each its start, then verb by verb. Lengths in mm. */
export interface Paths {
  readonly count: number;
  /** count + 1: first verb of each outline. */
  readonly firstVerb: Uint32Array;
  /** count + 1: first coordinate of each outline (its start). */
  readonly firstCoord: Uint32Array;
  readonly closed: Uint8Array;
  readonly verbs: Uint8Array;
  readonly coords: Float64Array;
}

/** Outline number `i` as an object. */
export function outlineAt({ firstVerb, firstCoord, closed, verbs, coords }: Paths, i: number): Outline {
  let at = firstCoord[i]!;
  const point = (): Point => [coords[at++]!, coords[at++]!];
  const start = point();
  const segments: Segment[] = [];
  for (let v = firstVerb[i]!; v < firstVerb[i + 1]!; v++) {
    const verb = verbs[v]!;
    if (verb === LINE) segments.push({ kind: 'line', to: point() });
    else if (verb === CUBIC) {
      const [c1, c2] = [point(), point()];
      segments.push({ kind: 'cubic', c1, c2, to: point() });
    } else {
      const centre = point();
      segments.push({ kind: 'arc', centre, to: point(), clockwise: verb === ARC_CLOCKWISE });
    }
  }
  return { start, segments, closed: closed[i] === 1 };
}

/** Takes in outlines one after the other. */
export class PathStore implements Paths {
  count = 0;
  private readonly firstVerbs = new Growing(Uint32Array);
  private readonly firstCoords = new Growing(Uint32Array);
  private readonly closings = new Growing(Uint8Array);
  private readonly allVerbs = new Growing(Uint8Array);
  private readonly allCoords = new Growing(Float64Array, 1024);

  get firstVerb(): Uint32Array {
    return this.firstVerbs.data;
  }
  get firstCoord(): Uint32Array {
    return this.firstCoords.data;
  }
  get closed(): Uint8Array {
    return this.closings.data;
  }
  get verbs(): Uint8Array {
    return this.allVerbs.data;
  }
  get coords(): Float64Array {
    return this.allCoords.data;
  }

  constructor() {
    this.firstVerbs.push(0);
    this.firstCoords.push(0);
  }

  /** Forgets everything, to be filled anew. */
  clear(): void {
    this.count = 0;
    this.firstVerbs.length = this.firstCoords.length = 1;
    this.closings.length = this.allVerbs.length = this.allCoords.length = 0;
  }

  private point(x: number, y: number): void {
    const { allCoords } = this;
    allCoords.reserve(allCoords.length + 2);
    allCoords.data[allCoords.length++] = x;
    allCoords.data[allCoords.length++] = y;
  }

  /** Begins an outline. */
  move(x: number, y: number): void {
    this.point(x, y);
  }

  line(x: number, y: number): void {
    this.allVerbs.push(LINE);
    this.point(x, y);
  }

  arc(cx: number, cy: number, x: number, y: number, clockwise: boolean): void {
    this.allVerbs.push(clockwise ? ARC_CLOCKWISE : ARC);
    this.point(cx, cy);
    this.point(x, y);
  }

  cubic(x1: number, y1: number, x2: number, y2: number, x: number, y: number): void {
    this.allVerbs.push(CUBIC);
    this.point(x1, y1);
    this.point(x2, y2);
    this.point(x, y);
  }

  /** A whole circle, as two halves. */
  circle(cx: number, cy: number, radius: number): void {
    this.move(cx + radius, cy);
    this.arc(cx, cy, cx - radius, cy, false);
    this.arc(cx, cy, cx + radius, cy, false);
    this.end(true);
  }

  /** Ends the outline that was begun. */
  end(closed: boolean): void {
    this.closings.push(closed ? 1 : 0);
    this.firstVerbs.push(this.allVerbs.length);
    this.firstCoords.push(this.allCoords.length);
    this.count++;
  }

  /** How many pieces the outline that was begun has. */
  get begun(): number {
    return this.allVerbs.length - this.firstVerbs.data[this.count]!;
  }

  /** Forgets the outline that was begun. */
  drop(): void {
    this.allVerbs.length = this.firstVerbs.data[this.count]!;
    this.allCoords.length = this.firstCoords.data[this.count]!;
  }

  segment(segment: Segment): void {
    const { to } = segment;
    if (segment.kind === 'line') this.line(to[0], to[1]);
    else if (segment.kind === 'arc') this.arc(segment.centre[0], segment.centre[1], to[0], to[1], segment.clockwise);
    else this.cubic(segment.c1[0], segment.c1[1], segment.c2[0], segment.c2[1], to[0], to[1]);
  }

  add({ start, segments, closed }: Outline): void {
    this.move(start[0], start[1]);
    for (const segment of segments) this.segment(segment);
    this.end(closed);
  }

  /** Takes over outline `i` of others, mapped. Arcs stay arcs under turns, even scales and mirrors, and become cubics otherwise. */
  append(from: Paths, i: number, matrix: Matrix | null = null): void {
    const [first, end] = [from.firstVerb[i]!, from.firstVerb[i + 1]!];
    const [firstCoord, endCoord] = [from.firstCoord[i]!, from.firstCoord[i + 1]!];
    if (matrix && !isSimilarity(matrix) && hasArcs(from.verbs, first, end))
      return this.add(transformOutline(outlineAt(from, i), matrix));
    const mirrors = matrix !== null && determinant(matrix) < 0;
    const { allVerbs, allCoords } = this;
    allVerbs.reserve(allVerbs.length + end - first);
    allCoords.reserve(allCoords.length + endCoord - firstCoord);
    const [verbs, coords] = [allVerbs.data, allCoords.data];
    let at = allVerbs.length;
    for (let v = first; v < end; v++) {
      const verb = from.verbs[v]!;
      verbs[at++] = !mirrors ? verb : verb === ARC ? ARC_CLOCKWISE : verb === ARC_CLOCKWISE ? ARC : verb;
    }
    allVerbs.length = at;
    at = allCoords.length;
    const old = from.coords;
    if (!matrix) for (let k = firstCoord; k < endCoord; k++) coords[at++] = old[k]!;
    else {
      const [a, b, c, d, e, f] = matrix;
      for (let k = firstCoord; k < endCoord; k += 2) {
        const [x, y] = [old[k]!, old[k + 1]!];
        coords[at++] = a * x + c * y + e;
        coords[at++] = b * x + d * y + f;
      }
    }
    allCoords.length = at;
    this.end(from.closed[i] === 1);
  }

  /** The outlines in arrays of just their length. */
  taken(): Paths {
    return {
      count: this.count,
      firstVerb: this.firstVerbs.taken(),
      firstCoord: this.firstCoords.taken(),
      closed: this.closings.taken(),
      verbs: this.allVerbs.taken(),
      coords: this.allCoords.taken(),
    };
  }
}

function hasArcs(verbs: Uint8Array, first: number, end: number): boolean {
  for (let v = first; v < end; v++) if (verbs[v] === ARC || verbs[v] === ARC_CLOCKWISE) return true;
  return false;
}
