import { type CopyView, type JobHead, type MatchHead, type MatchView, type SolidHead, alignedTo8 } from '@inkwell-twin/api';
import { type CheckResult, type Foreseen, type Packed, declarationOf, distanceInWords, kindById } from '@inkwell-twin/core';

/** Both sides of one part of a copy; null where a side has no such part. */
type PackedSides = Readonly<Record<'master' | 'copy', ({ readonly kind: string } & Packed) | null>>;

/** A full comparison for showing, with both sides of one part of it. */
export interface Match {
  readonly view: MatchView;
  readonly bodies: PackedSides | null;
}

/**
 * A comparison for showing.
 * @param leaf the part of which both sides are shown
 * @param copy null of a file that is not on record
 */
export function matchOf(result: CheckResult, target: string, leaf: number, copy: CopyView | null): Match {
  const { intact, unchanged, matches, outlines, equal, differences, sides, off } = result;
  const named = (side: 'master' | 'copy') => sides![side].leaves.map(({ kind, label }) => ({ kind, label }));
  const packed = (side: 'master' | 'copy') => {
    const one = sides![side].leaves[leaf];
    return one ? { kind: one.kind, ...kindById(one.kind).pack(one.body) } : null;
  };
  return {
    view: {
      copy,
      intact,
      unchanged,
      matches,
      outlines,
      equal,
      apart: distanceInWords(off, sides?.copy.leaves.length ?? 0),
      tolerance: Math.max(0, ...Object.values(declarationOf(target).tolerance)),
      differences: [...differences],
      sides: sides && { master: named('master'), copy: named('copy') },
    },
    bodies: sides && { master: packed('master'), copy: packed('copy') },
  };
}

/** A copy that is not written yet, beside what is in the master itself. */
export function matchOfForeseen({ comparison, sides }: Foreseen, target: string, leaf: number): Match {
  const { outlines, equal, differences } = comparison;
  const matches = differences.length === 0;
  const seen = { intact: true, unchanged: null, matches, outlines, equal, differences, sides, off: null };
  return matchOf({ ...seen, verdict: 'in step', remark: '', proof: '' }, target, leaf, null);
}

/**
 * A comparison as it goes over the wire: the length of the head (4 bytes, little-endian), the head as JSON, and then the
 * numbers of both sides as they lie, each at a multiple of eight bytes.
 */
export function packMatch(view: MatchView, bodies: PackedSides | null): Uint8Array {
  const buffers: ArrayBufferView[] = [];
  const sideOf = (side: 'master' | 'copy'): MatchHead['master'] => {
    const body = bodies?.[side];
    if (!body) return null;
    buffers.push(...body.buffers);
    return { kind: body.kind, head: body.head, lengths: body.buffers.map(({ byteLength }) => byteLength) };
  };
  const head: MatchHead = { view, master: sideOf('master'), copy: sideOf('copy') };
  return laidOut(head, buffers);
}

/** One thing that is looked at by itself, with what is said of it: a solid, or the work of a machine. */
export function packOne<Head extends SolidHead | JobHead>(
  said: Omit<Head, 'master'>,
  kind: string,
  { head, buffers }: Packed,
): Uint8Array {
  const side = { kind, head, lengths: buffers.map(({ byteLength }) => byteLength) };
  return laidOut({ ...said, master: side }, buffers);
}

function laidOut(head: object, buffers: readonly ArrayBufferView[]): Uint8Array {
  const words = new TextEncoder().encode(JSON.stringify(head));
  const start = alignedTo8(4 + words.length);
  const bytes = new Uint8Array(buffers.reduce((sum, { byteLength }) => sum + alignedTo8(byteLength), start));
  new DataView(bytes.buffer).setUint32(0, words.length, true);
  bytes.set(words, 4);
  let at = start;
  for (const { buffer, byteOffset, byteLength } of buffers) {
    bytes.set(new Uint8Array(buffer, byteOffset, byteLength), at);
    at += alignedTo8(byteLength);
  }
  return bytes;
}
