import { movesOfStrokes } from '@inkwell-twin/core/web';
import { boardPlace } from '../board-place';
import type { ContentFace } from '../face';
import { showToolPath } from './show';
import { counted } from '../../shared/words';

export const face = {
  kind: 'toolPath',
  show: showToolPath,
  moves: movesOfStrokes,
  equal: (count, tolerance) => `${counted(count, 'outline')} read back; each has its equal, within ${tolerance} mm.`,
  place: boardPlace,
} satisfies ContentFace;
