import type { Gesture, GestureRoom } from './gesture';

/** Moves the view. */
export const pan = ({ viewport }: GestureRoom): Gesture => ({
  cursor: 'grabbing',
  moved: ({ x, y }, before) => viewport.pan(x - before.x, y - before.y),
});
