import type { JobSize } from '../../contracts/finding';
import { sizeOfJob } from '../../evaluate/machines/estimate';
import { USUAL_PACE } from '../../evaluate/machines/run';
import { movesOfStrokes } from '../../evaluate/machines/strokes';
import { type ToolPathCarries, settingsIn } from './features';
import type { ToolPath } from './tool-path';

/** How long a machine works at strokes. */
export function sizeOfToolPath(path: ToolPath, carries: ToolPathCarries): JobSize {
  const machine = settingsIn(carries)?.machine ?? null;
  return sizeOfJob(movesOfStrokes(path, machine), machine ?? USUAL_PACE);
}
