import { widened } from '../../../../base/geometry/measure';
import { boxOfJob } from '../../jobs';
import { bedOf, reachOf } from '../../lay-out';
import { type Look, byObject, leaveOut, mm } from '../look';

/** Less than this is rounding, mm. */
const NOTHING = 0.0005;

/** What the tool would have to leave the working area for. */
export const offTheBed: Look = (context) => {
  const { settings } = context;
  const { machine, place } = settings;
  const { width, height } = machine.area;
  const bed = bedOf(machine);
  // Of several it is said how many have room.
  if (settings.count > 1) return [];
  const sides = new Map<string, string[]>();
  const off = context.prepared.jobs.flatMap((job) => {
    const box = widened(boxOfJob(job), reachOf(job, settings));
    const over = {
      left: bed.minX - box.minX,
      right: box.maxX - bed.maxX,
      'lower side': bed.minY - box.minY,
      'upper side': box.maxY - bed.maxY,
    };
    const worst = Object.entries(over).filter(([, by]) => by > NOTHING);
    if (!worst.length) return [];
    const words = sides.get(job.source) ?? sides.set(job.source, []).get(job.source)!;
    for (const [side] of worst) if (!words.includes(side)) words.push(side);
    return [{ job, place: box, amount: Math.max(...worst.map(([, by]) => by)) }];
  });
  return byObject(context, off, (name, amount, _count, { source }) => ({
    kind: 'off the bed',
    words: `“${name}” goes ${mm(amount)} beyond the ${sides.get(source)!.join(' and ')} of the ${machine.name} (${width} × ${height} mm).`,
    mends: [
      ...(place === 'as drawn'
        ? [
            { words: 'Begin at the machine’s corner', options: { place: 'at the origin' } },
            { words: 'Lay it in the middle of the bed', options: { place: 'in the middle' } },
          ]
        : []),
      leaveOut(context, source, name),
    ],
  }));
};
