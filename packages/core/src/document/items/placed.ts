import * as z from 'zod';
import { Id, finite, itemBase, positive } from '../schema-parts';
import { type Field, type ItemKind, measure } from './kind';
import { stretchedFrame } from './shaped';

// Parts of a master that stand on its boards and follow what they show: what each of these has.
export const placedBase = { ...itemBase, x: finite, y: finite };
export const framed = { ...placedBase, width: positive, height: positive };
export const partId = Id;
export const letters = positive.refine((value) => value <= 200, 'must be at most 200');

/** Until it is known what they show they hold nothing. */
export const opensNothing = () => ({ items: [] });

const moved = ({ x, y }: { readonly x: number; readonly y: number }, dx: number, dy: number) => ({ x: x + dx, y: y + dy });
/** What every item has that shows another part; its place is a point. */
export const SHOWING = { lists: [], openContents: opensNothing, placed: moved } as const;
export const PLACE: readonly Field[] = [measure('size', 'Letter size', 0.5), measure('x', 'Across'), measure('y', 'Up')];

/** What every frame has beside: it stretches. */
export const FRAMED = { ...SHOWING, mapShape: stretchedFrame, sized: true } as const;
/** @param least of its sides, mm */
export const frameFields = (least: number): readonly Field[] => [
  ...PLACE,
  measure('width', 'Width', least),
  measure('height', 'Height', least),
];

type Fresh = NonNullable<ItemKind['fresh']>;
/** A new frame in the middle: so many units wide and high, with letters of a size. */
export const freshFrame =
  (attribute: string, [width, height]: readonly [number, number], size: number, more: object = {}): Fresh['make'] =>
  ({ cx, cy, unit, part }) => ({
    [attribute]: part,
    ...more,
    x: cx - (width * unit) / 2,
    y: cy - (height * unit) / 2,
    width: width * unit,
    height: height * unit,
    size,
  });
export { z };
