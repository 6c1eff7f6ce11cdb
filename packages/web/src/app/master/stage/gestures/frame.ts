import type { Box } from '@inkwell-twin/core/web';
import { insideFrame } from '../on-board';
import type { Gesture, GestureRoom, Press } from './gesture';

/** Selects what lies in a frame. */
export function frame(room: GestureRoom): Gesture {
  const boxOf = ({ fromX, fromY, x, y }: Press): Box => {
    const [[ax, ay], [bx, by]] = [room.viewport.toBoard(fromX, fromY), room.viewport.toBoard(x, y)];
    return { minX: Math.min(ax, bx), minY: Math.min(ay, by), maxX: Math.max(ax, bx), maxY: Math.max(ay, by) };
  };
  return {
    cursor: 'crosshair',
    look: (press) => ({ frame: boxOf(press) }),
    ended: (press) => {
      const found = insideFrame(room.resolved(), boxOf(press), room.locked());
      room.picked(press.more ? [...new Set([...room.selection(), ...found])] : found);
    },
  };
}
