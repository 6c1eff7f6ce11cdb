import { circleOutline } from '../../base/geometry/arcs';
import { toolFor } from '../../base/machines';
import { joinBoxes, widened } from '../../base/geometry/measure';
import { fromPoints } from '../../base/geometry/outline';
import type { Point } from '../../base/geometry/point';
import type { Layer } from '../../document/schema';
import { type Job, boxOfJob } from './jobs';
import { ARM, type PlanSettings } from './settings';

/** What marks are in findings: nobody's object. */
const MARKS = '';

const layer: Layer = { id: '', name: 'Marks', colour: '#000000', visible: true, locked: true, process: 'engrave' };

/**
 * Marks by which a sheet is laid down again as it lay: at three corners of all that is worked, so that it lies in one way only.
 * Crosses that are drawn, or holes that are drilled for pins. Of what is worked from the back they are mirrored with it.
 */
export function marksOf(jobs: readonly Job[], { marks, markAt, mirrored, machine }: PlanSettings): Job[] {
  if (marks === 'none' || !jobs.length) return [];
  const { minX, minY, maxX, maxY } = widened(joinBoxes(jobs.map(boxOfJob)), markAt);
  const places: Point[] = [
    [minX, minY],
    [maxX, minY],
    [mirrored ? maxX : minX, maxY],
  ];
  const process = marks === 'drilled' ? 'drill' : 'engrave';
  const tool = toolFor(machine, process);
  const { thickness, below } = machine.stock;
  const flat = machine.area.depth === 0;
  const deep = marks === 'drilled' ? thickness + below : (tool?.pass ?? 0);
  const common = {
    source: MARKS,
    layer,
    process,
    tool,
    side: 'on the line',
    depth: flat ? 0 : deep,
    tabs: 0,
    rings: [],
    holders: [],
  } as const;
  return places.flatMap(([x, y]): Job[] =>
    marks === 'drilled'
      ? [{ ...common, outlines: [circleOutline([x, y], Math.max(0.05, (tool?.diameter ?? 0) / 2))] }]
      : [
          [
            [x - ARM, y],
            [x + ARM, y],
          ] as const,
          [
            [x, y - ARM],
            [x, y + ARM],
          ] as const,
        ].map((ends): Job => ({ ...common, outlines: [fromPoints(ends, false)] })),
  );
}
