import { widened } from '../../../../base/geometry/measure';
import { boxOfJob, isContour } from '../../jobs';
import { type Look, byObject, leaveOut, mm } from '../look';

/** Less than this is rounding, mm. */
const NOTHING = 0.0005;

/** What the tool would have to leave the working area for. */
export const offTheBed: Look = (context) => {
  const { machine, place, blade, frame } = context.settings;
  const { width, height } = machine.area;
  const [left, bottom] = machine.origin === 'middle' ? [-width / 2, -height / 2] : [0, 0];
  const sides = new Map<string, string[]>();
  const off = context.prepared.jobs.flatMap((job) => {
    const tip = job.tool?.kind === 'knife' ? blade : 0;
    const beside = (job.side === 'outside' ? (job.tool?.diameter ?? 0) / 2 : 0) + tip + (isContour(job.process) ? frame : 0);
    const box = widened(boxOfJob(job), beside);
    const over = {
      left: left - box.minX,
      right: box.maxX - left - width,
      'lower side': bottom - box.minY,
      'upper side': box.maxY - bottom - height,
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
