import { boxOfJob } from '../../jobs';
import { type Look, byObject, leaveOut, mm } from '../look';

/** Work that goes deeper than the stock and what may be cut below it. */
export const deeperThanStock: Look = (context) => {
  const { thickness, below } = context.settings.machine.stock;
  const deep = context.prepared.jobs
    .filter(({ depth }) => depth > thickness + below + 1e-9)
    .map((job) => ({ job, place: boxOfJob(job), amount: job.depth - thickness - below }));
  return byObject(context, deep, (name, amount, _count, { source }) => ({
    kind: 'deeper than the stock',
    words: `“${name}” goes ${mm(amount)} deeper than the stock of ${mm(thickness)}${below ? ` and the ${mm(below)} that may be cut below it` : ''}.`,
    mends: [leaveOut(context, source, name)],
  }));
};

/** Work that goes deeper than its tool can cut. */
export const deeperThanTool: Look = (context) => {
  const deep = context.prepared.jobs
    .filter(({ depth, tool }) => tool && depth > tool.flute + 1e-9)
    .map((job) => ({ job, place: boxOfJob(job), amount: job.depth - job.tool!.flute }));
  return byObject(context, deep, (name, amount, _count, { tool, source }) => ({
    kind: 'deeper than the tool',
    words: `“${name}” goes ${mm(amount)} deeper than ${tool!.name} can cut (${mm(tool!.flute)}). Take a longer tool or less depth.`,
    mends: [leaveOut(context, source, name)],
  }));
};
