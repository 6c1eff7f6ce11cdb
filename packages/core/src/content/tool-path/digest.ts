import type { Hasher } from '../../base/bytes/hasher';
import type { ToolPath } from './tool-path';

/** What a machine does, to a thousandth of a millimetre: with which tools, how fast, along which points. */
export function digestToolPath({ tools, count, tool, speed, firstPoint, points }: ToolPath, into: Hasher): void {
  const numbers = new Float64Array(3 * count + points.length);
  let at = 0;
  for (let i = 0; i < count; i++) {
    numbers[at++] = tools[tool[i]!]!.number;
    numbers[at++] = Number.isNaN(speed[i]!) ? -1 : Math.round(speed[i]! * 1000);
    numbers[at++] = firstPoint[i + 1]! - firstPoint[i]!;
  }
  for (const value of points) numbers[at++] = Math.round(value * 1000) + 0;
  into.update(numbers);
}
