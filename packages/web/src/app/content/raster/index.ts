import { boardPlace } from '../board-place';
import type { ContentFace } from '../face';
import { showRaster } from './show';

export const face = {
  kind: 'raster',
  show: showRaster,
  equal: () => 'All pixels read back; each looks as it should.',
  place: boardPlace,
} satisfies ContentFace;
