import type { Box } from '../../base/geometry/measure';
import type { Point } from '../../base/geometry/point';
import { filledAs } from './emit-hatch';
import type { EmittingReader } from './telling';
import type { DxfRecord } from './records';

type Reader = (groups: DxfRecord, reader: EmittingReader, following: () => DxfRecord | undefined) => void;
type Corner = readonly [number, number];

/** Adds an outline of corners. */
function ring({ paths }: EmittingReader, corners: readonly Corner[], closed: boolean): void {
  if (corners.length < 2) return;
  paths.move(...corners[0]!);
  for (const corner of corners.slice(1)) paths.line(...corner);
  paths.end(closed);
}

/** A point as the drawing says that points are shown (DXF reference, PDMODE and PDSIZE): bits for a ring and a square around it. */
export const emitPoint: Reader = (groups, reader) => {
  const { mode, size } = reader.points;
  const [x, y] = [groups.number(10, 0), groups.number(20, 0)];
  const half = size / 2;
  const { paths } = reader;
  paths.clear();
  const line = (ax: number, ay: number, bx: number, by: number): void =>
    ring(
      reader,
      [
        [x + ax, y + ay],
        [x + bx, y + by],
      ],
      false,
    );
  const kind = mode & 7;
  if (kind === 2) {
    line(-size, 0, size, 0);
    line(0, -size, 0, size);
  } else if (kind === 3) {
    line(-size, -size, size, size);
    line(-size, size, size, -size);
  } else if (kind === 4) line(0, 0, 0, half);
  if (mode & 32) paths.circle(x, y, half);
  if (mode & 64)
    ring(
      reader,
      [
        [x - half, y - half],
        [x + half, y - half],
        [x + half, y + half],
        [x - half, y + half],
      ],
      true,
    );
  if (paths.count) reader.shape(groups);
  if (kind !== 0) return;
  // A dot has no size of its own: it is as large as a line is wide.
  paths.clear();
  paths.circle(x, y, reader.points.dot);
  const { layer, look, at } = reader.placed(groups, null);
  reader.sink.path(paths, at, layer, filledAs(look), groups.type, 'point');
};

/**
 * What of a drawing a board shows, in its units.
 * @param size of the board, mm; @param shift of the drawing on it, mm; null while neither is known
 * @param unit mm a unit
 */
export const roomOf = (
  size: readonly [number, number] | undefined,
  shift: readonly [number, number] | undefined,
  unit: number,
): Box | null =>
  size && shift
    ? {
        minX: -shift[0] / unit,
        minY: -shift[1] / unit,
        maxX: (size[0] - shift[0]) / unit,
        maxY: (size[1] - shift[1]) / unit,
      }
    : null;

/** A line without an end, or without both (DXF reference, RAY and XLINE): as far as the board goes (Liang, Barsky 1984). */
export const emitEndless: Reader = (groups, reader) => {
  const { room, paths } = reader;
  if (!room) return;
  const [x, y, dx, dy] = [groups.number(10, 0), groups.number(20, 0), groups.number(11, 0), groups.number(21, 0)];
  let [from, to] = [groups.type === 'RAY' ? 0 : -Infinity, Infinity];
  for (const [at, way, low, high] of [
    [x, dx, room.minX, room.maxX],
    [y, dy, room.minY, room.maxY],
  ] as const) {
    if (Math.abs(way) < 1e-12) {
      if (at < low || at > high) return;
      continue;
    }
    const [one, other] = [(low - at) / way, (high - at) / way];
    from = Math.max(from, Math.min(one, other));
    to = Math.min(to, Math.max(one, other));
  }
  if (!(to > from) || !Number.isFinite(to - from)) return;
  reader.tally.addUnseen('endless line, as far as the board goes');
  paths.clear();
  ring(
    reader,
    [
      [x + from * dx, y + from * dy],
      [x + to * dx, y + to * dy],
    ],
    false,
  );
  reader.shape(groups);
};

/** Lines beside each other (DXF reference, MLINE): each runs at its distance along the mitre of every corner. */
export const emitMline: Reader = (groups, reader) => {
  const corners: { at: number[]; mitre: number[]; along: number[] }[] = [];
  groups.numbers((code, value) => {
    if (code === 11) corners.push({ at: [value, 0], mitre: [0, 1], along: [] });
    const last = corners.at(-1);
    if (!last) return;
    if (code === 21) last.at[1] = value;
    else if (code === 13) last.mitre[0] = value;
    else if (code === 23) last.mitre[1] = value;
    else if (code === 74) last.along.push(Number.NaN);
    else if (code === 41 && Number.isNaN(last.along.at(-1))) last.along[last.along.length - 1] = value;
  });
  const count = Math.min(...corners.map(({ along }) => along.length));
  if (corners.length < 2 || !Number.isFinite(count)) return;
  const closed = (groups.number(71, 0) & 2) !== 0;
  reader.paths.clear();
  for (let k = 0; k < count; k++)
    ring(
      reader,
      corners.map(({ at, mitre, along }) => [at[0]! + mitre[0]! * (along[k] || 0), at[1]! + mitre[1]! * (along[k] || 0)]),
      closed,
    );
  reader.shape(groups);
};

