import { type Entity, all, asNumber, isSet, number, place, places, text } from './entities';
import { type Group, Refused } from './groups';
import { DEGREE, type Pen, type Place } from './shapes';

/** A line that an entity draws, in its own plane. */
export interface Outline {
  readonly points: readonly Place[];
  readonly closed: boolean;
  readonly filled: boolean;
}

const CLOSED = 1;
const radians = (degrees: number): number => (degrees * Math.PI) / 180;

/** A polyline of corners, each with the bulge of the edge that begins there. */
export function chain(pen: Pen, corners: readonly (readonly [Place, number])[], closed: boolean): Place[] {
  const [first] = corners;
  if (!first) return [];
  const points: Place[] = [first[0]];
  const ring = closed ? [...corners, first] : corners;
  for (let i = 1; i < ring.length; i++)
    for (const point of pen.alongBulge(ring[i - 1]![0], ring[i]![0], ring[i - 1]![1])) points.push(point);
  return points;
}

/** Corners as they follow each other, each with the bulge that comes after it. */
function cornersOf(groups: readonly Group[]): [Place, number][] {
  const corners: [Place, number][] = [];
  for (const group of groups) {
    if (group.code === 10) corners.push([[asNumber(group), 0], 0]);
    const last = corners.at(-1);
    if (last && group.code === 20) last[0] = [last[0][0], asNumber(group)];
    if (last && group.code === 42) last[1] = asNumber(group);
  }
  return corners;
}

/** A B-spline of control points. @param degreeAt the group that states its degree */
function spline(pen: Pen, entity: Entity, degreeAt: number): Place[] {
  const [degree, knots, points] = [number(entity, degreeAt) ?? 3, all(entity, 40), places(entity, 10)];
  if (!Number.isInteger(degree) || degree < 1 || degree > DEGREE) throw new Refused(entity.at, `a spline of degree ${degree}`);
  if (points.length <= degree) throw new Refused(entity.at, `a spline of degree ${degree} has ${points.length} control points`);
  if (knots.length !== points.length + degree + 1)
    throw new Refused(entity.at, `a spline has ${knots.length} knots for ${points.length} control points of degree ${degree}`);
  return pen.alongSpline(degree, knots, points);
}

/** Part of an ellipse, given by half its longer axis. @param turned −1 where it is seen from behind */
function ellipse(pen: Pen, entity: Entity, [from, to]: Place, turned: number): Place[] {
  const [ux, uy] = place(entity, 11);
  const ratio = (number(entity, 40) ?? 1) * turned;
  return pen.around(place(entity, 10), [ux, uy], [-uy * ratio, ux * ratio], from, to);
}

/** A circle, or part of it. */
function arc(pen: Pen, entity: Entity, [from, to]: Place, turned = 1): Place[] {
  const radius = number(entity, 40) ?? 0;
  return pen.around(place(entity, 10), [radius, 0], [0, radius * turned], from, to);
}

const angles = (entity: Entity): Place => [radians(number(entity, 50) ?? 0), radians(number(entity, 51) ?? 360)];
const open = (points: readonly Place[]): Outline[] => [{ points, closed: false, filled: false }];
const closed = (points: readonly Place[], filled = false): Outline[] => [{ points, closed: true, filled }];
const FULL: Place = [0, 2 * Math.PI];
/** Whether an entity's own plane is seen from behind. */
const turnedOf = (entity: Entity): number => ((number(entity, 230) ?? 1) < 0 ? -1 : 1);
const cornersAt = (entity: Entity, codes: readonly number[]): Place[] =>
  codes.filter((code) => text(entity, code) !== undefined).map((code) => place(entity, code));
/** The corners of an area of three or four: the last two stand crosswise. */
const area = (_: Pen, entity: Entity): Outline[] => closed(cornersAt(entity, [10, 11, 13, 12]), true);

/** What entities draw by themselves, by their type. */
export const OUTLINES: Readonly<Record<string, (pen: Pen, entity: Entity) => Outline[]>> = {
  LINE: (_, entity) => open([place(entity, 10), place(entity, 11)]),
  CIRCLE: (pen, entity) => closed(arc(pen, entity, FULL)),
  ARC: (pen, entity) => open(arc(pen, entity, angles(entity))),
  ELLIPSE: (pen, entity) =>
    open(ellipse(pen, entity, [number(entity, 41) ?? 0, number(entity, 42) ?? 2 * Math.PI], turnedOf(entity))),
  SPLINE: (pen, entity) => open(spline(pen, entity, 71)),
  LWPOLYLINE: (pen, entity) => {
    const points = chain(pen, cornersOf(entity.groups), isSet(entity, CLOSED));
    return isSet(entity, CLOSED) ? closed(points) : open(points);
  },
  LEADER: (_, entity) => open(places(entity, 10)),
  SOLID: area,
  TRACE: area,
  '3DFACE': (_, entity) => closed(cornersAt(entity, [10, 11, 12, 13])),
  HATCH: (pen, entity) => loopsOf(pen, entity).flatMap((loop) => closed(loop, true)),
};

/** Edges of a hatch by the number of their type: lines, arcs, parts of ellipses, splines. */
const EDGES: Readonly<Record<string, (pen: Pen, edge: Entity) => Place[]>> = {
  '1': (_, edge) => [place(edge, 10), place(edge, 11)],
  '2': (pen, edge) => arc(pen, edge, angles(edge), wayOf(edge)),
  '3': (pen, edge) => ellipse(pen, edge, angles(edge), wayOf(edge)),
  '4': (pen, edge) => spline(pen, edge, 94),
};
/** Angles of an edge that goes round clockwise are counted clockwise. */
const wayOf = (edge: Entity): number => ((number(edge, 73) ?? 1) === 0 ? -1 : 1);

/** The loops of a hatch: polylines, or edges one after the other. */
function loopsOf(pen: Pen, entity: Entity): Place[][] {
  const from = entity.groups.findIndex(({ code }) => code === 91);
  const to = entity.groups.findIndex(({ code }, i) => i > from && code === 75);
  const loops: Place[][] = [];
  let part: Group[] = [];
  let polyline = false;
  const close = (): void => {
    if (!part.length) return;
    loops.push(polyline ? chain(pen, cornersOf(part), true) : edgesOf(pen, part));
    part = [];
  };
  for (const group of entity.groups.slice(from + 1, to < 0 ? undefined : to)) {
    if (group.code === 92) {
      close();
      polyline = (asNumber(group) & 2) === 2;
    }
    part.push(group);
  }
  close();
  return loops;
}

function edgesOf(pen: Pen, groups: readonly Group[]): Place[] {
  const edges: Entity[] = [];
  for (const group of groups) {
    if (group.code === 72) edges.push({ type: group.value.trim(), at: group.at, groups: [] });
    edges.at(-1)?.groups.push(group);
  }
  return edges.flatMap((edge) => {
    const draw = EDGES[edge.type];
    if (!draw) throw new Refused(edge.at, `a hatch has an edge of type ${edge.type.slice(0, 20)}`);
    return draw(pen, edge);
  });
}
