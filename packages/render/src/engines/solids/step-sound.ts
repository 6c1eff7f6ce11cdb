import type { Kernel } from './kernel';
import { type Exchange, type Value, isRef, refsIn } from './part21';
import type { Shape3D } from 'replicad';

/** A shell of a solid, and whether its faces count the other way round. */
interface Shell {
  readonly id: number;
  readonly turned: boolean;
}

/** A whole circle: where it is, and the axis about which it is run along, counter-clockwise. */
interface Ring {
  readonly at: readonly number[];
  readonly about: readonly number[];
}

const dot = (a: readonly number[], b: readonly number[]): number => a.reduce((sum, value, i) => sum + value * b[i]!, 0);
const minus = (a: readonly number[], b: readonly number[]): number[] => a.map((value, i) => value - b[i]!);

/** How far edges and corners may lie off the faces that meet there, mm: what lies farther off the kernel bridges by itself. */
const OFF = 0.01;
/** Places closer than this are one, in the unit of a file. */
const SAME = 1e-9;

/** How far a corner may lie off the line or the circle of its edge, of how far out it lies: what a few digits less round. */
const ROUNDED = 1e-5;
/** The same where the file says that it is no more exact than that. */
const ROUGH = 1e-4;

const isTrue = (value: Value | undefined): boolean => value === '.T.';

/**
 * What the entities of solids say that contradicts itself (ISO 10303-42, 5.3 to 5.5): a kernel mends it in silence, each in its
 * own way, and nobody knows what was meant.
 */
class Soundness {
  private readonly told = new Map<string, number>();
  /** Faces whose outside is that of their surface, and the others. */
  readonly sides = { with: 0, against: 0 };

  /** How exact the file says that its places are, in its unit. */
  private readonly exact: number;

  constructor(private readonly exchange: Exchange) {
    let stated = 0;
    for (const { kinds } of exchange.entities.values())
      for (const { kind, values } of kinds)
        if (kind === 'UNCERTAINTY_MEASURE_WITH_UNIT' && Array.isArray(values[0]))
          stated = Math.max(stated, Number(values[0][1]) || 0);
    this.exact = stated;
  }

  private report(words: string): void {
    this.told.set(words, (this.told.get(words) ?? 0) + 1);
  }

  private values(id: number | undefined, kind: RegExp): readonly Value[] | null {
    const kinds = id === undefined ? [] : (this.exchange.entities.get(id)?.kinds ?? []);
    return kinds.find((one) => kind.test(one.kind))?.values ?? null;
  }

  private shells(): Shell[] {
    const found: Shell[] = [];
    const take = (value: Value | undefined, turned: boolean, depth = 0): void => {
      const id = isRef(value) ? value.ref : undefined;
      const oriented = this.values(id, /^ORIENTED_CLOSED_SHELL$/);
      // One that is turned and turned again has no end where it is made of itself.
      if (depth > 8) return this.report('shell without an end');
      if (oriented) return take(oriented[2], turned !== !isTrue(oriented[3]), depth + 1);
      if (id === undefined) return;
      if (!this.values(id, /^CLOSED_SHELL$/)) this.report('solid whose shell is open');
      found.push({ id, turned });
    };
    for (const { kinds } of this.exchange.entities.values())
      for (const { kind, values } of kinds) {
        if (/^(MANIFOLD_SOLID_BREP|BREP_WITH_VOIDS|FACETED_BREP)$/.test(kind) && isRef(values[1])) take(values[1], false);
        if (kind === 'BREP_WITH_VOIDS') for (const ref of refsIn(values[2])) take({ ref }, false);
      }
    return found;
  }

