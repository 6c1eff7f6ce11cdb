import type { PathStore } from '../../base/geometry/paths';
import { bulgeSegment, ellipseOutline, pointOnArc } from '../../base/geometry/arcs';
import { type Matrix, identity, multiply, rotation, scaling, translation } from '../../base/geometry/matrix';
import type { Outline, Segment } from '../../base/geometry/outline';
import type { Point } from '../../base/geometry/point';
import { emitFace, emitSolid } from './faces';
import { emitHatch } from './emit-hatch';
import type { EmittingReader } from './telling';
import type { DxfRecord } from './records';
import { outlineOfSpline } from './spline';
import { throughPoints } from './fit-spline';
import { facing } from './planes';
import { emitEndless, emitMesh, emitMline, emitNet, emitPoint, emitWipeout } from './odd-entities';
import { type WideLine, emitWideLine, evenWidth, widthOnBoard } from './wide-lines';
import { unknownGroups } from './known';
import { type Reader, emitMtext, emitText, point, radians } from './lettering';
import { emitLeader, emitMultileader } from './leaders';

const pairs = (groups: DxfRecord, code: number): Point[] => {
  const ys = groups.all(code + 10);
  return groups.all(code).map((x, i) => [x, ys[i] ?? 0]);
};

/** Corners with bulges as an outline. */
function polyline(into: PathStore, points: readonly number[], bulges: readonly number[], closed: boolean): void {
  const count = points.length / 2;
  if (count < 2) return;
  into.move(points[0]!, points[1]!);
  const last = closed ? count : count - 1;
  for (let i = 0; i < last; i++) {
    const bulge = bulges[i] ?? 0;
    // The straight closing line is left to `closed`, so that the same outline reads the same however it was closed.
    if (i === count - 1 && !bulge) break;
    const k = 2 * ((i + 1) % count);
    const [x, y] = [points[k]!, points[k + 1]!];
    if (bulge) into.segment(bulgeSegment([points[2 * i]!, points[2 * i + 1]!], [x, y], bulge));
    else into.line(x, y);
  }
  into.end(closed);
}

/** Tells of outlines as the shape of an entity. */
function shape(groups: DxfRecord, reader: EmittingReader, outlines: readonly Outline[], at: Matrix | null = null): void {
  reader.paths.clear();
  for (const outline of outlines) reader.paths.add(outline);
  reader.shape(groups, at);
}

/** What a copy of ours never holds: it is drawn where a file becomes a master, and told where one is held against it. */
const kept =
  (emit: Reader): Reader =>
  (groups, reader, following) =>
    reader.keep ? emit(groups, reader, following) : reader.tally.add(`entity ${groups.type}`);

/** A polyline that is wide: a line of that width, or, where the width changes, the area that it covers. */
function wideLine(groups: DxfRecord, reader: EmittingReader, line: WideLine): void {
  const even = evenWidth(line);
  if (!reader.keep) reader.tally.add('polyline width');
  if (reader.keep && even === null) return emitWideLine(groups, reader, line, facing(groups));
  reader.paths.clear();
  polyline(reader.paths, line.points, line.bulges, line.closed);
  if (!reader.keep || !even) return reader.shape(groups, facing(groups));
  const { layer, look, at } = reader.placed(groups, facing(groups));
  reader.sink.path(reader.paths, at, layer, { ...look, strokeWidth: widthOnBoard(even, reader.scale) }, groups.type, 'polyline');
}

