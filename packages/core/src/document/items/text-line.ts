import type { FontName } from '../faces';
import type { Point } from '../../base/geometry/point';

/** How far a text in a font runs, ems, with its kerning and without extra space between letters. */
export type Measure = (font: FontName, text: string) => number;

/** One line of a text, in the item's own axes. */
export interface TextLine {
  readonly text: string;
  readonly at: Point;
  readonly size: number;
  readonly font: FontName;
  readonly align: 'start' | 'middle' | 'end';
  /** Which line of its item it is, and which piece of that line. */
  readonly line: number;
  readonly piece: number;
  /** Space between letters beyond what the font gives, mm; none where it is not there. */
  readonly spacing?: number;
  /** In another colour than the item. */
  readonly colour?: string;
}
