import { FINE, type Deviation, farthestOff } from '../../base/geometry/farthest';
import type { ToolPathCarries } from './features';
import type { ToolPath } from './tool-path';

/** What a machine is told, its lines as exact as can be. */
export const exactToolPath = (carries: ToolPathCarries): ToolPathCarries => {
  const fine = { outcome: 'approximated', words: '', within: FINE } as const;
  return { ...carries, moves: 'kept', arcs: fine, curves: fine };
};

/** Where a tool path is farthest from one whose lines are as exact as can be. */
export function farthestInToolPath(exact: ToolPath, copy: ToolPath): Deviation | null {
  function* strokes({ count, firstPoint, points }: ToolPath): Generator<number[]> {
    for (let i = 0; i < count; i++) yield Array.from(points.subarray(2 * firstPoint[i]!, 2 * firstPoint[i + 1]!));
  }
  return farthestOff([...strokes(exact)], [...strokes(copy)]);
}
