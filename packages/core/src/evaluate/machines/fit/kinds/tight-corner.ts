import { joinBoxes } from '../../../../base/geometry/measure';
import { isContour } from '../../jobs';
import { boxOfRing } from '../../offset';
import { isOpenable, restOf } from '../../rest';
import { type Look, byObject, mm } from '../look';

/** Corners that are tighter than the tool. */
export const tightCorner: Look = (context) => {
  const { corners } = context.settings;
  if (corners === 'rounded') return [];
  const all = context.prepared.jobs.flatMap((job) => {
    if (!isContour(job.process) && job.process !== 'pocket') return [];
    const rest = restOf(job).filter((ring) => corners === 'asked' || !isOpenable(ring, job.tool!.diameter / 2));
    if (!rest.length) return [];
    const place = joinBoxes(rest.map(boxOfRing));
    return rest.map((_, i) => ({ job, place: i ? boxOfRing(rest[i]!) : place, amount: job.tool!.diameter / 2 }));
  });
  return byObject(context, all, (name, amount, count, { tool }) => ({
    kind: 'tight corner',
    words: `${count === 1 ? 'A corner' : `${count} corners`} of “${name}” ${count === 1 ? 'is' : 'are'} tighter than ${tool!.name}, which leaves a radius of ${mm(amount)}.`,
    mends: [
      { words: 'Leave such corners round', options: { corners: 'rounded' } },
      ...(corners === 'asked' ? [{ words: 'Cut into such corners', options: { corners: 'opened' } }] : []),
    ],
  }));
};
