import { type Box, boxOfPolyline, joinBoxes } from '../../base/geometry/measure';
import type { Placed } from '../../evaluate/matching/align';
import type { Drawing } from '../../contracts/drawing';
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
