import { CarryLines } from '../../contracts/report';
import type { Finding } from '../../contracts/finding';
import type { Machining } from '../../contracts/machining';
import type { Services } from '../../contracts/services';
import { type OnMachine, fitOnMachine, onMachine } from '../../evaluate/machines/on-machine';
import type { ResolvedBoard } from '../../evaluate/resolve';
import { curveNotes } from '../drawing/adapt';
import { type MachiningCarries, machiningFeatures, settingsOf } from './features';

/** How far arcs may lie off the curves that they stand for, where a target says nothing, mm. */
const WITHIN = 0.002;

function howOf(carries: MachiningCarries, lines: CarryLines): OnMachine {
  const { settings, unit, decimals } = settingsOf(carries);
  const { curves } = carries;
  const within = typeof curves === 'object' ? curves.within : WITHIN;
  const grid = 10 ** decimals;
  return {
    settings,
    within,
    notes: curveNotes(lines, { arcs: 'kept', cubics: 'arcs', within, step: 0 }),
    wordsOf: (feature) => machiningFeatures[feature].words,
    grid: `${unit} ${decimals}`,
    snap: (value) => (Math.round((value / unit) * grid) / grid) * unit,
  };
}

/** All that keeps a board from being made on its machine, gravest first. */
export function fitOfBoard(
  resolved: ResolvedBoard,
  carries: MachiningCarries,
  services: Pick<Services, 'fonts'>,
): readonly Finding[] {
  const lines = new CarryLines();
  return fitOnMachine(resolved, howOf(carries, lines), lines, services);
}

/**
 * A board as a machine works it: every way of the tool, every rewrite written down. Pure.
 * @throws Failure `does-not-fit` while anything is not settled
 */
export const adaptMachining = (
  resolved: ResolvedBoard,
  carries: MachiningCarries,
  lines: CarryLines,
  services: Services,
): Machining => onMachine(resolved, howOf(carries, lines), lines, services);
