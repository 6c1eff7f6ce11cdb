import type { Gesture, GestureRoom, Press } from './gesture';

/** Moves a guide; dragged off the stage it is taken away. @param index of the guide on its board */
export function guide(room: GestureRoom, index: number): Gesture {
  /** Where it comes to lie, mm; null off the stage. */
  const placeOf = ({ x, y }: Press): number | null => {
    const { width, height } = room.size();
    if (x < 0 || y < 0 || x > width || y > height) return null;
    const [bx, by] = room.viewport.toBoard(x, y);
    return Math.round((room.board().guides![index]!.axis === 'x' ? bx : by) * 10) / 10;
  };
  return {
    cursor: 'move',
    look: (press) => ({ guide: { index, at: placeOf(press) } }),
    ended: (press) => room.guided({ index, at: placeOf(press) }),
  };
}
