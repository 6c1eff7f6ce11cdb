import type { NotUnderstood } from '../targets/codec';

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
