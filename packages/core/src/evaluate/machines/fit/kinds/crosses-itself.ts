import { boxOfJob, crosses, isContour } from '../../jobs';
import { isConvex } from '../../convex';
import { united } from '../../offset';
import { type Look, byObject, leaveOut } from '../look';

/** Outlines to be cut out that cross themselves: it is not said what is inside. */
export const crossesItself: Look = (context) => {
  const all = context.prepared.jobs
    .filter(({ process, rings, tool }) => isContour(process) && rings.length && (tool?.diameter ?? 0) > 0)
    .filter(({ outlines, rings }) => !isConvex(outlines[0]!) && crosses(rings[0]!, united([rings[0]!])))
    .map((job) => ({ job, place: boxOfJob(job), amount: null }));
  return byObject(context, all, (name, _amount, _count, { source }) => ({
    kind: 'crosses itself',
    words: `“${name}” crosses itself: what of it is inside can’t be told.`,
    mends: [{ words: 'Cut around all of it', options: { crossings: 'united' } }, leaveOut(context, source, name)],
  }));
};
