import { ByteWriter } from '../../base/bytes/byte-writer';
import type { Leaf } from '../../contracts/leaf';
import type { Mesh } from '../../contracts/mesh';
import type { Options } from '../../contracts/declaration';
import { frameOf, placed } from '../solids/frame';

/** A name on its line; a stroke at the end of a line would take the next line along. */
const nameOf = (label: string): string => (label.replace(/\s+/g, ' ').trim() || 'part').replace(/\\$/, '\\ ');

/** Solids as OBJ: an object each, with corners of its own. */
export function writeObj(leaves: readonly Leaf[], options: Options, mark: string): Uint8Array {
  const out = new ByteWriter();
  out.text(`# ${mark}\n`);
  let first = 1;
  for (const { label, body } of leaves) {
    const { positions, triangles } = body as Mesh;
    const corners = placed(positions, frameOf(options));
    out.text(`o ${nameOf(label)}\n`);
    for (let i = 0; i < corners.length; i += 3) {
      out.text('v ');
      for (let k = 0; k < 3; k++) {
        out.number(corners[i + k]!, 6);
        out.text(k < 2 ? ' ' : '\n');
      }
    }
    for (let t = 0; t < triangles.length; t += 3)
      out.text(`f ${triangles[t]! + first} ${triangles[t + 1]! + first} ${triangles[t + 2]! + first}\n`);
    first += corners.length / 3;
  }
  return out.bytes();
}