/** The edges of faces, each once, seen from above. @param faces by the numbers of their corners */
function edges(
  groups: DxfRecord,
  reader: EmittingReader,
  corners: readonly Corner[],
  faces: readonly (readonly number[])[],
): void {
  const seen = new Set<string>();
  reader.paths.clear();
  for (const face of faces)
    face.forEach((from, i) => {
      const to = face[(i + 1) % face.length]!;
      const key = from < to ? `${from} ${to}` : `${to} ${from}`;
      const [a, b] = [corners[from], corners[to]];
      if (!a || !b || seen.has(key) || Math.hypot(a[0] - b[0], a[1] - b[1]) < 1e-12) return;
      seen.add(key);
      ring(reader, [a, b], false);
    });
  reader.tally.addUnseen('surface in space, drawn by its edges');
  if (reader.paths.count) reader.shape(groups);
}

/** A net of corners and faces (DXF reference, MESH). */
export const emitMesh: Reader = (groups, reader) => {
  const [corners, lists]: [number[][], number[]] = [[], []];
  let [reading, left] = ['', 0];
  groups.numbers((code, value) => {
    if (code === 92) reading = 'corners';
    else if (code === 93) [reading, left] = ['faces', value];
    else if (code === 94) reading = '';
    else if (reading === 'corners' && code === 10) corners.push([value, 0]);
    else if (reading === 'corners' && code === 20) corners.at(-1)![1] = value;
    else if (reading === 'faces' && code === 90 && left-- > 0) lists.push(value);
  });
  const faces: number[][] = [];
  for (let i = 0; i < lists.length; i += lists[i]! + 1) {
    if (!(lists[i]! > 0)) break;
    faces.push(lists.slice(i + 1, i + 1 + lists[i]!));
  }
  edges(groups, reader, corners as unknown as Corner[], faces);
};

/** A net whose corners stand behind it: a grid (16), or corners and faces by number (64; DXF reference, POLYLINE). */
export function emitNet(groups: DxfRecord, reader: EmittingReader, vertices: readonly DxfRecord[]): void {
  const flags = groups.number(70, 0);
  const placed = vertices.filter((one) => !(flags & 64) || one.number(70, 0) & 64);
  const corners = placed.map((one): Corner => [one.number(10, 0), one.number(20, 0)]);
  if (flags & 64) {
    const faces = vertices
      .filter((one) => (one.number(70, 0) & (128 | 64)) === 128)
      .map((one) => [71, 72, 73, 74].map((code) => Math.abs(one.number(code, 0)) - 1).filter((corner) => corner >= 0));
    return edges(groups, reader, corners, faces);
  }
  const [rows, columns] = [groups.number(71, 0), groups.number(72, 0)];
  // What it says of its size is no size that its corners do not have.
  if (rows * columns !== corners.length) return reader.tally.add('net whose size does not fit its corners');
  const faces: number[][] = [];
  for (let row = 0; row < rows - (flags & 1 ? 0 : 1); row++)
    for (let column = 0; column < columns - (flags & 32 ? 0 : 1); column++) {
      const [below, beside] = [(row + 1) % rows, (column + 1) % columns];
      faces.push([row * columns + column, row * columns + beside, below * columns + beside, below * columns + column]);
    }
  edges(groups, reader, corners, faces);
}

/** What covers what lies under it, in the colour of the ground (DXF reference, WIPEOUT: corners in the square of a picture). */
export const emitWipeout: Reader = (groups, reader) => {
  const point = (code: number): Point => [groups.number(code, 0), groups.number(code + 10, 0)];
  const [[ox, oy], [ux, uy], [vx, vy]] = [point(10), point(11), point(12)];
  const ys = groups.all(24);
  const corners = groups.all(14).map((x, i): Corner => [x + 0.5, 0.5 - ys[i]!]);
  const [one, other] = corners;
  // Two corners are those of a rectangle.
  const all = corners.length === 2 ? [one!, [other![0], one![1]] as Corner, other!, [one![0], other![1]] as Corner] : corners;
  reader.paths.clear();
  ring(
    reader,
    all.map(([x, y]): Corner => [ox + ux * x + vx * y, oy + uy * x + vy * y]),
    true,
  );
  if (!reader.paths.count) return;
  const { layer, look, at } = reader.placed(groups, null);
  reader.sink.path(reader.paths, at, layer, { ...filledAs(look), fill: '#ffffff' }, groups.type, 'cover');
};
