import type { ResolvedEntry } from '@inkwell-twin/core/web';
import { pickable } from '../on-board';
import { isHit } from '../paint';
import { frame } from './frame';
import type { Gesture, GestureRoom } from './gesture';
import { guide } from './guide';
import { move } from './move';
import { pan } from './pan';

/** How near to a line, in pixels, it is taken hold of. */
const NEAR = 4;

/** What lies at a point of the stage, pixels; nothing of a locked layer. */
export function hitAt({ viewport, locked, resolved }: GestureRoom, px: number, py: number): ResolvedEntry | undefined {
  if (!viewport.view()) return undefined;
  const [x, y] = viewport.toBoard(px, py);
  const [fast, near] = [locked(), viewport.mm(NEAR)];
  return resolved().entries.findLast((entry) => !fast.has(entry.layerId) && isHit(entry, x, y, near));
}

/** What is not filled is taken hold of anywhere in its frame once it is selected. */
function isInSelection({ viewport, chosenBox, isHeld }: GestureRoom, px: number, py: number): boolean {
  const box = chosenBox();
  if (!box || isHeld()) return false;
  const [x, y] = viewport.toBoard(px, py);
  return x >= box.minX && x <= box.maxX && y >= box.minY && y <= box.maxY;
}

function guideAt({ viewport, board }: GestureRoom, px: number, py: number): number {
  const [x, y] = viewport.toBoard(px, py);
  return (board().guides ?? []).findIndex(({ axis, at }) => Math.abs(at - (axis === 'x' ? x : y)) < viewport.mm(NEAR));
}

/** What a press begins at a point of the stage, pixels; what it is on is selected. @param more whether the rest stays selected */
export function begun(room: GestureRoom, x: number, y: number, more: boolean): Gesture {
  const hit = hitAt(room, x, y);
  const id = hit && pickable(hit);
  if (hit && id) {
    const selection = room.selection();
    const isIn = selection.includes(id) || selection.includes(hit.source);
    if (more) room.picked(isIn ? selection.filter((one) => one !== id) : [...selection, id]);
    else if (!isIn) room.picked([id]);
  }
  if (room.isFixed()) return pan(room);
  if (id || isInSelection(room, x, y)) return move(room);
  const at = guideAt(room, x, y);
  return at >= 0 ? guide(room, at) : frame(room);
}
