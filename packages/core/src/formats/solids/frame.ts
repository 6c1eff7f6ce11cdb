import { welded } from '../../content/mesh/mesh';
import { type Mesh, NO_MESH } from '../../contracts/mesh';
import { Failure } from '../../base/failure/failure';
import { UNITS, type UnitName, type Up } from '../../base/bytes/units';

/** Largest coordinate that is read, mm: a kilometre. */
const FARTHEST = 1e6;
/** Triangles of one copy, at most. */
export const MOST_TRIANGLES = 20_000_000;
/** Parts that a file may put together, at most, each as often as it stands there: a small file can name them over and over. */
export const MOST_PARTS = 100_000;

export interface FrameOf {
  readonly unit: UnitName;
  readonly up: Up;
}

/** The unit and the axis that options or the words of a mark name; what they do not name is as usual. */
export const frameOf = (options: Readonly<Record<string, unknown>> = {}): FrameOf => ({
  unit: Object.hasOwn(UNITS, String(options['unit'])) ? (options['unit'] as UnitName) : 'mm',
  up: options['up'] === 'y' ? 'y' : 'z',
});

/** Corners in millimetres with z upwards as a file states them. */
export function placed(positions: Float64Array, { unit, up }: FrameOf): Float64Array {
  const scale = 1 / UNITS[unit];
  const out = new Float64Array(positions.length);
  for (let i = 0; i < positions.length; i += 3) {
    out[i] = positions[i]! * scale;
    out[i + 1] = (up === 'y' ? positions[i + 2]! : positions[i + 1]!) * scale;
    out[i + 2] = (up === 'y' ? -positions[i + 1]! : positions[i + 2]!) * scale;
  }
  return out;
}

/**
 * Corners of a file as a mesh in millimetres with z upwards.
 * @param where a corner stands in the file, in words
 * @throws Failure `mesh-damaged` for what is no number or too far away, with its place
 */
export function meshFrom(
  corners: Float64Array | Float32Array,
  triangles: Uint32Array | undefined,
  { unit, up }: FrameOf,
  where: (corner: number) => string,
): Mesh {
  const scale = UNITS[unit];
  const out = new Float64Array(corners.length);
  for (let i = 0; i < corners.length; i += 3) {
    const [x, y, z] = [corners[i]! * scale, corners[i + 1]! * scale, corners[i + 2]! * scale];
    if (!(Math.abs(x) <= FARTHEST && Math.abs(y) <= FARTHEST && Math.abs(z) <= FARTHEST))
      throw new Failure(
        'mesh-damaged',
        `A corner is no place: ${where(i / 3)} says ${corners[i]}, ${corners[i + 1]}, ${corners[i + 2]}. Numbers up to a kilometre are read.`,
      );
    out[i] = x;
    out[i + 1] = up === 'y' ? -z : y;
    out[i + 2] = up === 'y' ? y : z;
  }
  return { ...NO_MESH, ...welded(out, triangles) };
}
