import { type Box, boxOfPolyline, joinBoxes } from '../../geometry/measure';
import type { Placed } from '../../matching/align';
import type { Drawing } from './drawing';
import { polylineOf } from './pieces';
import { boxOfWords } from './texts';

/** Where an entry is found: its first point. */
export function placesOf({ count, text, texts, firstOutline, paths }: Drawing): Placed {
  const at = (entry: number, axis: 0 | 1): number => {
    const words = texts[text[entry]!];
    return words ? words.frame[4 + axis]! : (paths.coords[paths.firstCoord[firstOutline[entry]!]! + axis] ?? 0);
  };
  return { count, x: (i) => at(i, 0), y: (i) => at(i, 1) };
}

/** The box of an entry without the width of its line. @param tolerance how far curves may stand out of it, mm */
export function boxOfEntry(drawing: Drawing, entry: number, tolerance: number): Box {
  const words = drawing.texts[drawing.text[entry]!];
  if (words) return boxOfWords(words);
  const boxes: Box[] = [];
  for (let o = drawing.firstOutline[entry]!; o < drawing.firstOutline[entry + 1]!; o++)
    boxes.push(boxOfPolyline(polylineOf(drawing, o, tolerance)));
  return joinBoxes(boxes);
}

/** Whether nothing of an entry comes on its sheet. @param around so far around the sheet things show, mm */
export function isOffSheet(drawing: Drawing, entry: number, around: number): boolean {
  const { sheet, texts, text, looks, look } = drawing;
  if (!sheet) return false;
  const { minX, minY, maxX, maxY } = boxOfEntry(drawing, entry, 0.1);
  const { stroke, strokeWidth, line } = looks[look[entry]!]!;
  const words = texts[text[entry]!];
  // Half the line, as far as a corner may reach beyond it; letters may be twice as wide as they are taken for.
  const reach = stroke === null ? 0 : (strokeWidth / 2) * Math.max(2, line?.miterLimit ?? 10);
  const more = around + reach + (words ? maxX - minX + maxY - minY : 0);
  return maxX < -more || maxY < -more || minX > sheet.width + more || minY > sheet.height + more;
}
