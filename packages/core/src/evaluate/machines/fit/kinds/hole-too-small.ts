import { asCircle } from '../../../../base/geometry/arcs';
import { distanceToSegment } from '../../../../base/geometry/point';
import { besideConvex } from '../../convex';
import { type Job, boxOfJob, sizeOf } from '../../jobs';
import { type Ring, grown } from '../../offset';
import { type Look, byObject, leaveOut, mm } from '../look';

/** Holes and pockets that the tool does not go into. */
export const holeTooSmall: Look = (context) => {
  const all = context.prepared.jobs
    .filter(({ side, rings, tool }) => side === 'inside' && rings.length && (tool?.diameter ?? 0) > 0)
    .filter((job) => !goesInto(job))
    .map((job) => ({ job, place: boxOfJob(job), amount: job.tool!.diameter }));
  return byObject(context, all, (name, amount, count, { tool, process, source }) => {
    const smaller = context.settings.machine.tools.filter(
      (other) => other.diameter < amount && other.diameter > 0 && other.does.includes(process),
    );
    const other = smaller.length ? ` ${smaller.map((one) => `${one.name} (${one.number})`).join(' or ')} may do it.` : '';
    return {
      kind: 'hole too small',
      words: `${count > 1 ? `${count} holes of “${name}” are` : `“${name}” is`} too small for ${tool!.name}, which is ${mm(amount)} wide.${other}`,
      mends: [leaveOut(context, source, name)],
    };
  });
};

/** Whether a tool goes into a hole or a pocket at all. */
function goesInto({ outlines, rings, tool }: Job): boolean {
  const radius = tool!.diameter / 2;
  const circle = outlines.length === 1 ? asCircle(outlines[0]!) : undefined;
  if (circle) return circle.radius > radius;
  if (outlines.length === 1 && (besideConvex(outlines[0]!, -radius) || hasRoom(rings[0]!, radius))) return true;
  return grown(anticlockwise(rings), -radius).length > 0;
}

/** Whether a tool has room about the middle of a ring: true is sure, and found without offsetting anything. */
function hasRoom(ring: Ring, radius: number): boolean {
  const middle = ring.reduce(([sx, sy], [x, y]) => [sx + x / ring.length, sy + y / ring.length] as const, [0, 0] as const);
  let inside = false;
  for (let i = 0; i < ring.length; i++) {
    const [a, b] = [ring[i]!, ring[(i + 1) % ring.length]!];
    if (distanceToSegment(...middle, ...a, ...b) <= radius) return false;
    if (a[1] > middle[1] !== b[1] > middle[1] && middle[0] < a[0] + ((middle[1] - a[1]) / (b[1] - a[1])) * (b[0] - a[0]))
      inside = !inside;
  }
  return inside;
}

const anticlockwise = (rings: Parameters<typeof grown>[0]) => {
  const [first] = rings;
  if (rings.length > 1 || !first) return rings;
  const area = first.reduce(
    (sum, [x, y], i) => sum + x * first[(i + 1) % first.length]![1] - y * first[(i + 1) % first.length]![0],
    0,
  );
  return [area < 0 ? [...first].reverse() : first];
};

/** How far a hole may differ from its drill, mm. */
const FITS = 0.05;

/** What is to be drilled and is no hole of that drill. */
export const wrongDrill: Look = (context) => {
  const all = context.prepared.jobs.flatMap((job) => {
    if (job.process !== 'drill' || !job.tool) return [];
    const circle = asCircle(job.outlines[0]!, 1e-3);
    const off = circle ? Math.abs(2 * circle.radius - job.tool.diameter) : sizeOf(job.outlines[0]!);
    return circle && off <= FITS ? [] : [{ job, place: boxOfJob(job), amount: off, circle }];
  });
  return byObject(context, all, (name, amount, _count, { outlines, tool, source }) => ({
    kind: 'wrong drill',
    words: asCircle(outlines[0]!, 1e-3)
      ? `“${name}” is to be drilled and differs by ${mm(amount)} from ${tool!.name}, which is ${mm(tool!.diameter)} wide.`
      : `“${name}” is to be drilled and is no circle.`,
    mends: [leaveOut(context, source, name)],
  }));
};
