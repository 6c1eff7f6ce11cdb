import type { Machining } from '@inkwell-twin/core/web';
import { counted } from '../../shared/words';
import { boardPlace } from '../board-place';
import type { ContentFace } from '../face';
import { showMachining } from '../machining/show';

export const face = {
  kind: 'stitching',
  show: showMachining,
  moves: (moves: Machining) => moves,
  equal: (count, tolerance) => `${counted(count, 'stitch', 'stitches')} read back; each has its equal, within ${tolerance} mm.`,
  place: boardPlace,
} satisfies ContentFace;
