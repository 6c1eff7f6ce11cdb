import { asCircle } from '../../base/geometry/arcs';
import { besideConvex } from './convex';
import { type Job, boxOfJob } from './jobs';
import { type Ring, areaOfRing, boxOfRing, grown, unreached, without } from './offset';

/** Less than this share of the tool’s own area is a corner that nobody sees. */
const SEEN = 0.01;

const turned = (ring: Ring): Ring => (areaOfRing(ring) < 0 ? [...ring].reverse() : ring);

/** The area that the tool is to reach everywhere: inside a hole or a pocket, around a part. */
function region({ side, rings, outlines, tool }: Job): readonly Ring[] {
  if (side === 'inside') return outlines.length > 1 ? rings : [turned(rings[0]!)];
  const r = tool!.diameter;
  const { minX, minY, maxX, maxY } = boxOfRing(rings[0]!);
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

/** Whether a tool surely reaches everywhere: around what is convex, and inside of what is without a corner. */
function isReached({ outlines, side }: Job, radius: number): boolean {
  if (outlines.length !== 1) return false;
  const [outline] = outlines as [Job['outlines'][0]];
  const circle = asCircle(outline);
  if (circle) return side === 'outside' || circle.radius > radius;
  const beside = besideConvex(outline, side === 'outside' ? radius : -radius);
  return beside !== null && (side === 'outside' || !beside.sharp);
}

/** Of a job: what its tool can't reach. */
export function restOf(job: Job): Ring[] {
  const radius = (job.tool?.diameter ?? 0) / 2;
  if (radius <= 0 || !job.rings.length || job.side === 'on the line') return [];
  if (isReached(job, radius)) return [];
  const area = region(job);
  if (!grown(area, -radius).length) return [];
  const rest = unreached(area, radius).filter((ring) => areaOfRing(ring) > SEEN * Math.PI * radius * radius);
  if (job.side === 'inside') return rest;
  // The far corners of what is looked at around a part are nobody’s.
  const box = boxOfJob(job);
  return rest.filter((ring) => {
    const one = boxOfRing(ring);
    return (
      one.minX > box.minX - radius && one.maxX < box.maxX + radius && one.minY > box.minY - radius && one.maxY < box.maxY + radius
    );
  });
}

/** The largest rest, in radii of the tool, that a cut into the corner opens. */
const LARGEST = 1.3;

/** Whether what is left in a corner can be opened by going straight into it. */
export const isOpenable = (ring: Ring, radius: number): boolean => {
  const { minX, minY, maxX, maxY } = boxOfRing(ring);
  return Math.max(maxX - minX, maxY - minY) <= LARGEST * radius;
};
