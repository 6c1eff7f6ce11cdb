import { type Mesh, type SolidEngine, digest, packObject, unpackObject } from '@inkwell-twin/core';
import { SOLID_WRITER, solidEngine } from '@inkwell-twin/render';
import type { Database } from '../database/database';

/** Bytes of a solid's triangles above which they are made again each time. */
const LARGEST = 64 * 1024 * 1024;
/** Days after which what nobody asked for is forgotten. */
const DAYS = 30;

/** Solids that were made are kept in the database, so that a new thread, or a server that was started again, makes none twice. */
export function keptSolids(database: Database): SolidEngine {
  return {
    ...solidEngine,
    async mesh(plan, how, resource) {
      const key = digest(`${SOLID_WRITER} ${plan.hash} ${how.chord} ${how.angle} ${how.share ?? 0}`);
      const [known] = await database.rows<{ head: unknown; buffers: Buffer[] }>(
        'update made_solid set used = now() where key = $1 returning head, buffers',
        [key],
      );
      if (known) {
        // Numbers must begin at a multiple of their size.
        const buffers = known.buffers.map((bytes) => Uint8Array.from(bytes));
        return unpackObject<Mesh>({ head: known.head, buffers });
      }
      const mesh = await solidEngine.mesh(plan, how, resource);
      const { head, buffers } = packObject(mesh);
      const bytes = buffers.map((view) => Buffer.from(view.buffer, view.byteOffset, view.byteLength));
      if (bytes.reduce((sum, { length }) => sum + length, 0) <= LARGEST) {
        await database.query('insert into made_solid (key, head, buffers) values ($1, $2, $3) on conflict (key) do nothing', [
          key,
          JSON.stringify(head),
          bytes,
        ]);
        await database.query(`delete from made_solid where used < now() - interval '${DAYS} days'`);
      }
      return mesh;
    },
  };
}
