import type { MachineProfile } from '../../base/machines';
import type { JobSize } from '../../contracts/finding';
import { MachiningBuilder } from '../../contracts/machining';
import { sizeOfJob } from './estimate';

/** Strokes of tools that stay on the stock. */
interface Strokes {
  readonly tools: readonly { readonly number: number; readonly name: string }[];
  readonly count: number;
  readonly tool: Uint32Array;
  readonly speed: Float64Array;
  readonly firstPoint: Uint32Array;
  readonly points: Float64Array;
}

/** How fast tools are taken to go where nobody says, mm/s. */
const USUAL = 200;

/** How long a machine works at strokes. */
export function sizeOfStrokes(
  { tools, count, tool, speed, firstPoint, points }: Strokes,
  machine: MachineProfile | null,
): JobSize {
  const builder = new MachiningBuilder();
  for (let i = 0; i < count; i++) {
    const { number, name } = tools[tool[i]!]!;
    builder.use(number, name);
    const feed = machine?.tools.find((one) => one.number === number)?.feed ?? USUAL * 60;
    for (let p = firstPoint[i]!; p < firstPoint[i + 1]!; p++) {
      const to = { x: points[2 * p]!, y: points[2 * p + 1]!, z: 0 };
      if (p === firstPoint[i]!) builder.go('rapid', to);
      else builder.go('line', to, Number.isNaN(speed[i]!) ? feed : speed[i]! * 60);
    }
  }
  const pace = { acceleration: machine?.acceleration ?? 4000, rapid: machine?.rapid ?? 36_000, changeSeconds: 0 };
  return sizeOfJob(builder.finish(), pace);
}
