import { overlapsOf } from '../../overlaps';
import { boxOfJob, keyOf, roughlyOf } from '../../jobs';
import { type Look, byObject, leaveOut } from '../look';
import { lengthOfPolyline } from '../../../../base/geometry/measure';
import { flatten } from '../../../../base/geometry/flatten';

/** Lines that would be worked twice by the same process. */
export const doubledLine: Look = (context) => {
  if (context.settings.doubles === 'twice') return [];
  const jobs = context.prepared.jobs.filter(({ process }) => process !== 'pocket');
  // Few lines have as much as their box in common with another: only those are looked at point by point.
  const boxes = jobs.map(({ process, outlines }) => `${process} ${roughlyOf(outlines[0]!)}`);
  const count = new Map<string, number>();
  for (const box of boxes) count.set(box, (count.get(box) ?? 0) + 1);
  const seen = new Set<string>();
  const all = jobs.flatMap((job, i) => {
    if (count.get(boxes[i]!) === 1) return [];
    const key = `${job.process} ${keyOf(job.outlines[0]!)}`;
    if (!seen.has(key)) {
      seen.add(key);
      return [];
    }
    return [{ job, place: boxOfJob(job), amount: lengthOfPolyline(flatten(job.outlines[0]!, 0.05)) }];
  });
  const whole = new Set(all.map(({ job }) => job));
  // Edges that two parts have in common, and lines that lie on others in part.
  for (const [i, { length }] of overlapsOf(context.prepared.jobs)) {
    const job = context.prepared.jobs[i]!;
    if (!whole.has(job)) all.push({ job, place: boxOfJob(job), amount: length });
  }
  return byObject(context, all, (name, amount, _count, { source }) => ({
    kind: 'doubled line',
    words: `“${name}” lies on a line that is worked already, over ${amount.toFixed(1)} mm.`,
    mends: [
      { words: 'Work doubled lines once', options: { doubles: 'once' } },
      { words: 'Work them twice', options: { doubles: 'twice' } },
      leaveOut(context, source, name),
    ],
  }));
};
