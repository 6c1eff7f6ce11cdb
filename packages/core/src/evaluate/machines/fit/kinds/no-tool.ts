import { type Look, byObject, leaveOut } from '../look';
import { boxOfJob } from '../../jobs';

/** Work that asks for a tool which the machine does not have. */
export const noTool: Look = (context) => {
  const { machine } = context.settings;
  const missing = context.prepared.jobs.filter(({ tool }) => !tool).map((job) => ({ job, place: boxOfJob(job), amount: null }));
  return byObject(context, missing, (name, _amount, _count, { layer, source }) => ({
    kind: 'no tool',
    words: `“${name}” asks for a tool that the ${machine.name} does not have. It has ${machine.tools
      .map((tool) => `${tool.number} (${tool.name})`)
      .join(', ')}; layer “${layer.name}” or the object says which.`,
    mends: [leaveOut(context, source, name)],
  }));
};