  /** @returns what contradicts itself, by words, with how often */
  look(): ReadonlyMap<string, number> {
    const { entities } = this.exchange;
    for (const { kinds } of entities.values())
      for (const { kind, values } of kinds) {
        for (const ref of refsIn(values)) if (!entities.has(ref)) this.report('name of an entity that is not there');
        const [, way] = values;
        if (kind === 'DIRECTION' && Array.isArray(way) && way.every((one) => Number(one) === 0))
          this.report('direction of no length');
      }
    for (const { id, turned } of this.shells()) {
      const uses = new Map<number, number>();
      for (const face of refsIn(this.values(id, /SHELL$/)?.[1])) {
        const values = this.values(face, /^(ADVANCED_FACE|FACE_SURFACE)$/);
        if (!values) continue;
        this.sides[isTrue(values[3]) !== turned ? 'with' : 'against']++;
        const rings = refsIn(values[1]).flatMap((bound) => this.bound(bound, uses));
        if (this.isTurnedRound(rings, values)) this.report('edge that runs against its circle');
      }
      for (const sum of uses.values()) if (sum !== 0) this.report('edge that its faces do not run along in both directions');
    }
    return this.told;
  }

  /**
   * @param uses how often each edge is run along, one direction less the other
   * @returns the whole circles that it runs along
   */
  private bound(id: number, uses: Map<number, number>): Ring[] {
    const rings: Ring[] = [];
    const values = this.values(id, /^FACE_(OUTER_)?BOUND$/);
    const loop = isRef(values?.[1]) ? this.values(values[1].ref, /^EDGE_LOOP$/) : null;
    if (!values || !loop) return rings;
    const ends: (readonly [from: number | undefined, to: number | undefined])[] = [];
    for (const oriented of refsIn(loop[1])) {
      const own = this.values(oriented, /^ORIENTED_EDGE$/);
      const edge = isRef(own?.[3]) ? own[3].ref : undefined;
      const curve = this.values(edge, /^EDGE_CURVE$/);
      if (!own || edge === undefined || !curve) continue;
      const along = isTrue(own[4]);
      uses.set(edge, (uses.get(edge) ?? 0) + (along === isTrue(values[2]) ? 1 : -1));
      const [from, to] = [refsIn(curve[1])[0], refsIn(curve[2])[0]];
      ends.push(along ? [from, to] : [to, from]);
      if (this.runsBackwards(curve)) this.report('edge that runs against its line');
      if (this.isOffItsCurve(curve)) this.report('corner that is not on the curve of its edge');
      const ring = this.isSameCorner(from, to) ? this.ring(curve, along === isTrue(values[2])) : null;
      if (ring) rings.push(ring);
    }
    if (ends.some(([, to], i) => !this.isSameCorner(to, ends[(i + 1) % ends.length]![0])))
      this.report('edges of a face that do not meet');
    return rings;
  }

  /** The place and the axis of a system of axes; the axis is that of z where nothing is said. */
  private axis(id: number | undefined): { readonly at: readonly number[]; readonly axis: readonly number[] } | null {
    const values = this.values(id, /^AXIS2_PLACEMENT_3D$/);
    const at = this.numbers(refsIn(values?.[1])[0], /^CARTESIAN_POINT$/);
    const axis = isRef(values?.[2]) ? this.numbers(values[2].ref, /^DIRECTION$/) : [0, 0, 1];
    return at.length === 3 && axis.length === 3 ? { at, axis } : null;
  }

  /** A whole circle, with the axis about which it is run along; null where the edge is none. */
  private ring(edge: readonly Value[], along: boolean): Ring | null {
    const found = this.axis(refsIn(this.values(this.curveOf(edge), /^CIRCLE$/)?.[1])[0]);
    const sign = along === isTrue(edge[4]) ? 1 : -1;
    return found && { at: found.at, about: found.axis.map((value) => sign * value) };
  }

  /**
   * Whether a round face between two circles lies to the right of one of them, seen from outside: it has to lie to the left
   * (ISO 10303-42, 5.4.14 and 5.4.17).
   */
  private isTurnedRound(rings: readonly Ring[], face: readonly Value[]): boolean {
    const round = this.values(refsIn(face[2])[0], /^(CYLINDRICAL|CONICAL)_SURFACE$/);
    const surface = round && this.axis(refsIn(round[1])[0]);
    const [one, other] = rings;
    if (!surface || !one || !other || rings.length > 2) return false;
    const across = dot(surface.axis, minus(other.at, one.at));
    const outside = isTrue(face[3]) ? 1 : -1;
    if (Math.abs(across) <= SAME) return false;
    return dot(one.about, surface.axis) * across * outside < 0 || dot(other.about, surface.axis) * across * outside > 0;
  }

