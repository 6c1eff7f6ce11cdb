import * as z from 'zod';
import { NATIVE_VERSION, Master } from '../schema';
import { Patch } from '../patches';

/** First entry of every package, stored uncompressed, so that the first bytes of the file say what it is. */
export const NATIVE_MEDIA_TYPE = 'application/vnd.inkwell-twin.master+zip';
export const NATIVE_EXTENSION = 'inkwell';

/** One update: what it changed, when, by whom and why. */
export const RevisionRecord = z.object({
  rev: z.number().int().positive(),
  time: z.string().max(40),
  author: z.string().max(200),
  message: z.string().max(1000),
  /** What somebody called it, later. */
  name: z.string().min(1).max(120).optional(),
  /** From the revision before to this one; empty in the first. */
  patches: z.array(Patch),
});
export type RevisionRecord = z.infer<typeof RevisionRecord>;

export const Manifest = z.object({
  format: z.literal('inkwell'),
  version: z.number().int().positive(),
  writer: z.string().max(200),
  master: z.string().max(80),
  rev: z.number().int().positive(),
  time: z.string().max(40),
  entries: z.array(z.object({ path: z.string().max(300), size: z.number().int().nonnegative(), sha256: z.string().length(64) })),
});
export type Manifest = z.infer<typeof Manifest>;

export const History = z.object({ first: Master, revisions: z.array(RevisionRecord).min(1) });
export interface History {
  readonly first: Master;
  readonly revisions: readonly RevisionRecord[];
}

/** A master as it stands in a file: with its history and the bytes of its resources. */
export interface NativePackage {
  readonly master: Master;
  readonly rev: number;
  readonly time: string;
  readonly history: History | null;
  /** Bytes by SHA-256. */
  readonly resources: ReadonlyMap<string, Uint8Array>;
  /** The version that the file was of; not there where it comes from no file. */
  readonly native?: number;
}

export { NATIVE_VERSION };
