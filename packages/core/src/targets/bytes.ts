import { Failure } from '../failure/failure';
import type { NotUnderstood } from './target';

/** Largest text file a reader takes, bytes. */
export const READ_LIMIT = 64 * 1024 * 1024;

/** The bytes as text: UTF-8, and Latin-1 where they are not valid UTF-8 (older interchange files). */
export function decodeText(bytes: Uint8Array): string {
  if (bytes.length > READ_LIMIT)
    throw new Failure('file-too-large', `The file has ${(bytes.length / 1048576).toFixed(0)} MB; readers take up to 64 MB.`);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('latin1').decode(bytes);
  }
}

export const encodeText = (text: string): Uint8Array => new TextEncoder().encode(text);

/** Counts things by name, for the list of what was not understood. */
export class Tally {
  private readonly counts = new Map<string, NotUnderstood>();

  /** Something that changes what one sees. */
  add(kind: string): void {
    this.count(kind, true);
  }

  /** Something that nobody sees: hidden things, other programs' notes. */
  addUnseen(kind: string): void {
    this.count(kind, false);
  }

  private count(kind: string, shows: boolean): void {
    this.counts.set(kind, { kind, count: (this.counts.get(kind)?.count ?? 0) + 1, shows });
  }

  list(): NotUnderstood[] {
    return [...this.counts.values()].sort((a, b) => b.count - a.count || (a.kind < b.kind ? -1 : 1));
  }
}
