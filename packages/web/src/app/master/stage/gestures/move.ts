import type { Gesture, GestureRoom, Press } from './gesture';

/** Moves the selection: in tenths of a millimetre, finer than a hand can place it, or laid to what is near, exactly. */
export function move(room: GestureRoom): Gesture {
  const tenths = (pixels: number): number => Math.round(room.viewport.mm(pixels) * 10) / 10;
  const shiftOf = ({ fromX, fromY, x, y, free }: Press) => {
    const plain = { dx: tenths(x - fromX), dy: tenths(fromY - y) };
    const box = free ? null : room.chosenBox();
    if (!box) {
      room.snapping.end();
      return plain;
    }
    const { minX, minY, maxX, maxY } = box;
    const { dx, dy } = room.snapping.box({
      minX: minX + plain.dx,
      minY: minY + plain.dy,
      maxX: maxX + plain.dx,
      maxY: maxY + plain.dy,
    });
    return { dx: Number((plain.dx + dx).toFixed(6)), dy: Number((plain.dy + dy).toFixed(6)) };
  };
  let shift = { dx: 0, dy: 0 };
  return {
    cursor: 'move',
    moved: (press) => void (shift = shiftOf(press)),
    look: () => ({ shift }),
    ended: (press) => room.moved(shiftOf(press)),
  };
}
