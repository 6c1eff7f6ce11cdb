import type { Difference } from '@inkwell-twin/api';
import type { Box } from '@inkwell-twin/core/web';

/** A place on a board: a box to look at, and the objects that it is about. */
export interface BoardPlace {
  readonly of: 'board';
  readonly box: Box | null;
  readonly items: readonly string[];
}

/** Where a difference is on a board. */
export const boardPlace = ({ place, source }: Difference): BoardPlace | undefined =>
  place ? { of: 'board', box: place, items: source ? [source] : [] } : undefined;