const insert: Reader = (groups, reader, following) => {
  const words: DxfRecord[] = [];
  if (groups.number(66, 0) === 1)
    for (let next = following(); next && next.type !== 'SEQEND'; next = following())
      if (next.type !== 'ATTRIB') reader.tally.add(`${next.type} of an insert`);
      else if (next.number(70, 0) & 1) reader.tally.addUnseen('hidden entity');
      else words.push(next);
  if (groups.anyNonZero([30])) reader.tally.add('height above the board');
  if (!reader.keep && groups.anyNonZero([210, 220])) reader.tally.add('entity in a tilted plane');
  const [columns, rows] = [Math.max(1, groups.number(70, 1)), Math.max(1, groups.number(71, 1))];
  if (columns * rows > 10_000) return reader.tally.add('insert of more than 10,000 copies');
  const turn = rotation(radians(groups.number(50, 0)));
  const scale = scaling(groups.number(41, 1), groups.number(42, 1));
  const mirror = facing(groups);
  const places: Matrix[] = [];
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const cell = translation(column * groups.number(44, 0), row * groups.number(45, 0));
      const local = multiply(multiply(translation(...point(groups, 10)), turn), multiply(cell, scale));
      places.push(mirror ? multiply(mirror, local) : local);
    }
  reader.use(groups, groups.text(2)?.trim() ?? '', places);
  for (const attribute of words) emitText(attribute, reader, following);
};

