import { CarryLines } from '../../contracts/report';
import type { Finding } from '../../contracts/finding';
import type { Machining } from '../../contracts/machining';
import type { Services } from '../../contracts/services';
import { type OnNeedle, fitOnNeedle, onNeedle } from '../../evaluate/stitches/on-needle';
import type { ResolvedBoard } from '../../evaluate/resolve';
import { type StitchingCarries, stitchesOf } from './features';

function howOf(carries: StitchingCarries): OnNeedle {
  const { settings, step } = stitchesOf(carries);
  // Whole steps in the file; the same numbers as when they are read again.
  return { settings, snap: (value) => (Math.round(value / step) * step * 1e6) / 1e6 };
}

/** All that keeps a board from being sewn, gravest first. */
export const fitOfStitches = (
  resolved: ResolvedBoard,
  carries: StitchingCarries,
  services: Pick<Services, 'fonts'>,
): readonly Finding[] => fitOnNeedle(resolved, howOf(carries), new CarryLines(), services);

/**
 * A board as a needle sews it. Pure.
 * @throws Failure `does-not-fit` while anything is not settled
 */
export const adaptStitches = (
  resolved: ResolvedBoard,
  carries: StitchingCarries,
  lines: CarryLines,
  services: Services,
): Machining => onNeedle(resolved, howOf(carries), lines, services);
