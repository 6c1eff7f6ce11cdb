import { ByteWriter } from '../../base/bytes/byte-writer';
import type { Machining } from '../../contracts/machining';
import { HEAD, STEP } from './declare';

/** A list of stitches, one a line (docs/stitch-list.md). */
export function writeStitches(moves: Machining, mark: string): Uint8Array {
  const out = new ByteWriter();
  out.text(`${HEAD}\n# ${mark}\n`);
  for (const { number, colour } of moves.tools) if (colour) out.text(`thread,${number},${colour}\n`);
  out.text('op,x,y,thread\n');
  const steps = (value: number): number => Math.round(value / STEP);
  for (let i = 0; i < moves.count; i++) {
    const { number } = moves.tools[moves.tool[i]!]!;
    const [x, y, z] = [moves.ends[3 * i]!, moves.ends[3 * i + 1]!, moves.ends[3 * i + 2]!];
    const stays = i > 0 && x === moves.ends[3 * i - 3] && y === moves.ends[3 * i - 2];
    if (moves.motion[i]) out.text(`stitch,${steps(x)},${steps(y)},${number}\n`);
    else if (stays && z > 0) out.text(`cut,,,${number}\n`);
    else out.text(`jump,${steps(x)},${steps(y)},${number}\n`);
  }
  out.text('end,,,\n');
  return out.bytes();
}
