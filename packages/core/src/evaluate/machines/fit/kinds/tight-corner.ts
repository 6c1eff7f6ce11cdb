import { boxOfPolyline, joinBoxes } from '../../../../base/geometry/measure';
import { boxOfJob, isContour, type Job } from '../../jobs';
import { areaOfRing, grown, type Ring, unreached, without } from '../../offset';
import { type Look, byObject, mm } from '../look';

/** Less than this share of the tool’s own area is a corner that nobody sees. */
const SEEN = 0.01;

const turned = (ring: Ring): Ring => (areaOfRing(ring) < 0 ? [...ring].reverse() : ring);

/** The area that the tool is to reach everywhere: inside a hole or a pocket, around a part. */
function region({ side, rings, outlines, tool }: Job): readonly Ring[] {
  if (side === 'inside') return outlines.length > 1 ? rings : [turned(rings[0]!)];
  const r = tool!.diameter;
  const { minX, minY, maxX, maxY } = boxOfPolyline(rings[0]!.flat());
  const [a, b, c, d] = [minX - 3 * r, minY - 3 * r, maxX + 3 * r, maxY + 3 * r];
  return without(
    [
      [
        [a, b],
        [c, b],
        [c, d],
        [a, d],
      ],
    ],
    [turned(rings[0]!)],
  );
}

/** Of a job: what its tool can't reach. */
export function restOf(job: Job): Ring[] {
  const radius = (job.tool?.diameter ?? 0) / 2;
  if (radius <= 0 || !job.rings.length || job.side === 'on the line') return [];
  const area = region(job);
  if (!grown(area, -radius).length) return [];
  const rest = unreached(area, radius).filter((ring) => areaOfRing(ring) > SEEN * Math.PI * radius * radius);
  if (job.side === 'inside') return rest;
  // The far corners of what is looked at around a part are nobody’s.
  const box = boxOfJob(job);
  return rest.filter((ring) => {
    const one = boxOfPolyline(ring.flat());
    return (
      one.minX > box.minX - radius && one.maxX < box.maxX + radius && one.minY > box.minY - radius && one.maxY < box.maxY + radius
    );
  });
}

/** Corners that are tighter than the tool. */
export const tightCorner: Look = (context) => {
  if (context.settings.corners !== 'asked') return [];
  const all = context.prepared.jobs.flatMap((job) => {
    if (!isContour(job.process) && job.process !== 'pocket') return [];
    const rest = restOf(job);
    if (!rest.length) return [];
    const place = joinBoxes(rest.map((ring) => boxOfPolyline(ring.flat())));
    return rest.map((_, i) => ({ job, place: i ? boxOfPolyline(rest[i]!.flat()) : place, amount: job.tool!.diameter / 2 }));
  });
  return byObject(context, all, (name, amount, count, { tool }) => ({
    kind: 'tight corner',
    words: `${count === 1 ? 'A corner' : `${count} corners`} of “${name}” ${count === 1 ? 'is' : 'are'} tighter than ${tool!.name}, which leaves a radius of ${mm(amount)}.`,
    mends: [
      { words: 'Leave such corners round', options: { corners: 'rounded' } },
      { words: 'Cut into such corners', options: { corners: 'opened' } },
    ],
  }));
};
