import { computed, signal } from '@angular/core';
import type { MatchView, readMatch } from '@inkwell-twin/api';
import { type MachineProfile, type Machining, machineOf, unpackObject } from '@inkwell-twin/core/web';
import type { Both, ContentFace, Place } from '../../content/face';
import { faceOf } from '../../content/faces';
import type { Shown } from '../../content/shown';
import type { Way } from './overlay';

type Sides = Pick<ReturnType<typeof readMatch>, 'master' | 'copy'>;

/** Both sides, and the face of their kind; null unless both are there and of one kind that can be shown. */
function looked({ master, copy }: Sides): { face: ContentFace; both: Both } | null {
  const face = master && copy && master.kind === copy.kind ? faceOf(master.kind) : undefined;
  return face && master && copy ? { face, both: { master: unpackObject(master), copy: unpackObject(copy) } } : null;
}

const WAYS = [
  { label: 'Over', value: 'over' },
  { label: 'Beside', value: 'beside' },
  { label: 'Blink', value: 'blink' },
  { label: 'Map', value: 'map' },
];

/** What a machine does has an order. */
const IN_ORDER = { label: 'In order', value: 'order' };

/** A comparison that one looks at: what was found, both sides of one sheet, and how they are shown. */
export class Compared {
  readonly match = signal<MatchView | null>(null);
  /** Both sides of the sheet; null where either has no such sheet, or the file could not be read. */
  readonly looked = signal<ReturnType<typeof looked>>(null);
  /** The same as they are drawn; null for what is not looked at on a board. */
  readonly sides = computed((): Both<Shown> | null => {
    const { face, both } = this.looked() ?? {};
    return face?.show && both ? { master: face.show(both.master as never), copy: face.show(both.copy as never) } : null;
  });
  /** The same as a machine makes it; null for what no machine makes. */
  readonly jobs = computed((): Both<Machining> | null => {
    const { face, both } = this.looked() ?? {};
    const moves = (side: unknown): Machining => face!.moves!(side as never, this.machine());
    return face?.moves && both ? { master: moves(both.master), copy: moves(both.copy) } : null;
  });
  /** The machine that the copy is for; null where nobody says. */
  readonly machine = signal<MachineProfile | null>(null);
  /** Which sheet one looks at. */
  readonly leaf = signal(0);
  readonly chosen = signal<number | null>(null);
  readonly way = signal<Way>('over');
  /** A map of what differs is for pixels. */
  readonly ways = computed(() => [
    ...(this.sides()?.master.pixels ? WAYS : WAYS.slice(0, 3)),
    ...(this.jobs() ? [IN_ORDER] : []),
  ]);
  /** The names of the sheets, where there are several. */
  readonly leaves = computed(() => {
    const all = this.match()?.sides?.master ?? [];
    return all.length > 1 ? all.map(({ label }, i) => ({ value: String(i), label: label || `Sheet ${i + 1}` })) : [];
  });
  /** Differences of the sheet that one looks at, for showing; those of others keep their place in the list. */
  readonly here = computed(() => {
    const leaf = this.leaf();
    return (this.match()?.differences ?? []).map((one) =>
      one.leaf === leaf ? one : { ...one, place: null, masterEntries: [], copyEntries: [] },
    );
  });

  /** @param option what a copy says of its machine; empty or nothing where it is for any */
  isFor(option: unknown): void {
    try {
      this.machine.set(option ? machineOf(String(option)) : null);
    } catch {
      // One that nobody knows any more: the job is shown without its bed.
      this.machine.set(null);
    }
  }

  clear(): void {
    for (const one of [this.match, this.looked, this.chosen]) one.set(null);
    this.leaf.set(0);
  }

  take({ view, ...sides }: ReturnType<typeof readMatch>): void {
    this.match.set(view);
    this.looked.set(looked(sides));
    if ((this.chosen() ?? 0) >= view.differences.length) this.chosen.set(null);
  }

  /** Where in the master a difference is; null where it has no place. */
  placeOf(index: number): Place | null {
    const difference = this.match()?.differences[index];
    const part = difference && this.match()?.sides?.master[difference.leaf];
    const { face, both } = this.looked() ?? {};
    if (!difference || !part || !face || !both) return null;
    const at = face.place(difference, both.master as never, difference.leaf === this.leaf());
    return at === undefined ? null : { part: part.label, at };
  }

  /** What was read back and is equal, in words; empty where this window can't show such a kind. */
  equalInWords(): string {
    const found = this.match();
    // A package has no sheets: the master in it is compared, and all else held against its checksums.
    if (found?.sides?.copy.length === 0)
      return 'The master in it is the master as it is now, and each file beside it is as it was laid in.';
    const face = faceOf(found?.sides?.master[this.leaf()]?.kind ?? '');
    return found && face ? face.equal(found.outlines, found.tolerance) : '';
  }

  /** Goes to a sheet. @returns whether it is another one that both sides can have; one that only the copy has can't be shown */
  turnTo(leaf: number): boolean {
    if (leaf === this.leaf() || leaf >= (this.match()?.sides?.master.length ?? 0)) return false;
    this.leaf.set(leaf);
    return true;
  }
}