  private place(id: number | undefined): readonly number[] {
    const [point] = refsIn(this.values(id, /^VERTEX_POINT$/)?.[1]);
    return this.numbers(point, /^CARTESIAN_POINT$/);
  }
  private numbers(id: number | undefined, kind: RegExp): readonly number[] {
    const list = this.values(id, kind)?.[1];
    return Array.isArray(list) ? (list as readonly Value[]).map(Number) : [];
  }
  private isSameCorner(one: number | undefined, other: number | undefined): boolean {
    if (one === other) return true;
    const [p, q] = [this.place(one), this.place(other)];
    return p.length > 0 && p.every((value, i) => Math.abs(value - q[i]!) <= SAME * Math.max(1, Math.abs(value)));
  }

  /** The curve of an edge in space; those in the numbers of its surfaces, where it has some, say the same (5.4.45). */
  private curveOf([, , , geometry]: readonly Value[]): number | undefined {
    const [plain] = refsIn(geometry);
    const [own = plain] = refsIn(this.values(plain, /^(SURFACE|SEAM|INTERSECTION)_CURVE$/)?.[1]);
    return own;
  }

  /** Whether an edge along a line or a circle begins or ends somewhere else, in space or in the numbers of a plane. */
  private isOffItsCurve(edge: readonly Value[]): boolean {
    const plane = refsIn(this.values(refsIn(edge[3])[0], /^(SURFACE|SEAM|INTERSECTION)_CURVE$/)?.[2]);
    const ways = [this.distanceFrom(this.curveOf(edge)), ...plane.map((one) => this.distanceInPlane(one))];
    return [edge[1], edge[2]].some((end) => {
      const corner = this.place(refsIn(end)[0]);
      if (corner.length !== 3) return false;
      const out = Math.max(1, Math.hypot(...corner));
      const most = Math.max(ROUNDED * out, Math.min(this.exact, ROUGH * out));
      return ways.some((far) => far && far(corner) > most);
    });
  }

  /** The same for a curve that is stated in the numbers of a plane; null for other surfaces. */
  private distanceInPlane(trace: number): ((place: readonly number[]) => number) | null {
    const [, surface, described] = this.values(trace, /^PCURVE$/) ?? [];
    const placed = this.values(refsIn(this.values(refsIn(surface)[0], /^PLANE$/)?.[1])[0], /^AXIS2_PLACEMENT_3D$/);
    const [at, z, x] = [
      this.numbers(refsIn(placed?.[1])[0], /^CARTESIAN_POINT$/),
      ...[2, 3].map((k) => this.numbers(refsIn(placed?.[k])[0], /^DIRECTION$/)),
    ] as [number[], number[], number[]];
    const [curve] = refsIn(this.values(refsIn(described)[0], /^DEFINITIONAL_REPRESENTATION$/)?.[1]);
    const [circle, line] = [this.values(curve, /^CIRCLE$/), this.values(curve, /^LINE$/)];
    const centre = this.values(refsIn(circle?.[1])[0], /^AXIS2_PLACEMENT_2D$/);
    const from = this.numbers(refsIn((centre ?? line)?.[1])[0], /^CARTESIAN_POINT$/);
    const way = this.numbers(refsIn(this.values(refsIn(line?.[2])[0], /^VECTOR$/)?.[1])[0], /^DIRECTION$/);
    // Axes that are not at right angles mean others than they say: the kernel sees to them.
    if ([at, z, x].some(({ length }) => length !== 3) || from.length !== 2 || Math.abs(dot(z, x)) > SAME) return null;
    const [up, right] = [z, x].map((one) => one.map((value) => value / Math.hypot(...one))) as [number[], number[]];
    const ahead = [0, 1, 2].map((k) => up[(k + 1) % 3]! * right[(k + 2) % 3]! - up[(k + 2) % 3]! * right[(k + 1) % 3]!);
    return (place) => {
      const out = minus(place, at);
      const [u, v] = [dot(out, right) - from[0]!, dot(out, ahead) - from[1]!];
      if (circle) return Math.abs(Math.hypot(u, v) - Number(circle[2]));
      return way.length === 2 ? Math.abs(u * way[1]! - v * way[0]!) / Math.hypot(...way) : 0;
    };
  }

