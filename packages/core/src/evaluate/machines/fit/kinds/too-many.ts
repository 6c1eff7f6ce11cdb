import { boxOfJob } from '../../jobs';
import { layOut } from '../../lay-out';
import { joinBoxes } from '../../../../base/geometry/measure';
import type { Mend } from '../../../../contracts/finding';
import type { Look } from '../look';

/** More of a part than have room on the bed. */
export const tooMany: Look = ({ laid, prepared, settings }) => {
  const { count, turns, machine, spacing } = settings;
  if (count <= 1 || !prepared.jobs.length || laid.count >= count) return [];
  const { minX, minY, maxX, maxY } = joinBoxes(prepared.jobs.map(boxOfJob));
  const size = [maxX - minX, maxY - minY].map((value) => Number(value.toFixed(1))).join(' × ');
  const turned = turns === 'none' ? layOut(prepared.jobs, { ...settings, turns: 'quarter turns' }).count : 0;
  const mends: Mend[] = [];
  if (laid.count) mends.push({ words: `Make ${laid.count}`, options: { count: laid.count } });
  if (turned > laid.count)
    mends.push({ words: `Turn some: ${turned} have room`, options: { turns: 'quarter turns', count: turned } });
  return [
    {
      kind: 'off the bed',
      words: `Of ${count}, ${laid.count || 'none'} ${laid.count === 1 ? 'has' : 'have'} room on the ${machine.name} (${machine.area.width} × ${machine.area.height} mm): each takes ${size} mm, and they lie ${spacing} mm apart.`,
      objects: [],
      place: null,
      amount: count - laid.count,
      unit: 'parts',
      mends,
    },
  ];
};
