import { type Command, set } from './commands';
import type { Layer, Master } from './schema';
import type { Work } from './schema-parts';
import { findNode, nodeInWords } from './tree';

/** How something is worked, in words: "pocket, 4 mm deep, with tool 2"; empty where nothing is said. */
export function workInWords({ process, tool, side, depth, tabs, stitch }: Work = {}): string {
  return [
    process ?? '',
    side === undefined || side === 'by nesting' ? '' : side,
    depth === undefined ? '' : `${depth} mm deep`,
    tool === undefined ? '' : `with tool ${tool}`,
    tabs ? `with ${tabs} bridges` : '',
    stitchInWords(stitch),
  ]
    .filter(Boolean)
    .join(', ');
}

function stitchInWords({ as, length, density, angle, pull, under }: NonNullable<Work['stitch']> = {}): string {
  return [
    as ? `sewn as ${as}` : '',
    length === undefined ? '' : `stitches of ${length} mm`,
    density === undefined ? '' : `rows ${density} mm apart`,
    angle === undefined ? '' : `at ${angle}°`,
    pull === undefined ? '' : `${pull} mm wider`,
    under === undefined ? '' : `under it ${under}`,
  ]
    .filter(Boolean)
    .join(', ');
}

/** Whether machines work what is on a layer. */
export const isWorked = ({ process }: Pick<Layer, 'process'>): boolean => process !== 'print' && process !== 'note';

/**
 * Says how layers or objects are worked; what becomes undefined is left to the machine and its tools.
 * @param ids of layers, or of objects that are drawn
 */
export function setWork(master: Master, ids: readonly string[], change: Partial<Record<keyof Work, unknown>>): Command {
  const nodes = ids.flatMap((id) => findNode(master, id) ?? []);
  const patches = nodes.map((node) => {
    const before = ('work' in node ? node.work : undefined) as Work | undefined;
    const kept = Object.entries({ ...before, ...change }).filter(([, value]) => value !== undefined);
    return { node, work: kept.length ? (Object.fromEntries(kept) as Work) : undefined };
  });
  const what = nodes.length === 1 ? nodeInWords(nodes[0]!) : `${nodes.length} objects`;
  const words = workInWords(patches[0]?.work);
  return {
    label: `${what}: ${words ? `worked ${words}` : 'worked as usual'}`,
    patches: patches.map(({ node, work }) => set(node.id, 'work', work)),
  };
}
