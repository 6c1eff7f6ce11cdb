import { joinBoxes, widened } from '../../../../base/geometry/measure';
import type { Finding, Mend } from '../../../../contracts/finding';
import { boxOfJob } from '../../jobs';
import { cutBeside } from '../../lay-out';
import { type Look, mm } from '../look';

/** Below this nothing is cut, mm. */
const NOTHING = 1e-6;
/** A distance that is enough, as people would set it: tenths of a millimetre. */
const upwards = (value: number): number => Math.ceil(value * 10 - NOTHING) / 10;

/** Parts, or marks, so near to each other that what is cut away beside one reaches into the next. */
export const tooNear: Look = ({ prepared: { jobs }, laid, marks, settings }) => {
  const { count, spacing, markAt } = settings;
  if (!jobs.length) return [];
  const part = joinBoxes(jobs.map(boxOfJob));
  const cut = joinBoxes(jobs.map((job) => widened(boxOfJob(job), cutBeside(job, settings))));
  const beyond = Math.max(part.minX - cut.minX, part.minY - cut.minY, cut.maxX - part.maxX, cut.maxY - part.maxY);
  const findings: Finding[] = [];
  const add = (words: string, amount: number, mend: Mend): void => {
    findings.push({ kind: 'too near', words, objects: [], place: null, amount, unit: 'mm', mends: [mend] });
  };
  if (count > 1 && laid.count > 1 && beyond > spacing + NOTHING) {
    const enough = upwards(beyond);
    add(
      `The parts lie ${mm(spacing)} apart, and the tool cuts ${mm(beyond)} beyond a part: it would cut into the next one.`,
      beyond - spacing,
      { words: `Lay them ${mm(enough)} apart`, options: { spacing: enough } },
    );
  }
  // A hole is as wide as its drill; a cross is as wide as its line, and one of its arms goes along the part.
  const own = Math.max(0, ...marks.map(({ tool }) => (tool?.diameter ?? 0) / 2));
  if (marks.length && beyond + own > markAt + NOTHING) {
    const enough = upwards(beyond + own);
    add(
      `The marks lie ${mm(markAt)} from the part, and the tool cuts ${mm(beyond)} beyond it: it would cut into them.`,
      beyond + own - markAt,
      { words: `Make them ${mm(enough)} from it`, options: { markAt: enough } },
    );
  }
  return findings;
};
