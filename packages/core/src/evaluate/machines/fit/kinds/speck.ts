import { boxOfJob, sizeOf } from '../../jobs';
import { type Look, byObject, leaveOut, mm } from '../look';

/** What is smaller than this is hardly meant, mm. */
const SMALL = 0.3;

/** Outlines too small to be anything. */
export const speck: Look = (context) => {
  const all = context.prepared.jobs.flatMap((job) => {
    const size = Math.max(...job.outlines.map(sizeOf));
    return size < SMALL ? [{ job, place: boxOfJob(job), amount: size }] : [];
  });
  return byObject(context, all, (name, amount, count, { source }) => ({
    kind: 'speck',
    words: `“${name}” has ${count === 1 ? 'a speck' : `${count} specks`}, the largest ${mm(amount)} in size.`,
    mends: [
      { words: `Leave out what is smaller than ${mm(SMALL)}`, options: { specks: SMALL } },
      leaveOut(context, source, name),
    ],
  }));
};