/** How each entity is told; what is not in this list is counted as not understood. */
export const ENTITIES: ReadonlyMap<string, Reader> = new Map(
  Object.entries<Reader>({
    LINE: (groups, reader) => {
      const { paths } = reader;
      paths.clear();
      paths.move(groups.number(10, 0), groups.number(20, 0));
      paths.line(groups.number(11, 0), groups.number(21, 0));
      paths.end(false);
      reader.shape(groups);
    },
    CIRCLE: (groups, reader) => {
      const radius = groups.number(40, 0);
      if (radius <= 0) return;
      reader.paths.clear();
      reader.paths.circle(groups.number(10, 0), groups.number(20, 0), radius);
      reader.shape(groups, facing(groups));
    },
    ARC: (groups, reader) => {
      const centre = point(groups, 10);
      const radius = groups.number(40, 0);
      if (radius <= 0) return;
      const at = (degrees: number): Point => [
        centre[0] + radius * Math.cos(radians(degrees)),
        centre[1] + radius * Math.sin(radians(degrees)),
      ];
      const [start, to] = [at(groups.number(50, 0)), at(groups.number(51, 360))];
      const arc: Segment = { kind: 'arc', to, centre, clockwise: false };
      const whole = Math.abs(groups.number(51, 360) - groups.number(50, 0)) >= 360;
      const segments: Segment[] = whole ? [{ ...arc, to: pointOnArc(start, arc, 0.5) }, arc] : [arc];
      shape(groups, reader, [{ start, segments, closed: whole }], facing(groups));
    },
    ELLIPSE: (groups, reader) => {
      const [cx, cy] = point(groups, 10);
      const [mx, my] = point(groups, 11);
      const ratio = groups.number(40, 1) * (groups.number(230, 1) < 0 ? -1 : 1);
      const start = groups.number(41, 0);
      let sweep = groups.number(42, 2 * Math.PI) - start;
      if (sweep <= 0) sweep += 2 * Math.PI;
      const frame: Matrix = [mx, my, -my * ratio, mx * ratio, cx, cy];
      shape(groups, reader, [ellipseOutline(frame, start, Math.min(sweep, 2 * Math.PI))]);
    },
    LWPOLYLINE: (groups, reader) => {
      const points: number[] = [];
      const bulges: number[] = [];
      groups.numbers((code, value) => {
        if (code === 10) points.push(value, 0);
        else if (code === 20 && points.length) points[points.length - 1] = value;
        else if (code === 42 && points.length) bulges[points.length / 2 - 1] = value;
      });
      if (groups.anyNonZero([40, 41, 43])) {
        const even = groups.number(43, 0);
        const widths: [number, number][] = [];
        groups.numbers((code, value) => {
          if (code === 10) widths.push([even, even]);
          else if (code === 40 && widths.length) widths.at(-1)![0] = value;
          else if (code === 41 && widths.length) widths.at(-1)![1] = value;
        });
        return wideLine(groups, reader, { points, bulges, widths, closed: (groups.number(70, 0) & 1) === 1 });
      }
      reader.paths.clear();
      polyline(reader.paths, points, bulges, (groups.number(70, 0) & 1) === 1);
      reader.shape(groups, facing(groups));
    },
    POLYLINE: (groups, reader, following) => {
      const flags = groups.number(70, 0);
      const points: number[] = [];
      const bulges: number[] = [];
      let wide = groups.anyNonZero([40, 41]);
      const widths: [number, number][] = [];
      const vertices: DxfRecord[] = [];
      const isNet = reader.keep && (flags & (16 | 64)) !== 0;
      for (let next = following(); next && next.type !== 'SEQEND'; next = following()) {
        if (next.type !== 'VERTEX') continue;
        if (isNet) {
          vertices.push(next);
          continue;
        }
        // Frame points of a fitted curve (16) are not on it.
        if (next.number(70, 0) & 16) continue;
        for (const words of unknownGroups(next)) reader.tally.add(words);
        if (next.anyNonZero([30])) reader.tally.add('height above the board');
        wide ||= next.anyNonZero([40, 41]);
        widths.push([next.number(40, groups.number(40, 0)), next.number(41, groups.number(41, 0))]);
        bulges[points.length / 2] = next.number(42, 0);
        points.push(next.number(10, 0), next.number(20, 0));
      }
      if (isNet) return emitNet(groups, reader, vertices);
      if (flags & (16 | 64)) return reader.tally.add('polygon mesh');
      if (wide) return wideLine(groups, reader, { points, bulges, widths, closed: (flags & 1) === 1 });
      reader.paths.clear();
      polyline(reader.paths, points, bulges, (flags & 1) === 1);
      reader.shape(groups, facing(groups));
    },
    SPLINE: (groups, reader) => {
      const points = pairs(groups, 10);
      const spline = { degree: groups.number(71, 3), knots: groups.all(40), points, weights: groups.all(41) };
      const found = outlineOfSpline(spline, (groups.number(70, 0) & 1) === 1);
      if (!found) {
        const ends = [12, 13].map((code) => (groups.has(code) ? point(groups, code) : null));
        const through = points.length ? null : throughPoints(pairs(groups, 11), (groups.number(70, 0) & 1) === 1, ends);
        if (through && reader.keep) return shape(groups, reader, [through]);
        return reader.tally.add(points.length ? 'SPLINE whose knots do not fit its points' : 'SPLINE by fit points only');
      }
      if (!found.exact) reader.tally.add('SPLINE with weights or of a high degree, taken as short lines');
      shape(groups, reader, [found.outline]);
    },
    IMAGE: (groups, reader) => reader.image(groups),
    HATCH: (groups, reader) => emitHatch(groups, reader, facing(groups)),
    SOLID: (groups, reader) => emitSolid(groups, reader, facing(groups)),
    TRACE: (groups, reader) => emitSolid(groups, reader, facing(groups)),
    '3DFACE': emitFace,
    // What it measures is drawn in a block of its own, in place.
    DIMENSION: (groups, reader) => reader.use(groups, groups.text(2)?.trim() ?? '', [identity]),
    LEADER: emitLeader,
    POINT: (groups, reader, following) => {
      // What dimensions were hung on is never plotted.
      if (groups.text(8)?.trim().toUpperCase() === 'DEFPOINTS') reader.tally.addUnseen('point of a dimension');
      else kept(emitPoint)(groups, reader, following);
    },
    // It says how words of an insert begin; those stand at the insert.
    ATTDEF: kept((_groups, reader) => reader.tally.addUnseen('pattern for the words of an insert')),
    RAY: kept(emitEndless),
    XLINE: kept(emitEndless),
    MLINE: kept(emitMline),
    MESH: kept(emitMesh),
    WIPEOUT: kept(emitWipeout),
    TEXT: emitText,
    MTEXT: emitMtext,
    MULTILEADER: kept(emitMultileader),
    MLEADER: kept(emitMultileader),
    INSERT: insert,
  }),
);
