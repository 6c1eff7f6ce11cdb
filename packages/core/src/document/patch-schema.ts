import * as z from 'zod';
import { LISTS } from './lists';

const NodeId = z.string().min(1).max(80);
const List = z.enum(LISTS);

/**
 * One change to one place of a master, addressed by node id so that patches of two people can be told apart.
 * `attribute` may name one part of the style, as `style.fill`, or one cell of a row, as `cells.gloss`. `value` undefined takes an optional attribute away.
 */
export const Patch = z.discriminatedUnion('op', [
  z.object({ op: z.literal('set'), node: NodeId, attribute: z.string().max(100), value: z.unknown().optional() }),
  z.object({ op: z.literal('insert'), parent: NodeId, list: List, after: NodeId.nullable(), node: z.unknown() }),
  z.object({ op: z.literal('remove'), parent: NodeId, list: List, node: NodeId }),
]);
export type Patch = z.infer<typeof Patch>;

/** A step may change a cell of every row of a large table. */
const MOST_PATCHES = 250_000;

/** What one act of a person did: words for people, patches forward and back. */
export const Step = z.object({
  label: z.string().min(1).max(300),
  forward: z.array(Patch).min(1).max(MOST_PATCHES),
  inverse: z.array(Patch).max(MOST_PATCHES),
});
export type Step = z.infer<typeof Step>;
