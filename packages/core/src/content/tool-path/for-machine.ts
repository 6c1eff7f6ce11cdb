import type { Finding } from '../../contracts/finding';
import { CarryLines } from '../../contracts/report';
import type { Services } from '../../contracts/services';
import { type OnMachine, fitOnMachine, onMachine } from '../../evaluate/machines/on-machine';
import type { PlanSettings } from '../../evaluate/machines/settings';
import type { ResolvedBoard } from '../../evaluate/resolve';
import { curveNotes } from '../drawing/adapt';
import { type ToolPathCarries, settingsIn, toolPathFeatures } from './features';
import { type ToolPath, ToolPathBuilder } from './tool-path';

/** How near arcs are to the curves that they stand for before they become short lines, mm. */
const WITHIN = 0.002;

function howOf(carries: ToolPathCarries, settings: PlanSettings, lines: CarryLines): OnMachine {
  const step = typeof carries.moves === 'object' ? carries.moves.step : 0.001;
  return {
    settings,
    within: WITHIN,
    notes: curveNotes(lines, { arcs: 'kept', cubics: 'arcs', within: WITHIN, step: 0 }),
    wordsOf: (feature) => toolPathFeatures[feature].words,
    grid: String(step),
    snap: (value) => Math.round(value / step) * step,
  };
}

/** What keeps a board from being made on its machine; nothing where no machine is named. */
export function fitOfToolPath(
  resolved: ResolvedBoard,
  carries: ToolPathCarries,
  services: Pick<Services, 'fonts'>,
): readonly Finding[] {
  const settings = settingsIn(carries);
  const lines = new CarryLines();
  return settings ? fitOnMachine(resolved, howOf(carries, settings, lines), lines, services) : [];
}

/**
 * A board as a machine without depth works it: strokes in the order of work, as wide beside their outlines as the tool asks.
 * @throws Failure `does-not-fit` while anything is not settled
 */
export function adaptForMachine(
  resolved: ResolvedBoard,
  carries: ToolPathCarries,
  settings: PlanSettings,
  lines: CarryLines,
  services: Pick<Services, 'fonts'>,
): ToolPath {
  const moves = onMachine(resolved, howOf(carries, settings, lines), lines, services);
  const speedOf = typeof carries.speed === 'object' ? carries.speed.of : null;
  const builder = new ToolPathBuilder();
  const numbers = moves.tools.map(({ number }) => builder.tool(number, `Pen ${number}`));
  let begun = -1;
  const end = (): void => {
    if (begun < 0) return;
    const number = moves.tool[begun]!;
    const speed = speedOf ? speedOf(moves.tools[number]!) : NaN;
    builder.stroke(numbers[number]!, speed, moves.sources[moves.source[begun]!]);
    begun = -1;
  };
  for (let i = 0; i < moves.count; i++) {
    const [x, y] = [moves.ends[3 * i]!, moves.ends[3 * i + 1]!];
    if (!moves.motion[i]) end();
    else {
      if (begun < 0) builder.point(moves.ends[3 * i - 3]!, moves.ends[3 * i - 2]!);
      builder.point(x, y);
      begun = i;
    }
  }
  end();
  return builder.finish();
}
