import { endOf } from '../../../../base/geometry/outline';
import { distance } from '../../../../base/geometry/point';
import { boxOfJob, isClosed, isContour } from '../../jobs';
import { type Look, byObject, leaveOut, mm } from '../look';

/** Ends that are nearer than this were surely meant to meet, mm. */
const NEAR = 5;

/** Outlines that have no inside, where something is to be cut out or cleared. */
export const openOutline: Look = (context) => {
  const { open, joins } = context.settings;
  const all = context.prepared.jobs.flatMap((job) => {
    const needs = job.process === 'pocket' || (isContour(job.process) && open === 'asked');
    const outline = job.outlines[0]!;
    if (!needs || job.isRest || job.outlines.length > 1 || isClosed(outline)) return [];
    return [{ job, place: boxOfJob(job), amount: distance(outline.start, endOf(outline)) }];
  });
  return byObject(context, all, (name, amount, _count, { process, source }) => {
    const within = Math.ceil((amount + 1e-6) * 100) / 100;
    return {
      kind: 'open outline',
      words: `“${name}” is open: its ends are ${mm(amount)} apart, and there is nothing inside of it to ${process === 'pocket' ? 'clear' : 'cut out'}.`,
      mends: [
        ...(within <= NEAR && within > joins
          ? [{ words: `Join ends up to ${mm(within)} apart`, options: { joins: within } }]
          : []),
        ...(process === 'pocket' ? [] : [{ words: 'Cut along open lines as they are', options: { open: 'as they are' } }]),
        leaveOut(context, source, name),
      ],
    };
  });
};
