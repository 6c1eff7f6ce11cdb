import type { Hasher } from '../../base/bytes/hasher';
import type { Mesh } from '../../contracts/mesh';

/** Steps of a corner that are told apart, mm. */
const STEP = 1e-3;

/** Puts what a mesh says into a hash: triangles as they come, corners to a thousandth of a millimetre. */
export function digestMesh({ positions, triangles, colour, exact }: Mesh, into: Hasher): void {
  const rounded = Int32Array.from(positions, (value) => Math.round(value / STEP));
  const said = exact && {
    volume: Number(exact.volume.toPrecision(7)),
    area: Number(exact.area.toPrecision(7)),
    bodies: exact.bodies,
  };
  into.update(JSON.stringify([colour, said, rounded.length, triangles.length]));
  into.update(rounded);
  into.update(triangles);
}
