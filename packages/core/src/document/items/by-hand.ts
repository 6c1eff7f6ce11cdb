import type { Box } from '../../base/geometry/measure';
import type { Outline } from '../../base/geometry/outline';
import type { Point } from '../../base/geometry/point';

/** How a kind is drawn by hand: as a frame that is pulled up, point by point straight or curved, or put where one presses. */
export type Way = 'frame' | 'line' | 'curve' | 'spot';

/** What was drawn, in board millimetres. */
export interface DrawnShape {
  readonly box?: Box;
  readonly outline?: Outline;
  readonly at?: Point;
}

/** A way to draw an item of a kind by hand. */
export interface HandDrawn {
  /** What it is called: "rectangle". */
  readonly label: string;
  readonly way: Way;
  /** What to do, in words. */
  readonly words: string;
  /** The attributes that a shape gives; null where too little was drawn. */
  readonly from: (shape: DrawnShape) => object | null;
}

export const FRAME = 'Pull up a frame. Enter puts one into the middle.';
export const ENDS = 'press twice, or Enter, to end; press the first point to close.';
export const POINTS = `Press for each point; ${ENDS}`;

/** Thousandths of a millimetre: finer than a hand. */
export const byHand = (value: number): number => Number(value.toFixed(3));

/** A frame as place and size. */
export const pulledUp = ({ box }: DrawnShape): object | null =>
  box
    ? {
        x: byHand(box.minX),
        y: byHand(box.minY),
        width: byHand(box.maxX - box.minX),
        height: byHand(box.maxY - box.minY),
      }
    : null;
/** A line as outlines. */
export const outlined = ({ outline }: DrawnShape): object | null => (outline ? { outlines: [outline] } : null);
