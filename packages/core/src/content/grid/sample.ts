import type { Sketch } from '../../base/bytes/sketch';
import { type Grid, cellWords } from './grid';

/** Heads, and cells by what they say under which head, whichever row they are in. */
export function sampleGrid({ columns, count }: Grid, into: Sketch): void {
  for (const column of columns) {
    into.add(column.name);
    for (let row = 0; row < count; row++) {
      const words = cellWords(column, row);
      if (words) into.add(column.name, words);
    }
  }
}
