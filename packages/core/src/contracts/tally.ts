import type { NotUnderstood } from './not-understood';

/** Counts things by name, for the list of what was not understood. */
export class Tally {
  private readonly counts = new Map<string, NotUnderstood>();

  /** Something that changes what one sees. */
  add(kind: string, times = 1): void {
    this.count(kind, true, {}, times);
  }

  /** Something that nobody sees: hidden things, other programs' notes. */
  addUnseen(kind: string): void {
    this.count(kind, false);
  }

  /** Something that counts and that no picture of the file can show. */
  addBeyondSight(kind: string): void {
    this.count(kind, true, { beyondSight: true });
  }

  /** What turned out to be known after all. */
  forget(kind: string): void {
    this.counts.delete(kind);
  }

  private count(kind: string, shows: boolean, more: { readonly beyondSight?: true } = {}, times = 1): void {
    this.counts.set(kind, { kind, count: (this.counts.get(kind)?.count ?? 0) + times, shows, ...more });
  }

  list(): NotUnderstood[] {
    return [...this.counts.values()].sort((a, b) => b.count - a.count || (a.kind < b.kind ? -1 : 1));
  }
}
