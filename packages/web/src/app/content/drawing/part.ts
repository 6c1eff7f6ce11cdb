import { BoardFace } from '../../master/board/board-face';
import type { PartFace } from '../face';

/** Boards: most masters have one, so that they come with the page. */
export const part = {
  list: 'boards',
  load: () => Promise.resolve(BoardFace),
  overlays: true,
} satisfies PartFace;
