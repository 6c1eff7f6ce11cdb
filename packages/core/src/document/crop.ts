import type { Command } from './commands';
import type { Crop } from './corrections';
import type { PictureItem } from './items/kinds/picture';
import type { Patch } from './patches';

const WHOLE: Crop = { left: 0, bottom: 0, right: 1, top: 1 };
/** What is left of a picture at least, as a share of it. */
const LEAST = 0.01;

export type Edge = keyof Crop;
/** The edges by what they are called, with how much of a picture is cut off there. */
export const EDGES: readonly { readonly edge: Edge; readonly words: string }[] = [
  { edge: 'left', words: 'Left' },
  { edge: 'right', words: 'Right' },
  { edge: 'top', words: 'Top' },
  { edge: 'bottom', words: 'Bottom' },
];
const runsFrom = (edge: Edge): 0 | 1 => (edge === 'right' || edge === 'top' ? 1 : 0);

/** How much of a picture is cut off at an edge, as a share of it. */
export const cutOff = ({ crop = WHOLE }: Pick<PictureItem, 'crop'>, edge: Edge): number => Math.abs(crop[edge] - runsFrom(edge));

/**
 * Cuts pictures off at an edge, or gives back what was cut: what is still seen stays where it is, and the frame follows.
 * @param share of the whole picture that goes, 0 for none
 */
export function cutEdge(pictures: readonly PictureItem[], edge: Edge, share: number): Command {
  const patches = pictures.flatMap((item): Patch[] => {
    const { crop = WHOLE, x, y, width, height } = item;
    const opposite = { left: 'right', right: 'left', top: 'bottom', bottom: 'top' } as const;
    const most = Math.max(0, 1 - cutOff(item, opposite[edge]) - LEAST);
    const taken = Math.min(Math.max(0, share), most);
    const next: Crop = { ...crop, [edge]: Math.abs(runsFrom(edge) - taken) };
    const [across, up] = [width / (crop.right - crop.left), height / (crop.top - crop.bottom)];
    const frame = {
      x: x + (next.left - crop.left) * across,
      y: y + (next.bottom - crop.bottom) * up,
      width: (next.right - next.left) * across,
      height: (next.top - next.bottom) * up,
    };
    const whole = EDGES.every((one) => cutOff({ crop: next }, one.edge) === 0);
    return Object.entries({ ...frame, crop: whole ? undefined : next }).map(([attribute, value]) => ({
      op: 'set',
      node: item.id,
      attribute,
      value,
    }));
  });
  const { words } = EDGES.find((one) => one.edge === edge)!;
  const of = pictures.length > 1 ? ` (${pictures.length} pictures)` : '';
  return { label: `${words} edge: ${Number((100 * share).toFixed(1))} % cut off${of}`, patches };
}
