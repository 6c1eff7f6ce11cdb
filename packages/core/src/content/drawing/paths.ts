import { Growing } from '../../bytes/growing';
import { arcToCubics } from '../../geometry/arcs';
import { type Matrix, determinant, isSimilarity } from '../../geometry/matrix';
import type { Outline, Segment } from '../../geometry/outline';
import type { Point } from '../../geometry/point';

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
    const { firstVerb, firstCoord, verbs, coords, closed } = from;
    const [a, b, c, d, e, f] = matrix ?? [1, 0, 0, 1, 0, 0];
    const round = !matrix || isSimilarity(matrix);
    const mirrors = matrix !== null && determinant(matrix) < 0;
    let at = firstCoord[i]!;
    const copy = (pairs: number) => {
      for (let k = 0; k < pairs; k++, at += 2) {
        const [x, y] = [coords[at]!, coords[at + 1]!];
        this.point(a * x + c * y + e, b * x + d * y + f);
      }
    };
    copy(1);
    for (let v = firstVerb[i]!; v < firstVerb[i + 1]!; v++) {
      const verb = verbs[v]!;
      if ((verb === ARC || verb === ARC_CLOCKWISE) && !round) {
        const [x0, y0, cx, cy, x, y] = coords.subarray(at - 2, at + 4) as unknown as [
          number,
          number,
          number,
          number,
          number,
          number,
        ];
        for (const { c1, c2, to } of arcToCubics([x0, y0], {
          kind: 'arc',
          centre: [cx, cy],
          to: [x, y],
          clockwise: verb === ARC_CLOCKWISE,
        })) {
          this.allVerbs.push(CUBIC);
          for (const [px, py] of [c1, c2, to]) this.point(a * px + c * py + e, b * px + d * py + f);
        }
        at += 4;
        continue;
      }
      this.allVerbs.push(mirrors && verb === ARC ? ARC_CLOCKWISE : mirrors && verb === ARC_CLOCKWISE ? ARC : verb);
      copy(SIZE[verb]! / 2);
    }
    this.end(closed[i] === 1);
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
