import { counted } from '../../shared/words';
import { boardPlace } from '../board-place';
import type { ContentFace } from '../face';
import { showMachining } from './show';

export const face = {
  kind: 'machining',
  show: showMachining,
  equal: (count, tolerance) => `${counted(count, 'move')} read back; each has its equal, within ${tolerance} mm.`,
  place: boardPlace,
} satisfies ContentFace;
