import type { JobSize } from '../../contracts/finding';
import { sizeOfStrokes } from '../../evaluate/machines/strokes';
import { type ToolPathCarries, settingsIn } from './features';
import type { ToolPath } from './tool-path';

/** How long a machine works at strokes. */
export const sizeOfToolPath = (path: ToolPath, carries: ToolPathCarries): JobSize =>
  sizeOfStrokes(path, settingsIn(carries)?.machine ?? null);