  /** How far a place lies from a line or a circle; null for curves of other kinds. */
  private distanceFrom(curve: number | undefined): ((place: readonly number[]) => number) | null {
    const circle = this.values(curve, /^CIRCLE$/);
    const found = circle && this.axis(refsIn(circle[1])[0]);
    const line = this.values(curve, /^LINE$/);
    const at = found?.at ?? this.numbers(refsIn(line?.[1])[0], /^CARTESIAN_POINT$/);
    const vector = this.values(refsIn(line?.[2])[0], /^VECTOR$/);
    const way = found?.axis ?? this.numbers(refsIn(vector?.[1])[0], /^DIRECTION$/);
    if (at.length !== 3 || way.length !== 3) return null;
    const radius = circle ? Number(circle[2]) : 0;
    const unit = way.map((value) => value / Math.hypot(...way));
    return (place) => {
      const out = minus(place, at);
      const up = dot(out, unit);
      const across = Math.hypot(
        ...minus(
          out,
          unit.map((value) => up * value),
        ),
      );
      return circle ? Math.hypot(up, across - radius) : across;
    };
  }

  /** Whether a straight edge says that it runs as its line does, and does not. */
  private runsBackwards(edge: readonly Value[]): boolean {
    const [, from, to, , sense] = edge;
    const vector = this.values(refsIn(this.values(this.curveOf(edge), /^LINE$/)?.[2])[0], /^VECTOR$/);
    const along = this.numbers(refsIn(vector?.[1])[0], /^DIRECTION$/);
    const [p, q] = [this.place(refsIn(from)[0]), this.place(refsIn(to)[0])];
    if (along.length !== 3 || p.length !== 3 || q.length !== 3) return false;
    const run = along.reduce((sum, value, i) => sum + value * (q[i]! - p[i]!), 0) * Math.sign(Number(vector![2]));
    return Math.abs(run) > SAME && run > 0 !== isTrue(sense);
  }
}

/**
 * What of an exchange file's solids is not sound by what it says itself, or was mended by the kernel that read it.
 * @param shape what the kernel made of it
 * @returns words for each kind, with how often
 */
export function unsoundIn({ oc }: Kernel, exchange: Exchange, shape: Shape3D | undefined): ReadonlyMap<string, number> {
  const entities = new Soundness(exchange);
  const told = new Map(entities.look());
  if (!shape) return told;
  const { TopAbs_ShapeEnum: Kinds, TopAbs_Orientation: Sides } = oc;
  const off = Math.max(
    ...[Kinds.TopAbs_EDGE, Kinds.TopAbs_VERTEX, Kinds.TopAbs_FACE].map((kind) => oc.BRep_Tool.MaxTolerance(shape.wrapped, kind)),
  );
  if (off > OFF) told.set(`edges or corners up to ${off.toFixed(3)} mm off their faces`, 1);
  const faces = shape.solids.flatMap((solid) => solid.faces);
  const along = faces.filter(({ wrapped }) => wrapped.Orientation() === Sides.TopAbs_FORWARD).length;
  const { with: stated, against } = entities.sides;
  // A body that is placed several times, or a face that the kernel cut in two, is counted otherwise: then it tells nothing.
  if (faces.length === stated + against && along !== stated)
    told.set('face whose outside is said to be its inside', Math.abs(along - stated));
  return told;
}
