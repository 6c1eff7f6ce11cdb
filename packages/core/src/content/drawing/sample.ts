import type { Sketch } from '../../base/bytes/sketch';
import type { Drawing } from '../../contracts/drawing';

/** Steps of a place that are told apart, mm: other programs round. */
const STEP = 0.02;

/** Outlines by their shape, wherever they are, and texts by their words. */
export function sampleDrawing({ count, text, texts, firstOutline, paths }: Drawing, into: Sketch): void {
  for (let i = 0; i < count; i++) {
    const words = texts[text[i]!];
    if (words) {
      into.add(words.text);
      continue;
    }
    for (let o = firstOutline[i]!; o < firstOutline[i + 1]!; o++) {
      const [from, to] = [paths.firstCoord[o]!, paths.firstCoord[o + 1]!];
      const shape: number[] = [];
      for (let c = from; c < to; c++) shape.push(Math.round((paths.coords[c]! - paths.coords[from + ((c - from) % 2)]!) / STEP));
      into.add(paths.closed[o]!, ...shape);
    }
  }
}
