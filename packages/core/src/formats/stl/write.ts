import type { Mesh } from '../../contracts/mesh';
import type { Options } from '../../contracts/declaration';
import { frameOf, placed } from '../solids/frame';
import { FACET, HEAD } from './declare';

/** A number with the digits of single precision. */
const single = (value: number): string => {
  const words = Number(Math.fround(value).toPrecision(9));
  return Object.is(words, -0) ? '0' : String(words);
};

/** Triangles as STL in the unit and with the axis that options name. */
export function writeStl(mesh: Mesh, options: Options): Uint8Array {
  const corners = placed(mesh.positions, frameOf(options));
  return options['encoding'] === 'text' ? textOf(mesh, corners) : binaryOf(mesh, corners);
}

function normalOf(p: Float64Array, a: number, b: number, c: number): [number, number, number] {
  const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
  const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
  const n: [number, number, number] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  const length = Math.hypot(...n) || 1;
  return [n[0] / length, n[1] / length, n[2] / length];
}

/** A binary file in its own unit: also how a master keeps triangles that were brought in. */
export function binaryOf({ triangles }: Pick<Mesh, 'triangles'>, corners: Float64Array): Uint8Array {
  const count = triangles.length / 3;
  const bytes = new Uint8Array(HEAD + FACET * count);
  // A head that begins with “solid” would be taken for text.
  bytes.set(new TextEncoder().encode('Triangles written by Inkwell Twin'));
  const view = new DataView(bytes.buffer);
  view.setUint32(80, count, true);
  for (let t = 0; t < count; t++) {
    const at = HEAD + FACET * t;
    const [a, b, c] = [3 * triangles[3 * t]!, 3 * triangles[3 * t + 1]!, 3 * triangles[3 * t + 2]!];
    const normal = normalOf(corners, a, b, c);
    for (let k = 0; k < 3; k++) {
      view.setFloat32(at + 4 * k, normal[k]!, true);
      view.setFloat32(at + 12 + 4 * k, corners[a + k]!, true);
      view.setFloat32(at + 24 + 4 * k, corners[b + k]!, true);
      view.setFloat32(at + 36 + 4 * k, corners[c + k]!, true);
    }
  }
  return bytes;
}

function textOf({ triangles }: Mesh, corners: Float64Array): Uint8Array {
  const lines = ['solid part'];
  for (let t = 0; t < triangles.length; t += 3) {
    const at = [0, 1, 2].map((k) => 3 * triangles[t + k]!) as [number, number, number];
    lines.push(
      ` facet normal ${normalOf(corners, ...at)
        .map(single)
        .join(' ')}`,
      '  outer loop',
      ...at.map((i) => `   vertex ${single(corners[i]!)} ${single(corners[i + 1]!)} ${single(corners[i + 2]!)}`),
      '  endloop',
      ' endfacet',
    );
  }
  lines.push('endsolid part', '');
  return new TextEncoder().encode(lines.join('\n'));
}
