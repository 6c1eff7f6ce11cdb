import type { MachineProfile } from '../../base/machines';
import { type Machining, MachiningBuilder } from '../../contracts/machining';

/** Strokes of tools that stay on the stock. */
interface Strokes {
  readonly tools: readonly { readonly number: number; readonly name: string }[];
  readonly count: number;
  readonly tool: Uint32Array;
  readonly speed: Float64Array;
  readonly firstPoint: Uint32Array;
  readonly points: Float64Array;
  readonly source: Int32Array;
  readonly sources: readonly string[];
}

/** How fast tools are taken to go where nobody says, mm/s. */
const USUAL = 200;

/** Strokes as moves: through the air to where each begins, and along it. */
export function movesOfStrokes(
  { tools, count, tool, speed, firstPoint, points, source, sources }: Strokes,
  machine: MachineProfile | null,
): Machining {
  const builder = new MachiningBuilder();
  for (let i = 0; i < count; i++) {
    const { number, name } = tools[tool[i]!]!;
    builder.use(number, name);
    builder.source = sources[source[i]!];
    const feed = machine?.tools.find((one) => one.number === number)?.feed ?? USUAL * 60;
    for (let p = firstPoint[i]!; p < firstPoint[i + 1]!; p++) {
      const to = { x: points[2 * p]!, y: points[2 * p + 1]!, z: 0 };
      if (p === firstPoint[i]!) builder.go('rapid', to);
      else builder.go('line', to, Number.isNaN(speed[i]!) ? feed : speed[i]! * 60);
    }
  }
  return builder.finish();
}
