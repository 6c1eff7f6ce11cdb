import { type Paths, outlineAt } from '../../base/geometry/paths';
import { AROUND, NO_EFFECTS } from '../../content/drawing/sink';
import { type Matrix, apply, identity, multiply, rotation, scaling, translation } from '../../base/geometry/matrix';
import type { Segment } from '../../base/geometry/outline';
import type { Point } from '../../base/geometry/point';
import type { DocumentReading } from './context';
import { type Around, childrenOf } from './reading';
import { parseLength } from './lengths';
import type { Properties } from './properties';
import { fitViewBox, viewBoxOf } from './viewport';
import type { XmlElement } from './xml-element';

/** A corner of a path, and which way the path comes and goes there (radians); null where it does not. */
interface Vertex {
  readonly at: Point;
  readonly comes: number | null;
  readonly goes: number | null;
}

const angleOf = (x: number, y: number): number | null => (Math.hypot(x, y) > 1e-12 ? Math.atan2(y, x) : null);

/** Which way a piece leaves its start, and arrives at its end. */
function directions(from: Point, segment: Segment): [goes: number | null, comes: number | null] {
  const { to } = segment;
  if (segment.kind === 'arc') {
    const way = segment.clockwise ? -1 : 1;
    const about = ([x, y]: Point) => angleOf(-way * (y - segment.centre[1]), way * (x - segment.centre[0]));
    return [about(from), about(to)];
  }
  const points = segment.kind === 'cubic' ? [from, segment.c1, segment.c2, to] : [from, to];
  const towards = (start: Point, others: readonly Point[], sign: number): number | null => {
    for (const [x, y] of others) {
      const angle = angleOf(sign * (x - start[0]), sign * (y - start[1]));
      if (angle !== null) return angle;
    }
    return null;
  };
  return [towards(from, points.slice(1), 1), towards(to, points.slice(0, -1).reverse(), -1)];
}

/** The corners of all outlines, in order (SVG 1.1, 11.6.2). */
function verticesOf(paths: Paths): Vertex[] {
  const vertices: { at: Point; comes: number | null; goes: number | null }[] = [];
  for (let o = 0; o < paths.count; o++) {
    const { start, segments, closed } = outlineAt(paths, o);
    const last = segments.at(-1)?.to ?? start;
    const back = closed && Math.hypot(last[0] - start[0], last[1] - start[1]) > 1e-9;
    const all: Segment[] = back ? [...segments, { kind: 'line', to: start }] : [...segments];
    const first = vertices.length;
    vertices.push({ at: start, comes: null, goes: null });
    let from = start;
    for (const segment of all) {
      const [goes, comes] = directions(from, segment);
      vertices.at(-1)!.goes = goes;
      vertices.push({ at: segment.to, comes, goes: null });
      from = segment.to;
    }
    // A closed outline goes on where it ends.
    if (closed && all.length) {
      vertices[first]!.comes = vertices.at(-1)!.comes;
      vertices.at(-1)!.goes = vertices[first]!.goes;
    }
  }
  return vertices;
}

/** Halfway between how a path comes and how it goes. */
function turnAt({ comes, goes }: Vertex): number {
  if (comes === null || goes === null) return comes ?? goes ?? 0;
  return Math.atan2(Math.sin(comes) + Math.sin(goes), Math.cos(comes) + Math.cos(goes));
}

/** From a marker's own units to the user units of the path that it stands on. */
function placeOf({ attributes }: XmlElement, vertex: Vertex, start: boolean, strokeWidth: number): Matrix {
  const [width, height] = [parseLength(attributes['markerWidth'], 3) ?? 3, parseLength(attributes['markerHeight'], 3) ?? 3];
  const view = viewBoxOf(attributes['viewBox']);
  const fit = view ? fitViewBox(view, width, height, attributes['preserveAspectRatio']) : identity;
  const reference = apply(fit, [parseLength(attributes['refX'], width) ?? 0, parseLength(attributes['refY'], height) ?? 0]);
  const orient = attributes['orient'] ?? '0';
  const turn = /^auto/.test(orient)
    ? turnAt(vertex) + (start && orient === 'auto-start-reverse' ? Math.PI : 0)
    : ((Number.parseFloat(orient) || 0) * Math.PI) / 180;
  const size = attributes['markerUnits'] === 'userSpaceOnUse' ? 1 : strokeWidth;
  return [translation(...vertex.at), rotation(turn), scaling(size), translation(-reference[0], -reference[1]), fit].reduce(
    multiply,
  );
}

const NAMES = ['marker-start', 'marker-mid', 'marker-end'] as const;
const PLACED = new Set(['path', 'line', 'polyline', 'polygon']);

/**
 * Draws the markers of a path after it, opened: a master has none.
 * @param paths of the element, in user units
 * @param matrix from those to the sheet's
 */
export function emitMarkers(
  element: XmlElement,
  properties: Properties,
  paths: Paths,
  matrix: Matrix,
  { layer, depth }: Around,
  reading: DocumentReading,
): void {
  if (!PLACED.has(element.name)) return;
  const found = NAMES.map((name) => {
    const id = /^url\(\s*['"]?#([^'")]+)/.exec(properties[name] ?? properties['marker'] ?? '')?.[1]?.trim();
    const target = id === undefined ? undefined : reading.ids.get(id);
    if (id !== undefined && target?.name !== 'marker') reading.tally.add('marker of something missing');
    return target?.name === 'marker' ? target : undefined;
  });
  if (!found.some(Boolean)) return;
  // An arc was taken in as several pieces, whose joints are no corners of the path.
  if (found[1] && /a/i.test(element.attributes['d'] ?? '')) reading.tally.add('markers along arcs');
  const { userWidth, userHeight } = reading.viewport;
  const strokeWidth = parseLength(properties['stroke-width'], Math.hypot(userWidth, userHeight) / Math.SQRT2) ?? 1;
  const vertices = verticesOf(paths);
  reading.sink.group(layer, 'Markers', NO_EFFECTS, () =>
    vertices.forEach((vertex, i) => {
      // A path of one point has a start and an end there.
      const own = [i === 0 ? found[0] : undefined, i > 0 && i < vertices.length - 1 ? found[1] : undefined];
      for (const marker of [...own, i === vertices.length - 1 ? found[2] : undefined]) {
        if (!marker) continue;
        reading.tally.addUnseen('marker, opened');
        const at = multiply(matrix, placeOf(marker, vertex, i === 0, strokeWidth));
        const held: Around = { properties: reading.sheet.propertiesOf(marker, {}), matrix: at, layer: AROUND, depth: depth + 1 };
        reading.defining(marker, () => {
          for (const child of childrenOf(marker)) reading.guarded(child, held);
        });
      }
    }),
  );
}
