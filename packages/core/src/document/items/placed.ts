import * as z from 'zod';
import { Id, finite, itemBase, positive } from '../schema-parts';

// Parts of a master that stand on its boards and follow what they show: what each of these has.
export const placedBase = { ...itemBase, x: finite, y: finite };
export const framed = { ...placedBase, width: positive, height: positive };
export const partId = Id;
export const letters = positive.refine((value) => value <= 200, 'must be at most 200');

/** Until it is known what they show they hold nothing. */
export const opensNothing = () => ({ items: [] });

export const moved = ({ x, y }: { readonly x: number; readonly y: number }, dx: number, dy: number) => ({ x: x + dx, y: y + dy });
export { z };
