import * as z from 'zod';
import { MatchView } from './shapes';

const Side = z.object({ kind: z.string(), head: z.unknown(), lengths: z.array(z.number()) }).nullable();
/** What stands before the numbers of a comparison. */
export const MatchHead = z.object({ view: MatchView, master: Side, copy: Side });
export type MatchHead = z.infer<typeof MatchHead>;

export const alignedTo8 = (length: number): number => Math.ceil(length / 8) * 8;

/** One side of a comparison, its numbers still as they came: views into the answer. */
export interface WiredBody {
  readonly kind: string;
  readonly head: unknown;
  readonly buffers: readonly Uint8Array<ArrayBuffer>[];
}

/** Reads a comparison as the server packs it. @throws ZodError where it is something else */
export function readMatch(bytes: ArrayBuffer): { view: MatchView; master: WiredBody | null; copy: WiredBody | null } {
  const { head: stated, sides } = opened(bytes);
  const head = MatchHead.parse(stated);
  const master = sides(head.master);
  return { view: head.view, master, copy: sides(head.copy) };
}

/** What a kernel says of a solid, before the numbers of its triangles. */
export const SolidHead = z.object({
  facts: z.object({ volume: z.number(), area: z.number(), bodies: z.number(), holes: z.number() }).nullable(),
  /** What its parameters are worth, in their order. */
  values: z.array(z.number()),
  master: Side,
});
export type SolidHead = z.infer<typeof SolidHead>;

/** What is said of a file for a machine, before its moves. */
export const JobHead = z.object({
  /** What its format is called, and the standard that it follows. */
  label: z.string(),
  language: z.string(),
  /** The machine that it says it is for, as an option names it; empty where it says nothing. */
  machine: z.string(),
  notUnderstood: z.array(z.object({ kind: z.string(), count: z.number() })),
  /** Whether what is left in it can become a master. */
  comesIn: z.boolean(),
  master: Side,
});
export type JobHead = z.infer<typeof JobHead>;

/** Reads the work of a machine as the server packs it. @throws ZodError where it is something else */
export function readJob(bytes: ArrayBuffer): Omit<JobHead, 'master'> & { body: WiredBody } {
  const { head: stated, sides } = opened(bytes);
  const { master, ...said } = JobHead.parse(stated);
  return { ...said, body: sides(master)! };
}

/** Reads a solid as the server packs it. @throws ZodError where it is something else */
export function readSolid(bytes: ArrayBuffer): Pick<SolidHead, 'facts' | 'values'> & { body: WiredBody } {
  const { head: stated, sides } = opened(bytes);
  const head = SolidHead.parse(stated);
  return { facts: head.facts, values: head.values, body: sides(head.master)! };
}

/** The head of a packed answer, and how each body of it is read, one after the other. */
function opened(bytes: ArrayBuffer): { head: unknown; sides: (one: MatchHead['master']) => WiredBody | null } {
  const length = new DataView(bytes).getUint32(0, true);
  const head: unknown = JSON.parse(new TextDecoder().decode(new Uint8Array(bytes, 4, length)));
  let at = alignedTo8(4 + length);
  const sides = (one: MatchHead['master']): WiredBody | null =>
    one && {
      kind: one.kind,
      head: one.head,
      buffers: one.lengths.map((size) => {
        const view = new Uint8Array(bytes, at, size);
        at += alignedTo8(size);
        return view;
      }),
    };
  return { head, sides };
}
