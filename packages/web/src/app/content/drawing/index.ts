import { boardPlace } from '../board-place';
import type { ContentFace } from '../face';
import { showDrawing } from './show';
import { counted } from '../../shared/words';

export const face = {
  kind: 'drawing',
  show: showDrawing,
  equal: (count, tolerance) => `${counted(count, 'outline')} read back; each has its equal, within ${tolerance} mm.`,
  place: boardPlace,
} satisfies ContentFace;
